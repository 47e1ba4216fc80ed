import type { Clock } from '../core/time/clock';

/** Speed of a shaft, in Hz or rpm, as an exact function of time: on its way to a target at a constant slope, then at it. */
export class Shaft {
  readonly #clock: Clock;
  #from = 0;
  #target = 0;
  #slope = 1;
  #sinceUs = 0;
  #way = 0;

  constructor(clock: Clock) {
    this.#clock = clock;
  }

  /** Slope in that unit per second, more than 0. */
  head(target: number, slope: number): void {
    this.#way = this.way();
    this.#from = this.speed();
    this.#sinceUs = this.#clock.now();
    this.#target = target;
    this.#slope = slope;
  }

  speed(): number {
    const travelled = (this.#slope * (this.#clock.now() - this.#sinceUs)) / 1e6;
    const missing = this.#target - this.#from;
    return Math.abs(missing) <= travelled ? this.#target : this.#from + Math.sign(missing) * travelled;
  }

  /** Way so far: speed times seconds, in the unit of the speed. */
  way(): number {
    const seconds = (this.#clock.now() - this.#sinceUs) / 1e6;
    const ramp = Math.min(seconds, Math.abs(this.#target - this.#from) / this.#slope);
    return this.#way + ((this.#from + this.speed()) / 2) * ramp + this.#target * (seconds - ramp);
  }

  /** When the speed will be the target's; now, where it is already. */
  arrivesUs(): number {
    return this.#sinceUs + Math.ceil((Math.abs(this.#target - this.#from) / this.#slope) * 1e6);
  }

  target(): number {
    return this.#target;
  }

  isTurning(): boolean {
    return this.speed() !== 0;
  }
}
