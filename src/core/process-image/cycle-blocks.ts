import type { ModbusFraming } from '../modbus/framing';
import { PZD_MAX } from '../uss/telegram';
import type { CycleRequest } from '../procedure/cycle-procedure';
import { done, failed, type Result } from '../result';
import { registerWays, type PlacedParameter, type SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { cellOf, registerCell, type Cell, type PlaceOf } from '../sheet/place';
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

const OUT: readonly ParameterRole[] = ['control-word', 'speed-reference', 'target-position', 'mode', 'life-sign'];
const IN: readonly ParameterRole[] = [
  'status-word',
  'actual-speed',
  'fault-code',
  'current',
  'torque',
  'actual-position',
  'mode-display',
  'life-sign-back',
];

/**
 * The blocks of a drive, at least one: its words of process data, or the registers from its control word to its reference and around its status word, as
 * far as they lie together. Where these are reached in several ways, such as in a list that the drive gathers, there are blocks for each. Why there are
 * none where the sheet does not say what a controller writes, or nothing says how the drive stands.
 */
export function cycleBlocks(index: SheetIndex): Result<readonly CycleBlocks[], string> {
  const { uss } = index.sheet;
  if (uss) {
    const words = (direction: 'out' | 'in'): readonly CycleWord[] =>
      Array.from({ length: Math.min(uss.pzdWords, PZD_MAX) }, (_, word) =>
        wordAt(index, cellOf({ kind: 'process', direction, word })),
      );
    return done([{ kind: 'process-data', out: words('out'), in: words('in') }]);
  }
  const controls = waysOf(index, 'control-word').filter(({ table }) => table === 'holding-register');
  const statuses = waysOf(index, 'status-word').flatMap(({ table, address }) =>
    table === 'holding-register' || table === 'input-register' ? [{ table, address }] : [],
  );
  if (controls.length === 0)
    return failed('the sheet does not say in which register a controller writes its control word');
  if (statuses.length === 0) return failed('the sheet does not say in which register the status word is');
  return done(
    Array.from({ length: Math.max(controls.length, statuses.length) }, (_, i): readonly CycleBlocks[] => {
      const [control, status] = [controls[i] ?? controls[0], statuses[i] ?? statuses[0]];
      if (!control || !status) return [];
      const out = around(index, OUT, 'control-word', control, (parameter) => maySendOften(index, parameter));
      const own = around(index, IN, 'status-word', status);
      return [
        {
          kind: 'registers',
          outFirst: out.first,
          inFirst: own.first,
          inTable: status.table,
          out: out.addresses.map((address) => wordAt(index, registerCell(address))),
          in: own.addresses.map((address) => wordAt(index, registerCell(address, status.table))),
        },
      ];
    }).flat(),
  );
}

const waysOf = (index: SheetIndex, role: ParameterRole): readonly PlaceOf<'register'>[] => {
  const parameter = index.byRole.get(role);
  return parameter ? registerWays(parameter) : [];
};

/** Blocks by their registers, for a person who chooses. */
export function blocksName(blocks: CycleBlocks): string {
  if (blocks.kind === 'process-data') return 'the words of the process data';
  const span = (first: number, { length }: readonly CycleWord[]): string => `${first} to ${first + length - 1}`;
  return `${span(blocks.outFirst, blocks.out)} out, ${span(blocks.inFirst, blocks.in)} in`;
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

/** The registers around a value that hold others of these roles, with what lies between, if the sheet knows all of it and lets it. */
function around(
  index: SheetIndex,
  roles: readonly ParameterRole[],
  centre: ParameterRole,
  { table, address }: Pick<PlaceOf<'register'>, 'table' | 'address'>,
  isFit: (parameter: PlacedParameter) => boolean = () => true,
): { readonly first: number; readonly addresses: readonly number[] } {
  let [first, end] = [address, address + (index.byRole.get(centre)?.cells.length ?? 1)];
  const isKnown = (from: number, to: number): boolean => {
    for (let at = from; at < to; at++) {
      const parameter = index.byCell.get(registerCell(at, table));
      if (!parameter || !isFit(parameter)) return false;
    }
    return true;
  };
  for (const role of roles) {
    const size = index.byRole.get(role)?.cells.length ?? 0;
    for (const other of waysOf(index, role)) {
      if (other.table !== table) continue;
      const [from, to] = [Math.min(first, other.address), Math.max(end, other.address + size)];
      if (to - from <= MOST_SPAN && isKnown(from, to)) [first, end] = [from, to];
    }
  }
  return { first, addresses: Array.from({ length: end - first }, (_, i) => first + i) };
}

/** How a cycle goes over Modbus: two requests (16 and 03 or 04), or one that writes and reads (23). */
export type CycleWay = 'two' | 'one';

/**
 * The requests of one cycle with these words in the output block, one block for each cycle in turn; a sentence where they cannot be built.
 */
export function cycleRequests(
  blocks: CycleBlocks,
  station: number,
  turns: readonly (readonly number[])[],
  way: CycleWay,
  framing: ModbusFraming,
  pkwWords = 0,
): Result<readonly CycleRequest[], string> {
  const made: (readonly OneRequest[])[] = [];
  for (const words of turns) {
    const requests = requestsWith(blocks, station, words, way, framing, pkwWords);
    if (!requests.ok) return requests;
    made.push(requests.value);
  }
  return done(
    (made[0] ?? []).map(({ text, isInput }, i) => ({
      text,
      isInput,
      inTurn: made.flatMap((requests) => requests[i]?.bytes ?? []),
    })),
  );
}

interface OneRequest {
  readonly text: string;
  readonly bytes: Uint8Array;
  readonly isInput: boolean;
}

function requestsWith(
  blocks: CycleBlocks,
  station: number,
  words: readonly number[],
  way: CycleWay,
  framing: ModbusFraming,
  pkwWords: number,
): Result<readonly OneRequest[], string> {
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
  const requests: OneRequest[] = [];
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
