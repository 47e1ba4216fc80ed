import type { SheetIndex } from '../core/sheet/index-sheet';
import type { Clock } from '../core/time/clock';
import { ParameterStore, type Nonvolatile } from './parameter-store';
import type { RegisterBank } from './rtu-server';

const RESTART_AFTER_US = 100_000;

/** A drive of which only the registers are simulated, from its sheet: it stands still, and its status says so. */
export class RegisterDrive implements RegisterBank {
  readonly #index: SheetIndex;
  readonly #clock: Clock;
  readonly #store: ParameterStore;
  readonly #onKeep: (kept: Nonvolatile) => void;
  readonly #onRestart: (bootMs: number) => void;

  constructor(
    index: SheetIndex,
    clock: Clock,
    kept: Nonvolatile,
    onKeep: (kept: Nonvolatile) => void,
    onRestart: (bootMs: number) => void,
  ) {
    this.#index = index;
    this.#clock = clock;
    this.#store = new ParameterStore(index, kept);
    this.#onKeep = onKeep;
    this.#onRestart = onRestart;
  }

  read(address: number): number | null {
    return this.#store.parameterAt(address) ? this.#store.wordAt(address) : null;
  }

  write(address: number, words: readonly number[]): number {
    const refusal = words.reduce((found, word, i) => found || this.#store.refusalOf(address + i, word, false), 0);
    if (refusal === 0) words.forEach((word, i) => this.#accept(address + i, word));
    return refusal;
  }

  #accept(address: number, word: number): void {
    const role = this.#store.parameterAt(address)?.role;
    if (role === 'keep' && word === 1) this.#onKeep(this.#store.keep());
    else if (role === 'restart' && word === 1)
      this.#clock.at(this.#clock.now() + RESTART_AFTER_US, () => this.restart());
    else if (role !== 'keep' && role !== 'restart') this.#store.set(address, word);
  }

  restart(): void {
    this.#store.powerUp();
    this.#onRestart(this.#index.sheet.link?.bootMs ?? 0);
  }
}
