import type { RequestEffect } from '../core/drive/request-effect';
import { mayTurn } from '../core/drive/request-effect';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { PlaceLink } from '../core/places/place-link';
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

/** A drive on USS: control word and reference are the first two words of the process data. */
export class UssControl implements StationControl {
  readonly station: number;
  readonly index: SheetIndex | null;
  readonly timeoutUs: number;
  readonly #watchdog: WatchdogTime;
  readonly #places: PlaceLink | null;
  /** What was sent last on purpose: every telegram carries a control word and a reference, and those that only ask must not change them. */
  #carried: { readonly control: number; readonly reference: number } | null = null;

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
    const [control, reference] = message.pzd ?? [];
    // A word that the drive does not look at only asks.
    if (control === undefined || (this.index && !wordCounts(this.index, control))) return {};
    return { control, ...(reference === undefined ? {} : { reference }) };
  };

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
    const { control, reference } = this.#carried;
    const built = encodeUss({ ...message, pzd: pzd.map((word, i) => [control, reference][i] ?? word) });
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

  #telegram(word: number, reference: number): Uint8Array | null {
    const rule = this.index?.sheet.uss;
    if (!rule || rule.pzdWords < 1) return null;
    const pzd = [word, reference, ...new Array<number>(rule.pzdWords).fill(0)].slice(0, rule.pzdWords);
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

  /** The second word of an answer's process data is the main actual value. */
  readonly turningIn = ({ reply }: ExchangeResult): boolean | null => {
    const actual = reply ? this.#read(reply)?.pzd?.[1] : undefined;
    return actual === undefined ? null : actual !== 0;
  };

  #read(bytes: Uint8Array): UssMessage | null {
    const { message, faults } = readUss(bytes, this.index?.sheet.uss?.pkwWords);
    return faults.length === 0 ? message : null;
  }
}
