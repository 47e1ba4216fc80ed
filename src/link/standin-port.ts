import { characterUs, frameGapUs, type SerialSettings } from '../core/line/settings';
import { trouble, type Trouble } from '../core/line/trouble';
import { done, failed, type Result } from '../core/result';
import type { Clock } from '../core/time/clock';
import type { CharacterFault, Party, SerialBus } from '../standin/serial-bus';
import type { LinkPort, Pace, PortEvents } from './port';

/** Plugs the bench into a simulated line. It behaves like an adapter with perfect timing. */
export class StandinPort implements LinkPort {
  readonly #bus: SerialBus;
  readonly #clock: Clock;
  #settings: SerialSettings;
  #events: PortEvents | null = null;
  #leave: (() => void) | null = null;
  readonly #party: Party = {
    side: 'bench',
    settings: () => this.#settings,
    hear: (byte, fault) => this.#hear(byte, fault),
  };

  constructor(bus: SerialBus, clock: Clock, settings: SerialSettings) {
    this.#bus = bus;
    this.#clock = clock;
    this.#settings = settings;
  }

  pace(): Pace {
    const gapUs = frameGapUs(this.#settings);
    return { silenceUs: gapUs, gapUs, firstByteUs: characterUs(this.#settings), allowanceUs: 0 };
  }

  open(events: PortEvents): Promise<Result<void, Trouble>> {
    if (this.#events) return Promise.resolve(failed(trouble('held', 'this port is open already')));
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

  settings(): SerialSettings {
    return this.#settings;
  }

  reconfigure(settings: SerialSettings): void {
    this.#settings = settings;
  }

  write(bytes: Uint8Array): number {
    return this.#bus.transmit(this.#party, bytes);
  }

  /** A stand-in line has no modem lines, but it can be held low. */
  sendBreak(us: number): number {
    return this.#bus.sendBreak(this.#party, us);
  }

  setSignals(): void {}

  #hear(byte: number, fault: CharacterFault): void {
    const atUs = this.#clock.now();
    if (fault) this.#events?.lineError(fault, atUs);
    this.#events?.bytes(Uint8Array.of(byte), atUs);
  }
}
