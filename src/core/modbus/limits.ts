import { counted } from '../counted';
import { hexNumber } from '../bytes/hex';
import { fault, type Fault, type FaultCode } from '../fault';
import type { DataRule, Item, Limit } from './layout';
import type { Draft } from './message';
import type { Placement } from './place';

type Where = { readonly start: number; readonly end: number };

/** Where a field stands, if all of it is there. */
const placeOf = ({ placed, limit }: Placement, name: Item['name']): Where | undefined =>
  placed.find(({ item, end }) => item.name === name && end <= limit);

const at = (code: FaultCode, { start, end }: Where, text: string): readonly Fault[] => [fault(code, start, end, text)];

const DATA_RULES: Readonly<Record<DataRule, { readonly fits: (word: number) => boolean; readonly text: string }>> = {
  zero: { fits: (word) => word === 0, text: 'this sub-function is asked with the data 0' },
  'zero-or-ff00': {
    fits: (word) => word === 0 || word === 0xff00,
    text: 'the data is 0, or 0xFF00 to clear the log too',
  },
  character: { fits: (word) => (word & 0xff) === 0, text: 'the character stands in the high byte, the low byte is 0' },
};

/** What one limit of the standard says against a body that was read. A field that is not there breaks no limit. */
export function faultsOfLimit(limit: Limit, message: Draft, placement: Placement, bytes: Uint8Array): readonly Fault[] {
  const { count } = placement;
  const countAt = count && { start: count.at, end: count.from };
  switch (limit.kind) {
    case 'range': {
      const value = message[limit.field];
      if (value === undefined || (value >= limit.min && value <= limit.max)) return [];
      const where = placeOf(placement, limit.field);
      if (!where) return [];
      const said = limit.noun ? counted(value, limit.noun) : `${value}`;
      return at('quantity-out-of-range', where, `${said}; the standard allows ${limit.min} to ${limit.max}`);
    }
    case 'bytes': {
      if (!count || !countAt) return [];
      const { min, max, step = 1 } = limit;
      if (count.value % step !== 0)
        return at('byte-count-mismatch', countAt, `a byte count of ${count.value} is no whole number of registers`);
      if (count.value >= min && count.value <= max) return [];
      return at(
        'quantity-out-of-range',
        countAt,
        `${counted(count.value, 'byte')} of data; the standard allows ${min} to ${max}`,
      );
    }
    case 'span': {
      const [address, quantity] = [message[limit.address], message[limit.quantity]];
      if (quantity === undefined || address === undefined || address + quantity <= 0x10000) return [];
      const where = placeOf(placement, limit.address);
      if (!where) return [];
      return at('address-overflow', where, `${quantity} ${limit.noun} from ${address} run past 65535`);
    }
    case 'count-is-quantity': {
      const quantity = message[limit.quantity];
      if (!count || !countAt || quantity === undefined) return [];
      const wanted = limit.per === 'register' ? 2 * quantity : Math.ceil(quantity / 8);
      // A count that the frame's length contradicts has been named already.
      if (count.value === wanted || placement.end !== count.from + count.value) return [];
      return at(
        'byte-count-mismatch',
        countAt,
        `the byte count says ${count.value}, ${counted(quantity, limit.per)} take ${wanted}`,
      );
    }
    case 'padding': {
      const quantity = message[limit.quantity];
      if (!count || quantity === undefined || quantity % 8 === 0 || count.value !== Math.ceil(quantity / 8)) return [];
      const last = count.from + count.value - 1;
      const spare = (bytes[last] ?? 0) >> (quantity % 8);
      if (last >= placement.limit || spare === 0) return [];
      return at(
        'value-out-of-range',
        { start: last, end: last + 1 },
        `bits behind the last of ${counted(quantity, 'coil')} are set; the standard fills up with zeros`,
      );
    }
    case 'one-of': {
      const value = message[limit.field];
      const where = placeOf(placement, limit.field);
      if (value === undefined || !where || limit.values.includes(value)) return [];
      return at('value-out-of-range', where, `${hexNumber(value, 2)}: ${limit.text}`);
    }
    case 'queue': {
      const where = placeOf(placement, 'fifoCount');
      if (!count || !where) return [];
      const tally = ((bytes[where.start] as number) << 8) | (bytes[where.start + 1] as number);
      if (tally > limit.max)
        return at(
          'quantity-out-of-range',
          where,
          `${counted(tally, 'word')} in the queue; the standard allows 0 to ${limit.max}`,
        );
      if (count.value === 2 + 2 * tally) return [];
      return at(
        'byte-count-mismatch',
        where,
        `${counted(tally, 'word')} and their count take ${2 + 2 * tally} bytes, the byte count says ${count.value}`,
      );
    }
    case 'data': {
      const [word] = message.values ?? [];
      const where = placeOf(placement, 'values');
      const rule = DATA_RULES[limit.rule];
      if (word === undefined || !where || rule.fits(word)) return [];
      return at('value-out-of-range', where, `${hexNumber(word)}: ${rule.text}`);
    }
  }
}
