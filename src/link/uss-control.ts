import type { RequestEffect } from '../core/drive/request-effect';
import { mayTurn } from '../core/drive/request-effect';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { PlaceLink } from '../core/places/place-link';
import { inProcessData, processPlace, withProcessData, type ProcessWay } from '../core/places/process-data';
import { ussLink, wordCounts } from '../core/places/uss-link';
import { statesOf } from '../core/profile/profile';
import { encodeUss } from '../core/uss/encode';
import type { UssMessage } from '../core/uss/message';
import { readUss } from '../core/uss/telegram';
import type { ExchangeResult } from './request';
import { timeoutOf, type StationControl } from './station-control';
import { WatchdogTime } from './watchdog-time';

/** PROFIdrive's states in which a drive that was set going does not work any more. */
const OUT_OF_OPERATION: ReadonlySet<string> = new Set(['S1', 'S2']);

/** A control word and the reference that goes with it, as the drive counts it. */
interface Carried {
  readonly control: number;
  readonly reference: number;
}

/** A drive on USS: control word and reference are where its sheet has them in the process data; without one, its first two words. */
export class UssControl implements StationControl {
  readonly station: number;
  readonly index: SheetIndex | null;
  readonly timeoutUs: number;
  readonly #watchdog: WatchdogTime;
  readonly #places: PlaceLink | null;
  /** What was sent last on purpose: every telegram carries a control word and a reference, and those that only ask must not change them. */
  #carried: Carried | null = null;

  constructor(station: number, index: SheetIndex | null) {
    this.station = station;
    this.index = index;
    this.timeoutUs = timeoutOf(index);
    this.#watchdog = new WatchdogTime(index);
    this.#places = index && ussLink(index);
  }

  readonly effectOf = (bytes: Uint8Array): RequestEffect => {
    const message = this.#read(bytes);
    if (!message || message.mirror || message.special) return {};
    const { pzd = [] } = message;
    const [control] = pzd;
    // A word that the drive does not look at only asks.
    if (control === undefined || (this.index && !wordCounts(this.index, control))) return {};
    const reference = this.#seen('speed-reference', 'out', pzd);
    return { control, ...(reference === undefined ? {} : { reference }) };
  };

  /** A value as the process data carry it. */
  #seen(role: 'speed-reference' | 'actual-speed', direction: ProcessWay, pzd: readonly number[]): number | undefined {
    const place = this.index?.byRole.get(role);
    return place && processPlace(place, direction) ? inProcessData(place, direction, pzd) : pzd[1];
  }

  readonly mayTurn = (act: RequestEffect): boolean => this.index !== null && mayTurn(act, this.index);

  readonly noteSent = ({ control, reference }: RequestEffect): void => {
    if (control !== undefined) this.#carried = { control, reference: reference ?? this.#carried?.reference ?? 0 };
  };

  readonly noteRunEnded = (): void => {
    const control = this.#lastStopWord();
    this.#carried = control === undefined ? null : { control, reference: 0 };
  };

  readonly asSent = (bytes: Uint8Array): Uint8Array => {
    const message = this.#read(bytes);
    const { pzd } = message ?? {};
    if (!message || message.mirror || message.special || !pzd || !this.#carried || !this.index) return bytes;
    const onlyAsks = (message.ak ?? 0) !== 0 || !wordCounts(this.index, pzd[0] ?? 0);
    if (!onlyAsks) return bytes;
    const built = encodeUss({ ...message, pzd: this.#carrying(this.index, pzd, this.#carried) });
    return built.ok ? built.value : bytes;
  };

  /** Every telegram gives a control word, so there is no asking without it; its answer tells whether the drive still operates. */
  readonly holdRead = (): null => null;

  readonly holds = ({ reply }: ExchangeResult): boolean | null => {
    const status = reply ? this.#read(reply)?.pzd?.[0] : undefined;
    const profile = this.index?.profile;
    if (status === undefined || profile?.id !== 'profidrive') return null;
    return statesOf(profile, status).some(({ id }) => !OUT_OF_OPERATION.has(id));
  };

  readonly statusWordRead = (): null => null;

  #lastStopWord(): number | undefined {
    const words = this.index?.sheet.commands?.stop.words ?? [];
    return words[words.length - 1];
  }

  readonly learn = ({ request, reply }: ExchangeResult): void => {
    if (reply && this.#places) this.#watchdog.learn(this.#places.learned(request.bytes, reply));
  };

  readonly keepAliveEveryUs = (): number | null => this.#watchdog.everyUs();

  readonly controlWrite = (word: number): Uint8Array | null => this.#telegram(word, this.#carried?.reference ?? 0);

  #carrying(index: SheetIndex, pzd: readonly number[], { control, reference }: Carried): number[] {
    const place = index.byRole.get('speed-reference');
    if (!place || !processPlace(place, 'out')) return [control, reference, ...pzd.slice(2)].slice(0, pzd.length);
    const words = withProcessData(index, pzd, (role) => (role === 'speed-reference' ? reference : undefined));
    return [control, ...words.slice(1)];
  }

  #telegram(word: number, reference: number): Uint8Array | null {
    const rule = this.index?.sheet.uss;
    if (!this.index || !rule || rule.pzdWords < 1) return null;
    const none = new Array<number>(rule.pzdWords).fill(0);
    const pzd = this.#carrying(this.index, none, { control: word, reference });
    const built = encodeUss({ address: this.station, pkwWords: rule.pkwWords, pzd });
    return built.ok ? built.value : null;
  }

  /** The reference goes to 0 with the stop word, but no stop rests on that. */
  readonly stopFrames = (): readonly Uint8Array[] =>
    (this.index?.sheet.commands?.stop.words ?? [])
      .map((word) => this.#telegram(word, 0))
      .filter((frame) => frame !== null);

  readonly standstillWithinUs = (): number => (this.index?.sheet.commands?.stop.standstillWithinMs ?? 0) * 1000;

  /** Every telegram carries a control word: the last of the stop words asks for the status without setting anything in motion. */
  readonly statusRead = (): Uint8Array | null => {
    const word = this.#lastStopWord();
    return word === undefined ? null : this.#telegram(word, 0);
  };

  readonly turningIn = ({ reply }: ExchangeResult): boolean | null => {
    const actual = reply ? this.#seen('actual-speed', 'in', this.#read(reply)?.pzd ?? []) : undefined;
    return actual === undefined ? null : actual !== 0;
  };

  #read(bytes: Uint8Array): UssMessage | null {
    const { message, faults } = readUss(bytes, this.index?.sheet.uss?.pkwWords);
    return faults.length === 0 ? message : null;
  }
}
