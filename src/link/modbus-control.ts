import type { ModbusFraming } from '../core/modbus/framing';
import { learnedFrom, readBy } from '../core/modbus/touched';
import type { PlaceLink, Told } from '../core/places/place-link';
import { cellsTold, registerLink } from '../core/places/register-link';
import { patternIn } from '../core/drive/seen';
import { effectOf, mayTurn, type RequestEffect } from '../core/drive/request-effect';
import type { PlacedParameter, SheetIndex } from '../core/sheet/index-sheet';
import type { ParameterRole } from '../core/sheet/parameter-section';
import type { ExchangeResult } from './request';
import { timeoutOf, type StationControl } from './station-control';
import { WatchdogTime } from './watchdog-time';
import { turningBy, turningRole } from '../core/drive/turning';

/** A drive behind Modbus registers. */
export class ModbusControl implements StationControl {
  readonly station: number;
  readonly index: SheetIndex | null;
  readonly timeoutUs: number;
  readonly #framing: ModbusFraming;
  readonly #watchdog: WatchdogTime;
  readonly #places: PlaceLink | null;

  constructor(station: number, index: SheetIndex | null, framing: ModbusFraming) {
    this.#framing = framing;
    this.station = station;
    this.index = index;
    this.timeoutUs = timeoutOf(index);
    this.#watchdog = new WatchdogTime(index);
    this.#places = index && registerLink(index, framing);
  }

  effectOf(bytes: Uint8Array): RequestEffect {
    const { message, faults } = this.#framing.read(bytes, 'request');
    return this.index && message && faults.length === 0 ? effectOf(message, this.index) : {};
  }

  mayTurn(act: RequestEffect): boolean {
    return this.index !== null && mayTurn(act, this.index);
  }

  learn(result: ExchangeResult): void {
    this.#watchdog.learn(this.#toldBy(result));
  }

  keepAliveEveryUs(): number | null {
    return this.#watchdog.everyUs();
  }

  noteSent(): void {}

  noteRunEnded(): void {}

  asSent(bytes: Uint8Array): Uint8Array {
    return bytes;
  }

  holdRead(): Uint8Array | null {
    return this.#readOf('control-word');
  }

  holds(result: ExchangeResult, word: number): boolean | null {
    // An echo of the write says what was sent, not what is held.
    const held = result.asked && readBy(result.asked) ? this.#toldOf('control-word', result) : undefined;
    return held === undefined ? null : held === word;
  }

  statusWordRead(): Uint8Array | null {
    return this.#readOf('status-word');
  }

  controlWrite(word: number): Uint8Array | null {
    const place = this.#place('control-word');
    return (place && this.#places?.write(this.station, place, word, () => undefined)) ?? null;
  }

  /** The frames that Stop sends, in order; empty where no sheet says how this drive is stopped. */
  stopFrames(): readonly Uint8Array[] {
    return (this.index?.sheet.commands?.stop.words ?? [])
      .map((word) => this.controlWrite(word))
      .filter((frame) => frame !== null);
  }

  /** How long the shaft may take to stand after the last stop word, in microseconds. */
  standstillWithinUs(): number {
    return (this.index?.sheet.commands?.stop.standstillWithinMs ?? 0) * 1000;
  }

  statusRead(): Uint8Array | null {
    return this.index && this.#readOf(turningRole(this.index));
  }

  /** Whether a reply to `statusRead` says that the shaft turns; null when it does not tell. */
  turningIn(result: ExchangeResult): boolean | null {
    const { index } = this;
    if (!index) return null;
    const word = this.#toldOf(turningRole(index), result);
    return word === undefined ? null : turningBy(index, (role) => (role === turningRole(index) ? word : undefined));
  }

  #toldBy({ asked, said }: ExchangeResult): Told {
    const told = asked && said ? cellsTold(learnedFrom(asked, said)) : [];
    return this.#places?.known(told) ?? told;
  }

  #toldOf(role: ParameterRole, result: ExchangeResult): number | undefined {
    const place = this.#place(role);
    const told = new Map(this.#toldBy(result));
    return place ? patternIn(place, (cell) => told.get(cell)) : undefined;
  }

  #readOf(role: ParameterRole): Uint8Array | null {
    const place = this.#place(role);
    return (place && this.#places?.read(this.station, [place])[0]) ?? null;
  }

  #place(role: ParameterRole): PlacedParameter | null {
    return this.index?.byRole.get(role) ?? null;
  }
}
