import type { SheetIndex } from '../core/sheet/index-sheet';
import type { Clock, Due } from '../core/time/clock';
import type { ParameterStore } from './parameter-store';
import { stepOf } from './full-scale';

/** One move as the drive's table holds it, in counts. */
export interface StoredMove {
  readonly to: number;
  readonly speed: number;
  readonly relative: boolean;
}

/** The drive looks at its table this often, so that moves that go nowhere do not hold it up. */
const CYCLE_US = 4_000;

/** The moves that a drive keeps itself: one that is started goes on to the next by itself, with a rest between. */
export class StoredMoves {
  readonly #index: SheetIndex;
  readonly #store: ParameterStore;
  readonly #clock: Clock;
  readonly #go: (move: StoredMove) => void;
  #at = 0;
  #next: Due | null = null;

  constructor(index: SheetIndex, store: ParameterStore, clock: Clock, go: (move: StoredMove) => void) {
    this.#index = index;
    this.#store = store;
    this.#clock = clock;
    this.#go = go;
  }

  /** The number of the move that is under way or rests, 0 where none is. */
  underWay(): number {
    return this.#at;
  }

  /** Whether this input may start one now. */
  isStartedBy(input: number): boolean {
    const { startedBy } = this.#section ?? {};
    return startedBy?.input === input && this.#number(startedBy.number) !== 0;
  }

  /** The one that is chosen; false where there is none of that number. */
  start(): boolean {
    return this.#begin(this.#store.number('stored-move', 0));
  }

  /** The axis stands at the end of a move. */
  arrived(): void {
    const row = this.#section?.moves[this.#at - 1];
    if (!row) return;
    const restUs =
      this.#number(row.rest) * stepOf(row.rest === undefined ? undefined : this.#index.byNumber.get(row.rest)) * 1e6;
    this.#next = this.#clock.at(this.#clock.now() + Math.max(CYCLE_US, Math.round(restUs)), () => {
      this.#next = null;
      if (!this.#begin(this.#number(row.then))) this.#at = 0;
    });
  }

  end(): void {
    if (this.#next !== null) this.#clock.cancel(this.#next);
    this.#next = null;
    this.#at = 0;
  }

  #begin(number: number): boolean {
    const row = this.#section?.moves[number - 1];
    if (!row) return false;
    this.#at = number;
    this.#go({ to: this.#number(row.to), speed: this.#number(row.speed), relative: this.#number(row.from) !== 0 });
    return true;
  }

  get #section() {
    return this.#index.sheet.axis?.storedMoves;
  }

  #number(number: string | undefined): number {
    const parameter = number === undefined ? undefined : this.#index.byNumber.get(number);
    return parameter ? this.#store.numberOf(parameter) : 0;
  }
}
