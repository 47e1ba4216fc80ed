import type { ModbusFraming } from '../core/modbus/framing';
import type { ModbusMessage } from '../core/modbus/message';
import { registersRead, registersWritten } from '../core/modbus/touched';
import { actOf, mayTurn, type DriveAct } from '../core/sheet/acts';
import { chainOf } from '../core/sheet/describe';
import type { PlacedParameter, SheetIndex } from '../core/sheet/index-sheet';
import type { ParameterRole } from '../core/sheet/parameter-section';
import type { Rational } from '../core/scaling/rational';
import { toValue } from '../core/scaling/scale';
import type { ExchangeResult } from './request';
import { timeoutOf, type StationCare } from './station-care';
import { turningBy, turningRole } from '../core/sheet/turning';

/** A keep-alive comes this many times within the drive's watchdog time. */
const PER_WATCHDOG = 3;

/** A drive behind Modbus registers. */
export class ModbusCare implements StationCare {
  readonly station: number;
  readonly index: SheetIndex | null;
  readonly timeoutUs: number;
  readonly #framing: ModbusFraming;
  #watchdogWord: number | null;

  constructor(station: number, index: SheetIndex | null, framing: ModbusFraming) {
    this.#framing = framing;
    this.station = station;
    this.index = index;
    this.timeoutUs = timeoutOf(index);
    this.#watchdogWord = index?.byRole.get('watchdog-time')?.default ?? null;
  }

  actOf(bytes: Uint8Array): DriveAct {
    const { message, faults } = this.#framing.read(bytes, 'request');
    return this.index && message && faults.length === 0 ? actOf(message, this.index) : {};
  }

  mayTurn(act: DriveAct): boolean {
    return this.index !== null && mayTurn(act, this.index);
  }

  /** Learns the drive's own watchdog time when a reply shows it or a confirmed write sets it. */
  learn({ asked, said }: ExchangeResult): void {
    if (!asked || !said) return;
    const place = this.index?.byRole.get('watchdog-time');
    if (!place || said.exception !== undefined || asked.fc === 22) return;
    const [reads, writes] = [registersRead(asked), registersWritten(asked)];
    const word = (reads && said.values?.[place.address - reads.first]) ?? writes?.words[place.address - writes.first];
    if (word !== undefined) this.#watchdogWord = word;
  }

  /** How often the control word must be repeated, in microseconds; null when the watch is off or unknown. */
  keepAliveEveryUs(): number | null {
    const place = this.index?.byRole.get('watchdog-time');
    const chain = this.index && place ? chainOf(this.index.sheet, place) : null;
    if (!chain || this.#watchdogWord === null || this.#watchdogWord === 0) return null;
    const seconds = toValue(chain, BigInt(this.#watchdogWord));
    return seconds.ok ? microseconds(seconds.value.value) / PER_WATCHDOG : null;
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
    const place = this.index && this.#place(turningRole(this.index));
    return place ? this.#frameOf({ unit: this.station, fc: 3, address: place.address, quantity: 1 }) : null;
  }

  /** Whether a reply to `statusRead` says that the shaft turns; null when it does not tell. */
  turningIn({ said }: ExchangeResult): boolean | null {
    const word = said?.values?.[0];
    const { index } = this;
    if (word === undefined || !index) return null;
    return turningBy(index, (role) => (role === turningRole(index) ? word : undefined));
  }

  #frameOf(message: ModbusMessage): Uint8Array | null {
    const built = this.#framing.encode(message, 'request');
    return built.ok ? built.value : null;
  }

  #place(role: ParameterRole): PlacedParameter | null {
    return this.index?.byRole.get(role) ?? null;
  }
}

/** Whole microseconds of an exact number of seconds. */
const microseconds = ({ num, den }: Rational): number => Number((num * 1_000_000n) / den);
