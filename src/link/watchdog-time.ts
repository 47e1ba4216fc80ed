import { scalingOf } from '../core/drive/describe';
import { rolePattern } from '../core/drive/role-value';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { Told } from '../core/places/place-link';
import { patternIn } from '../core/drive/seen';
import type { Rational } from '../core/scaling/rational';

/** A keep-alive comes this many times within the drive's watchdog time. */
const PER_WATCHDOG = 3;

/** What is known of a drive's own watchdog: the sheet's default until the drive says otherwise. */
export class WatchdogTime {
  readonly #index: SheetIndex | null;
  #word: number | null;

  constructor(index: SheetIndex | null) {
    this.#index = index;
    this.#word = (index && rolePattern(index, 'watchdog-time', undefined)) ?? null;
  }

  /** Takes what an exchange told. */
  learn(told: Told): void {
    const place = this.#index?.byRole.get('watchdog-time');
    const words = new Map(told);
    this.#word = (place && patternIn(place, (cell) => words.get(cell))) ?? this.#word;
  }

  /** How often the control word must be repeated, in microseconds; null when the watch is off or unknown. */
  everyUs(): number | null {
    const place = this.#index?.byRole.get('watchdog-time');
    if (!this.#index || !place || this.#word === null || this.#word === 0) return null;
    const seconds = scalingOf(this.#index.sheet, place, this.#word)?.value;
    return seconds ? microseconds(seconds) / PER_WATCHDOG : null;
  }
}

/** Whole microseconds of an exact number of seconds. */
const microseconds = ({ num, den }: Rational): number => Number((num * 1_000_000n) / den);
