import type { SheetIndex } from '../core/sheet/index-sheet';
import { cellOf } from '../core/sheet/place';
import type { Clock, Due } from '../core/time/clock';
import { stepOf } from './full-scale';
import type { ParameterStore, Table } from './parameter-store';

/** Which list a master did not look after in time. */
export type ListWay = 'written' | 'read';

const TIME_ROLES = { written: 'list-write-time', read: 'list-read-time' } as const;

/**
 * The registers in which a drive gathers values that lie elsewhere, so that a controller reads and writes them in one go: further ways of its sheet's
 * values. They are there while they are switched on, and a time for each direction, once begun, wants them touched again.
 */
export class Lists {
  readonly #index: SheetIndex;
  readonly #store: ParameterStore;
  readonly #clock: Clock;
  readonly #late: (way: ListWay) => void;
  readonly #due: Record<ListWay, Due | null> = { written: null, read: null };

  constructor(index: SheetIndex, store: ParameterStore, clock: Clock, late: (way: ListWay) => void) {
    this.#index = index;
    this.#store = store;
    this.#clock = clock;
    this.#late = late;
  }

  /** Whether a register is one of a list. */
  holds(address: number, table: Table = 'holding-register'): boolean {
    return this.#index.ownCells.has(cellOf({ kind: 'register', table, address }));
  }

  isOn(): boolean {
    return this.#store.number('lists-use', 1) !== 0;
  }

  /** A list was written or read: its time begins anew. */
  touched(way: ListWay): void {
    this.end(way);
    const seconds = this.#store.number(TIME_ROLES[way], 0) * stepOf(this.#index.byRole.get(TIME_ROLES[way]));
    if (seconds > 0 && this.isOn())
      this.#due[way] = this.#clock.at(this.#clock.now() + Math.round(seconds * 1e6), () => {
        this.#due[way] = null;
        this.#late(way);
      });
  }

  /** Nothing is waited for any more. */
  end(way: ListWay): void {
    const due = this.#due[way];
    if (due !== null) this.#clock.cancel(due);
    this.#due[way] = null;
  }
}
