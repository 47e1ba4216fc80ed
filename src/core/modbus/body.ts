import { counted } from '../counted';
import { fault, type Fault } from '../fault';
import type { Layout, Limit } from './layout';
import type { Draft } from './message';
import { placeItems, type Placed } from './place';

export const wordAt = (bytes: Uint8Array, at: number): number =>
  ((bytes[at] as number) << 8) | (bytes[at + 1] as number);

/**
 * Reads the items of a layout from `bytes[start, end)` into `message` and names what does not fit.
 * `checked` says that a good check closes this body: then a count that disagrees is wrong itself, otherwise the frame was cut.
 */
export function readBody(
  bytes: Uint8Array,
  start: number,
  end: number,
  layout: Layout,
  checked: boolean,
  message: Draft,
  faults: Fault[],
): void {
  const placed = placeItems(layout, bytes, start, end);
  let countAt = -1;
  for (const { item, start: at, end: until } of placed) {
    if (item.kind === 'words') {
      message.values = readWords(bytes, at, Math.min(until, end));
      if (countAt >= 0) faultsOfCount(bytes, countAt, at, until, end, checked, faults);
      else if (until > end) faults.push(truncated(item.label, at, end));
    } else if (until > end) {
      faults.push(truncated(item.label, at, end));
    } else if (item.kind === 'count') {
      countAt = at;
    } else {
      message[item.name] = item.kind === 'u8' ? bytes[at] : wordAt(bytes, at);
    }
  }
  const ended = placed[placed.length - 1]?.end ?? start;
  if (countAt < 0 && ended < end)
    faults.push(fault('trailing-bytes', ended, end, `${counted(end - ended, 'byte')} more than this function has`));
  for (const limit of layout.limits) faults.push(...faultsOfLimit(limit, message, placed, bytes));
}

function readWords(bytes: Uint8Array, start: number, end: number): number[] {
  const count = (end - start) >> 1;
  const values = new Array<number>(count);
  for (let i = 0; i < count; i++) values[i] = wordAt(bytes, start + 2 * i);
  return values;
}

const truncated = (label: string, start: number, end: number): Fault =>
  fault(
    'truncated',
    Math.min(start, end),
    end,
    start >= end ? `the frame ends before its ${label}` : `the frame ends inside its ${label}`,
  );

function faultsOfCount(
  bytes: Uint8Array,
  countAt: number,
  at: number,
  until: number,
  end: number,
  checked: boolean,
  faults: Fault[],
): void {
  const count = bytes[countAt] as number;
  if (until > end && !checked)
    faults.push(fault('truncated', at, end, `the byte count says ${count}, only ${counted(end - at, 'byte')} came`));
  else if (until !== end && checked)
    faults.push(
      fault('byte-count-mismatch', countAt, countAt + 1, `the byte count says ${count}, the frame has ${end - at}`),
    );
  if (count % 2 === 1)
    faults.push(
      fault('byte-count-mismatch', countAt, countAt + 1, `a byte count of ${count} is no whole number of registers`),
    );
}

const placeOf = (placed: readonly Placed[], name: string): Placed | undefined =>
  placed.find(({ item }) => item.name === name);

function faultsOfLimit(limit: Limit, message: Draft, placed: readonly Placed[], bytes: Uint8Array): readonly Fault[] {
  const { quantity, address } = message;
  switch (limit.kind) {
    case 'range': {
      const at = placeOf(placed, 'quantity');
      if (quantity === undefined || !at || (quantity >= limit.min && quantity <= limit.max)) return [];
      return [
        fault(
          'quantity-out-of-range',
          at.start,
          at.end,
          `${counted(quantity, 'register')}; the standard allows ${limit.min} to ${limit.max}`,
        ),
      ];
    }
    case 'list': {
      const at = placeOf(placed, 'byteCount');
      const count = at ? bytes[at.start] : undefined;
      if (!at || count === undefined || (count >= 2 * limit.min && count <= 2 * limit.max + 1)) return [];
      return [
        fault(
          'quantity-out-of-range',
          at.start,
          at.end,
          `${count} bytes of registers; the standard allows ${limit.min} to ${limit.max} registers`,
        ),
      ];
    }
    case 'span': {
      const at = placeOf(placed, 'address');
      if (quantity === undefined || address === undefined || !at || address + quantity <= 0x10000) return [];
      return [
        fault('address-overflow', at.start, at.end, `${quantity} registers from ${address} run past register 65535`),
      ];
    }
    case 'count-is-quantity': {
      const at = placeOf(placed, 'byteCount');
      const count = at ? bytes[at.start] : undefined;
      if (!at || count === undefined || quantity === undefined || count === 2 * quantity || count % 2 === 1) return [];
      return [
        fault(
          'byte-count-mismatch',
          at.start,
          at.end,
          `the byte count says ${count}, ${quantity} registers take ${2 * quantity}`,
        ),
      ];
    }
  }
}
