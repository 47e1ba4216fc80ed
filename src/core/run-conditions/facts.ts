import { hexNumber } from '../bytes/hex';
import { meaningOf, valueIn } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import type { Cell } from '../sheet/place';
import { seenIn } from '../drive/seen';
import { turningBy } from '../drive/turning';
import { bitOfRole, roleActive } from '../words/read';
import type { ControlRole, StatusRole } from '../words/spec';
import type { Fact } from './condition';

/** What was seen of the drive and its link: trace, status and settings, never what a stand-in knows of itself. */
export interface Observed {
  readonly index: SheetIndex;
  readonly nowUs: number;
  readonly open: boolean;
  /** Exchanges in a row without a certain answer. */
  readonly misses: number;
  readonly lastAnswerUs: number | null;
  /** Whether this bench repeats the control word for this station now. */
  readonly keptAlive: boolean;
  readonly values: ReadonlyMap<Cell, Fact>;
  /** Answers on the line that belonged to nobody's request here; undefined where nobody counted. */
  readonly foreign?: number;
  /** Settings that were written and wait for a restart, by their names. */
  readonly waiting?: readonly string[];
}

/** After this long a value proves nothing any more: somebody may have turned a setting at the drive. */
const OLD_US = 30_000_000;
const MISSES_UNTIL_LOST = 2;

/** Reads facts by role. What is too old, or seen before the link was lost, is not known. */
export class Facts {
  readonly observed: Observed;

  constructor(observed: Observed) {
    this.observed = observed;
  }

  get linkIsLost(): boolean {
    return !this.observed.open || this.observed.misses >= MISSES_UNTIL_LOST;
  }

  place(role: ParameterRole): PlacedParameter | null {
    return this.observed.index.byRole.get(role) ?? null;
  }

  /** The fact itself, however old; for showing what was. */
  seen(role: ParameterRole): Fact | null {
    const place = this.place(role);
    return (place && this.#factOf(place)) ?? null;
  }

  #factOf(place: PlacedParameter): Fact | undefined {
    return seenIn(place, (cell) => this.observed.values.get(cell));
  }

  /** The word that still counts, or null. */
  word(role: ParameterRole): number | null {
    const place = this.place(role);
    return place && this.wordAt(place);
  }

  /** The word that still counts at any place, or null. */
  wordAt(place: PlacedParameter): number | null {
    const fact = this.#factOf(place);
    return fact && !this.linkIsLost && this.observed.nowUs - fact.atUs <= OLD_US ? fact.word : null;
  }

  ageAt(place: PlacedParameter): number | null {
    const fact = this.#factOf(place);
    return fact ? this.observed.nowUs - fact.atUs : null;
  }

  /** Which way the shaft is asked to turn, by the sign of the reference and the bit that reverses it; null when that is not known. */
  direction(): 'forward' | 'backward' | null {
    const sign = this.sign('speed-reference');
    if (sign === null || sign === 0) return null;
    const reversed = this.control('reverse') === true;
    return sign < 0 === reversed ? 'forward' : 'backward';
  }

  ageUs(role: ParameterRole): number | null {
    const place = this.place(role);
    return place && this.ageAt(place);
  }

  meaning(role: ParameterRole): string {
    const place = this.place(role);
    const fact = this.seen(role);
    return place && fact ? meaningOf(this.observed.index, place, fact.word) : '';
  }

  status(role: StatusRole): boolean | null {
    const word = this.word('status-word');
    const spec = this.observed.index.words?.status;
    return word === null || !spec ? null : roleActive(spec, role, word);
  }

  /** Whether the shaft turns; null when nothing that still counts says it. */
  turning(): boolean | null {
    return turningBy(this.observed.index, (role) => this.word(role) ?? undefined);
  }

  control(role: ControlRole): boolean | null {
    const word = this.word('control-word');
    const spec = this.observed.index.words?.control;
    return word === null || !spec ? null : roleActive(spec, role, word);
  }

  /** Sign of what a register stands for: -1, 0 or 1; null when unknown. */
  sign(role: ParameterRole): number | null {
    const place = this.place(role);
    const word = this.word(role);
    const value = place && word !== null ? valueIn(this.observed.index.sheet, place, word) : null;
    if (!value) return word === null ? null : Math.sign(word);
    return value.num === 0n ? 0 : value.num > 0n ? 1 : -1;
  }

  /** `2.01 command source` */
  source(role: ParameterRole): string {
    const place = this.place(role);
    return place ? `${place.number} ${place.name}` : '';
  }

  /** `6.02 status word, bit 4 fault` */
  statusSource(role: StatusRole): string {
    const bit = this.observed.index.words && bitOfRole(this.observed.index.words.status, role);
    return bit ? `${this.source('status-word')}, bit ${bit.bit} ${bit.name}` : this.source('status-word');
  }

  wordText(role: ParameterRole): string {
    const fact = this.seen(role);
    return fact ? hexNumber(fact.word) : '';
  }
}
