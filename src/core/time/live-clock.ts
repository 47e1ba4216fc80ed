import { VirtualClock } from './clock';

/** Longest sleep in real milliseconds: new things may have become due meanwhile. */
const LONGEST_SLEEP_MS = 50;

/**
 * Virtual time that chases real time at a visible speed. Events keep their due times, however late the browser's timer comes;
 * `catchUp` before each command makes "now" the present.
 */
export class LiveClock extends VirtualClock {
  readonly #realMs: () => number;
  readonly #sleep: (action: () => void, ms: number) => number;
  readonly #wake: (handle: number) => void;
  #speed = 1;
  #baseMs: number;
  #baseUs = 0;
  #timer: number | null = null;

  constructor(realMs: () => number, sleep: (action: () => void, ms: number) => number, wake: (handle: number) => void) {
    super();
    this.#realMs = realMs;
    this.#sleep = sleep;
    this.#wake = wake;
    this.#baseMs = realMs();
  }

  get speed(): number {
    return this.#speed;
  }

  setSpeed(factor: number): void {
    this.catchUp();
    this.#baseUs = this.now();
    this.#baseMs = this.#realMs();
    this.#speed = factor;
  }

  /** Runs all that is due by now and sleeps until the next thing is. */
  catchUp(): void {
    this.advanceTo(this.#baseUs + (this.#realMs() - this.#baseMs) * 1000 * this.#speed);
    this.#arm();
  }

  #arm(): void {
    if (this.#timer !== null) this.#wake(this.#timer);
    const next = this.nextDueUs();
    const ms = next === null ? LONGEST_SLEEP_MS : (next - this.now()) / 1000 / this.#speed;
    this.#timer = this.#sleep(
      () => {
        this.#timer = null;
        this.catchUp();
      },
      Math.min(LONGEST_SLEEP_MS, Math.max(1, ms)),
    );
  }
}
