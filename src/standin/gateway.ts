import type { SheetIndex } from '../core/sheet/index-sheet';
import type { ParameterRole } from '../core/sheet/parameter-section';
import type { Table } from './parameter-store';
import type { RegisterBank } from './rtu-server';

/** A drive behind the gateway, with the sheet that it runs from. */
export interface Behind {
  readonly bank: RegisterBank;
  readonly index: SheetIndex;
}

/** What the gateway copies: a value of a drive, as so many bytes of the block. */
export interface Copied {
  readonly from: Behind;
  readonly role: ParameterRole;
  readonly bytes: 1 | 2 | 4;
  /** Whoever set the gateway up turned its two words round. */
  readonly isSwapped?: true;
}

const high = (word: number): number => Math.floor(word / 256);

/**
 * A gateway that gathers values of several drives into one block of bytes, which stands in its input registers from 0 on. The slot is as long as was set,
 * what no value fills is 0, and nothing can be written: it is there to be looked at.
 */
export class Gateway implements RegisterBank {
  readonly #copied: readonly Copied[];
  readonly #slot: number;
  readonly identity = { vendor: 'stand-in', product: 'block gateway', revision: '1' };

  /** `slot`: bytes of the block, an even number. Throws a RangeError where a drive has no such value in a register: the plan is wrong. */
  constructor(copied: readonly Copied[], slot: number) {
    this.#copied = copied;
    this.#slot = slot;
    this.#block();
  }

  hasTable(table: Table): boolean {
    return table === 'input-register';
  }

  read(address: number, table?: Table): number | null {
    if (table !== 'input-register' || address >= this.#slot / 2) return null;
    const block = this.#block();
    return (block[2 * address] ?? 0) * 256 + (block[2 * address + 1] ?? 0);
  }

  /** Illegal function: it only tells. */
  write(): number {
    return 1;
  }

  #block(): readonly number[] {
    return this.#copied.flatMap(({ from: { bank, index }, role, bytes, isSwapped }) => {
      const place = index.byRole.get(role)?.place;
      if (place?.kind !== 'register') throw new RangeError(`${index.sheet.slug} has no ${role} in a register`);
      const word = (at: number): number => bank.read(place.address + at, place.table) ?? 0;
      const words = bytes === 4 ? [word(0), word(1)] : [word(0)];
      const ordered = isSwapped ? words.reverse() : words;
      return bytes === 1 ? [(words[0] ?? 0) % 256] : ordered.flatMap((one) => [high(one), one % 256]);
    });
  }
}
