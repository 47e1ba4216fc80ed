import { counted } from '../counted';
import { hexNumber } from '../bytes/hex';
import { fault, type Fault } from '../fault';
import type { Layout } from './layout';
import { faultsOfLimit } from './limits';
import { wordAt } from './list-codec';
import { isList, listCodec } from './lists';
import type { Draft } from './message';
import type { Placed, Placement } from './place';

export const COIL_ON = 0xff00;

/**
 * Reads the items of a layout, placed over a body that ends at `placement.limit`, into `message` and names what does not fit.
 * `checked` says that a good check closes this body: then a count that disagrees is wrong itself, otherwise the frame was cut.
 */
export function readBody(
  bytes: Uint8Array,
  start: number,
  placement: Placement,
  layout: Layout,
  checked: boolean,
  message: Draft,
  faults: Fault[],
): void {
  const { placed, count, limit: end } = placement;
  for (const part of placed) readItem(bytes, part, end, count !== undefined, message, faults);
  const wrongCount = count && faultOfCount(count, end, checked);
  if (wrongCount) faults.push(wrongCount);
  const ended = placed[placed.length - 1]?.end ?? start;
  if (!count && ended < end)
    faults.push(fault('trailing-bytes', ended, end, `${counted(end - ended, 'byte')} more than this function has`));
  for (const limit of layout.limits) {
    const broken = faultsOfLimit(limit, message, placement, bytes);
    if (broken.length > 0) faults.push(...broken);
  }
}

function readItem(
  bytes: Uint8Array,
  { item, start, end: until }: Placed,
  end: number,
  isCounted: boolean,
  message: Draft,
  faults: Fault[],
): void {
  const cut = until > end;
  if (cut && !isList(item)) {
    faults.push(truncated(item.label, start, end));
    return;
  }
  switch (item.kind) {
    case 'u8':
      message[item.name] = bytes[start];
      return;
    case 'u16':
      message[item.name] = wordAt(bytes, start);
      return;
    case 'flag': {
      const value = bytes[start] as number;
      message[item.name] = value === 0xff;
      if (value !== 0xff && value !== 0)
        faults.push(fault('value-out-of-range', start, until, `${hexNumber(value, 2)} is neither 00 nor FF`));
      return;
    }
    case 'coil': {
      const value = wordAt(bytes, start);
      message.rawValue = value;
      if (value === 0 || value === COIL_ON) message.coils = [value === COIL_ON ? 1 : 0];
      else
        faults.push(
          fault('value-out-of-range', start, until, `${hexNumber(value)}; a coil is 0xFF00 (on) or 0x0000 (off)`),
        );
      return;
    }
    case 'count':
    case 'tally':
      return;
    default:
      // Of a list that is cut, what came is read.
      listCodec(item).read(bytes, start, cut ? end : until, item, message, cut ? [] : faults);
      if (cut && !isCounted) faults.push(truncated(item.label, start, end));
      if (!cut && !isCounted && item.kind === 'words' && (until - start) % 2 === 1)
        faults.push(fault('trailing-bytes', until - 1, until, 'half a register is left over'));
  }
}

const truncated = (label: string, start: number, end: number): Fault =>
  fault(
    'truncated',
    Math.min(start, end),
    end,
    start >= end ? `the frame ends before its ${label}` : `the frame ends inside its ${label}`,
  );

function faultOfCount(
  { at, from, value }: NonNullable<Placement['count']>,
  end: number,
  checked: boolean,
): Fault | null {
  const there = end - from;
  if (value > there && !checked)
    return fault('truncated', from, end, `the byte count says ${value}, only ${counted(there, 'byte')} came`);
  if (value !== there && checked)
    return fault('byte-count-mismatch', at, from, `the byte count says ${value}, the frame has ${there}`);
  return null;
}
