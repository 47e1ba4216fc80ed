import { VirtualClock } from './clock';

/** Longest sleep in real milliseconds: new things may have become due meanwhile. */
const LONGEST_SLEEP_MS = 50;

/** A gap of so many real milliseconds is no late timer: the page, or the whole computer, was asleep. */
const JUMP_MS = 1_000;

/** Hears of a jump: before what was due meanwhile runs, and when the clock stands at the present again. */
export interface JumpListener {
  readonly asleep: (seconds: number) => void;
  readonly awake: () => void;
}

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
  #lastMs: number;
  #jump: JumpListener | null = null;
  #isStopped = false;

  constructor(realMs: () => number, sleep: (action: () => void, ms: number) => number, wake: (handle: number) => void) {
    super();
    this.#realMs = realMs;
    this.#sleep = sleep;
    this.#wake = wake;
    this.#baseMs = this.#lastMs = realMs();
  }

  onJump(listener: JumpListener): void {
    this.#jump = listener;
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
    const realMs = this.#realMs();
    const gapMs = realMs - this.#lastMs;
    this.#lastMs = realMs;
    const jumped = gapMs > JUMP_MS;
    if (jumped) this.#jump?.asleep(Math.round(gapMs / 1000));
    this.advanceTo(this.#baseUs + (realMs - this.#baseMs) * 1000 * this.#speed);
    if (jumped) this.#jump?.awake();
    this.#arm();
  }

  /** Wakes up by itself no more. */
  stop(): void {
    if (this.#timer !== null) this.#wake(this.#timer);
    this.#timer = null;
    this.#isStopped = true;
  }

  #arm(): void {
    if (this.#isStopped) return;
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
