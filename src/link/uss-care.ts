import type { DriveAct } from '../core/sheet/acts';
import { mayTurn } from '../core/sheet/acts';
import type { SheetIndex } from '../core/sheet/index-sheet';
import { encodeUss } from '../core/uss/encode';
import type { UssMessage } from '../core/uss/message';
import { readUss } from '../core/uss/telegram';
import type { ExchangeResult } from './request';
import { timeoutOf, type StationCare } from './station-care';

/** A drive on USS: control word and reference are the first two words of the process data. */
export class UssCare implements StationCare {
  readonly station: number;
  readonly index: SheetIndex | null;
  readonly timeoutUs: number;

  constructor(station: number, index: SheetIndex | null) {
    this.station = station;
    this.index = index;
    this.timeoutUs = timeoutOf(index);
  }

  readonly actOf = (bytes: Uint8Array): DriveAct => {
    const message = this.#read(bytes);
    if (!message || message.mirror || message.special) return {};
    const [control, reference] = message.pzd ?? [];
    return { ...(control === undefined ? {} : { control }), ...(reference ? { reference } : {}) };
  };

  readonly mayTurn = (act: DriveAct): boolean => this.index !== null && mayTurn(act, this.index);

  readonly learn = (): void => undefined;

  /** The bench polls USS drives; it does not repeat a control word for them yet. */
  readonly keepAliveEveryUs = (): null => null;

  readonly controlWrite = (word: number): Uint8Array | null => {
    const rule = this.index?.sheet.uss;
    if (!rule || rule.pzdWords < 1) return null;
    const pzd = [word, ...new Array<number>(rule.pzdWords - 1).fill(0)];
    const built = encodeUss({ address: this.station, pkwWords: rule.pkwWords, pzd });
    return built.ok ? built.value : null;
  };

  readonly stopFrames = (): readonly Uint8Array[] =>
    (this.index?.sheet.commands?.stop.words ?? [])
      .map((word) => this.controlWrite(word))
      .filter((frame) => frame !== null);

  readonly standstillWithinUs = (): number => (this.index?.sheet.commands?.stop.standstillWithinMs ?? 0) * 1000;

  /** Every telegram carries a control word: the last of the stop words asks for the status without setting anything in motion. */
  readonly statusRead = (): Uint8Array | null => {
    const words = this.index?.sheet.commands?.stop.words ?? [];
    const word = words[words.length - 1];
    return word === undefined ? null : this.controlWrite(word);
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
