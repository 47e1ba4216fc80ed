import type { Clock } from '../core/time/clock';

/** Speed of a shaft in Hz as an exact function of time: on its way to a target at a constant slope, then at it. */
export class Shaft {
  readonly #clock: Clock;
  #fromHz = 0;
  #targetHz = 0;
  #slope = 1;
  #sinceUs = 0;

  constructor(clock: Clock) {
    this.#clock = clock;
  }

  /** Slope in Hz per second, more than 0. */
  head(targetHz: number, slope: number): void {
    this.#fromHz = this.speedHz();
    this.#sinceUs = this.#clock.now();
    this.#targetHz = targetHz;
    this.#slope = slope;
  }

  speedHz(): number {
    const travelled = (this.#slope * (this.#clock.now() - this.#sinceUs)) / 1e6;
    const missing = this.#targetHz - this.#fromHz;
    return Math.abs(missing) <= travelled ? this.#targetHz : this.#fromHz + Math.sign(missing) * travelled;
  }

  targetHz(): number {
    return this.#targetHz;
  }

  isTurning(): boolean {
    return this.speedHz() !== 0;
  }
}
