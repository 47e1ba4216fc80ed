import type { SerialSettings } from '../core/line/settings';
import { done, failed, type Result } from '../core/result';
import type { Clock } from '../core/time/clock';
import type { CharacterFault, Party, SerialBus } from '../standin/serial-bus';
import type { LinkPort, PortEvents } from './port';

/** Plugs the bench into a simulated line. It behaves like an adapter with perfect timing. */
export class StandinPort implements LinkPort {
  readonly exactTiming = true;
  readonly #bus: SerialBus;
  readonly #clock: Clock;
  #settings: SerialSettings;
  #events: PortEvents | null = null;
  #leave: (() => void) | null = null;
  readonly #party: Party = { settings: () => this.#settings, hear: (byte, fault) => this.#hear(byte, fault) };

  constructor(bus: SerialBus, clock: Clock, settings: SerialSettings) {
    this.#bus = bus;
    this.#clock = clock;
    this.#settings = settings;
  }

  open(events: PortEvents): Promise<Result<void, string>> {
    if (this.#events) return Promise.resolve(failed('this port is open already'));
    this.#events = events;
    this.#leave = this.#bus.attach(this.#party);
    return Promise.resolve(done(undefined));
  }

  close(): Promise<void> {
    this.#leave?.();
    this.#leave = null;
    this.#events = null;
    return Promise.resolve();
  }

  reconfigure(settings: SerialSettings): void {
    this.#settings = settings;
  }

  write(bytes: Uint8Array): number {
    return this.#bus.transmit(this.#party, bytes);
  }

  /** A stand-in line has no modem lines; a break comes with the bit-level model. */
  setSignals(): void {}

  #hear(byte: number, fault: CharacterFault): void {
    const atUs = this.#clock.now();
    if (fault) this.#events?.lineError(fault, atUs);
    this.#events?.bytes(Uint8Array.of(byte), atUs);
  }
}
