import { frameGapUs, type SerialSettings } from '../core/line/settings';
import type { Clock, Due } from '../core/time/clock';
import { bitwiseCrc } from './rtu-server';
import type { Party, SerialBus } from './serial-bus';

/** A controller that somebody forgot on the line: it reads each station in turn, whether or not the bench is there. */
const EVERY_US = 90_000;

/** Somebody else who asks on the same line, without listening whether it is free. */
export class OtherMaster implements Party {
  readonly side = 'drives';
  readonly #bus: SerialBus;
  readonly #clock: Clock;
  readonly #stations: readonly number[];
  readonly #settings: SerialSettings;
  #leave: (() => void) | null = null;
  #next: Due | null = null;
  #turn = 0;

  constructor(bus: SerialBus, clock: Clock, stations: readonly number[], settings: SerialSettings) {
    this.#bus = bus;
    this.#clock = clock;
    this.#stations = stations;
    this.#settings = settings;
  }

  readonly settings = (): SerialSettings => this.#settings;

  readonly hear = (): void => undefined;

  set(on: boolean): void {
    if (on === (this.#leave !== null)) return;
    if (on) {
      this.#leave = this.#bus.attach(this);
      this.#poll();
    } else {
      this.#leave?.();
      this.#leave = null;
      if (this.#next !== null) this.#clock.cancel(this.#next);
    }
  }

  #poll(): void {
    const station = this.#stations[this.#turn++ % this.#stations.length] ?? 1;
    const open = [station, 3, 1, 2, 0, 1];
    const crc = bitwiseCrc(open);
    this.#bus.transmit(this, Uint8Array.from([...open, crc % 256, Math.floor(crc / 256)]));
    this.#next = this.#clock.at(this.#clock.now() + EVERY_US + frameGapUs(this.#settings), () => this.#poll());
  }
}
