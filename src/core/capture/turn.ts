import type { Direction } from '../direction';

/**
 * Whose turn it is on a line: a frame that reads alike both ways is the response where a request for the same function to the same station
 * stands open, else a request. Without times a request that is sent twice cannot be told from its echo.
 */
export class Turn {
  #unit = -1;
  #fc = -1;

  /** What a frame that could be either is. */
  settle(unit: number, fc: number): Direction {
    return unit === this.#unit && fc === this.#fc ? 'response' : 'request';
  }

  took(direction: Direction, unit: number, fc: number): void {
    this.#unit = direction === 'request' ? unit : -1;
    this.#fc = direction === 'request' ? fc : -1;
  }
}
