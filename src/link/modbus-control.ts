import type { ModbusFraming } from '../core/modbus/framing';
import type { ModbusMessage } from '../core/modbus/message';
import { learnedRegisters } from '../core/modbus/touched';
import { effectOf, mayTurn, type RequestEffect } from '../core/sheet/request-effect';
import type { PlacedParameter, SheetIndex } from '../core/sheet/index-sheet';
import type { ParameterRole } from '../core/sheet/parameter-section';
import type { ExchangeResult } from './request';
import { timeoutOf, type StationControl } from './station-control';
import { WatchdogTime } from './watchdog-time';
import { turningBy, turningRole } from '../core/sheet/turning';

/** A drive behind Modbus registers. */
export class ModbusControl implements StationControl {
  readonly station: number;
  readonly index: SheetIndex | null;
  readonly timeoutUs: number;
  readonly #framing: ModbusFraming;
  readonly #watchdog: WatchdogTime;

  constructor(station: number, index: SheetIndex | null, framing: ModbusFraming) {
    this.#framing = framing;
    this.station = station;
    this.index = index;
    this.timeoutUs = timeoutOf(index);
    this.#watchdog = new WatchdogTime(index);
  }

  effectOf(bytes: Uint8Array): RequestEffect {
    const { message, faults } = this.#framing.read(bytes, 'request');
    return this.index && message && faults.length === 0 ? effectOf(message, this.index) : {};
  }

  mayTurn(act: RequestEffect): boolean {
    return this.index !== null && mayTurn(act, this.index);
  }

  learn({ asked, said }: ExchangeResult): void {
    if (asked && said) this.#watchdog.learn(learnedRegisters(asked, said));
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

  holds({ said }: ExchangeResult, word: number): boolean | null {
    const held = said?.fc === 3 ? said.values?.[0] : undefined;
    return held === undefined ? null : held === word;
  }

  statusWordRead(): Uint8Array | null {
    return this.#readOf('status-word');
  }

  controlWrite(word: number): Uint8Array | null {
    const place = this.#place('control-word');
    return place ? this.#frameOf({ unit: this.station, fc: 6, address: place.address, values: [word] }) : null;
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
  turningIn({ said }: ExchangeResult): boolean | null {
    const word = said?.values?.[0];
    const { index } = this;
    if (word === undefined || !index) return null;
    return turningBy(index, (role) => (role === turningRole(index) ? word : undefined));
  }

  #readOf(role: ParameterRole): Uint8Array | null {
    const place = this.#place(role);
    return place ? this.#frameOf({ unit: this.station, fc: 3, address: place.address, quantity: 1 }) : null;
  }

  #frameOf(message: ModbusMessage): Uint8Array | null {
    const built = this.#framing.encode(message, 'request');
    return built.ok ? built.value : null;
  }

  #place(role: ParameterRole): PlacedParameter | null {
    return this.index?.byRole.get(role) ?? null;
  }
}
