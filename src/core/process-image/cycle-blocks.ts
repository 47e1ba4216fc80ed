import type { ModbusFraming } from '../modbus/framing';
import { PZD_MAX } from '../uss/telegram';
import type { CycleRequest } from '../procedure/cycle-procedure';
import { done, failed, type Result } from '../result';
import { registerWay, type PlacedParameter, type SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { cellOf, registerCell, type Cell } from '../sheet/place';
import { encodeUss } from '../uss/encode';

/** One word of a block that goes round: where it is, and what it is part of; null where the sheet does not know it. */
export interface CycleWord {
  readonly cell: Cell;
  readonly parameter: PlacedParameter | null;
}

/** What a controller gives a drive and gets from it at every beat, on the kind of link that the drive has. */
export type CycleBlocks = {
  readonly out: readonly CycleWord[];
  readonly in: readonly CycleWord[];
} & (
  | {
      readonly kind: 'registers';
      readonly outFirst: number;
      readonly inFirst: number;
      readonly inTable: 'holding-register' | 'input-register';
    }
  | { readonly kind: 'process-data' }
);

/** A span of registers that is longer is no block, but two. */
const MOST_SPAN = 16;

const OUT: readonly ParameterRole[] = ['control-word', 'speed-reference', 'target-position', 'mode'];
const IN: readonly ParameterRole[] = [
  'status-word',
  'actual-speed',
  'fault-code',
  'current',
  'torque',
  'actual-position',
  'mode-display',
];

/**
 * The blocks of a drive: its words of process data, or the registers from its control word to its reference and around its status word, as far as they
 * lie together. Why there are none where the sheet does not say what a controller writes, or nothing says how the drive stands.
 */
export function cycleBlocks(index: SheetIndex): Result<CycleBlocks, string> {
  const { uss } = index.sheet;
  if (uss) {
    const words = (direction: 'out' | 'in'): readonly CycleWord[] =>
      Array.from({ length: Math.min(uss.pzdWords, PZD_MAX) }, (_, word) =>
        wordAt(index, cellOf({ kind: 'process', direction, word })),
      );
    return done({ kind: 'process-data', out: words('out'), in: words('in') });
  }
  const control = around(index, OUT, 'control-word', (parameter) => maySendOften(index, parameter));
  const status = around(index, IN, 'status-word');
  if (!control || control.table !== 'holding-register')
    return failed('the sheet does not say in which register a controller writes its control word');
  if (!status || (status.table !== 'holding-register' && status.table !== 'input-register'))
    return failed('the sheet does not say in which register the status word is');
  const { table } = status;
  return done({
    kind: 'registers',
    outFirst: control.first,
    inFirst: status.first,
    inTable: table,
    out: control.addresses.map((address) => wordAt(index, registerCell(address, 'holding-register'))),
    in: status.addresses.map((address) => wordAt(index, registerCell(address, table))),
  });
}

const wordAt = (index: SheetIndex, cell: Cell): CycleWord => ({ cell, parameter: index.byCell.get(cell) ?? null });

/** Orders that are given once: repeated at every beat they would keep, restart or renumber a drive over and over. */
const ONCE: ReadonlySet<ParameterRole> = new Set([
  'keep',
  'restart',
  'show-itself',
  'station',
  'bit-rate',
  'character-form',
]);

/**
 * Whether a value may go to the drive at every beat: it is taken while the shaft turns, it is no order that is given once, and it does not wear memory, as one
 * does that is kept at each write where the sheet names no order to keep.
 */
const maySendOften = (index: SheetIndex, { write, role, kept, secret }: PlacedParameter): boolean =>
  write !== 'never' &&
  write !== 'standstill' &&
  secret !== true &&
  (role === undefined || !ONCE.has(role)) &&
  (kept !== true || index.byRole.has('keep'));

/** The registers around the one of a role that hold others of these roles, with what lies between, if the sheet knows all of it and lets it. */
function around(
  index: SheetIndex,
  roles: readonly ParameterRole[],
  centre: ParameterRole,
  isFit: (parameter: PlacedParameter) => boolean = () => true,
) {
  const own = index.byRole.get(centre);
  const way = own && registerWay(own);
  if (!way) return null;
  const { table, address } = way;
  let [first, end] = [address, address + own.cells.length];
  const isKnown = (from: number, to: number): boolean => {
    for (let at = from; at < to; at++) {
      const parameter = index.byCell.get(registerCell(at, table));
      if (!parameter || !isFit(parameter)) return false;
    }
    return true;
  };
  for (const role of roles) {
    const place = index.byRole.get(role);
    const other = place && registerWay(place);
    if (!other || other.table !== table) continue;
    const [from, to] = [Math.min(first, other.address), Math.max(end, other.address + place.cells.length)];
    if (to - from <= MOST_SPAN && isKnown(from, to)) [first, end] = [from, to];
  }
  return { table, first, addresses: Array.from({ length: end - first }, (_, i) => first + i) };
}

/** How a cycle goes over Modbus: two requests (16 and 03 or 04), or one that writes and reads (23). */
export type CycleWay = 'two' | 'one';

/** The requests of one cycle with these words in the output block; a sentence where they cannot be built. */
export function cycleRequests(
  blocks: CycleBlocks,
  station: number,
  words: readonly number[],
  way: CycleWay,
  framing: ModbusFraming,
  pkwWords = 0,
): Result<readonly CycleRequest[], string> {
  if (words.length !== blocks.out.length) return failed(`the block has ${blocks.out.length} words`);
  if (blocks.kind === 'process-data') {
    const made = encodeUss({ address: station, pkwWords, pzd: [...words] });
    return made.ok
      ? done([{ text: 'process data', bytes: made.value, isInput: true }])
      : failed(made.error[0]?.text ?? 'it cannot be built');
  }
  const { outFirst, inFirst, inTable } = blocks;
  const quantity = blocks.in.length;
  const values = [...words];
  const messages =
    way === 'one'
      ? [{ unit: station, fc: 23, readAddress: inFirst, readQuantity: quantity, writeAddress: outFirst, values }]
      : [
          { unit: station, fc: 16, address: outFirst, quantity: values.length, values },
          { unit: station, fc: inTable === 'input-register' ? 4 : 3, address: inFirst, quantity },
        ];
  if (way === 'one' && inTable === 'input-register')
    return failed('function 23 reads holding registers, and the status is none');
  const requests: CycleRequest[] = [];
  for (const [i, message] of messages.entries()) {
    const made = framing.encode(message, 'request');
    if (!made.ok) return failed(made.error[0]?.text ?? 'it cannot be built');
    const isInput = i === messages.length - 1;
    requests.push({
      text: way === 'one' ? 'both blocks' : isInput ? 'read the input block' : 'write the output block',
      bytes: made.value,
      isInput,
    });
  }
  return done(requests);
}
