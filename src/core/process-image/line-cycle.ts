import { exchangeStretches, totalUs, type ExchangeSize, type LineTiming } from '../line/budget';
import type { ModbusFraming } from '../modbus/framing';
import type { ModbusMessage } from '../modbus/message';
import type { SheetIndex } from '../sheet/index-sheet';
import { cycleBlocks, cycleRequests, type CycleBlocks, type CycleWay } from './cycle-blocks';

/** A drive of a line; null where the bench has no sheet of it. */
export interface CycleDrive {
  readonly station: number;
  readonly name: string;
  readonly index: SheetIndex | null;
}

/** What one drive takes of a cycle. */
export interface DriveShare {
  readonly station: number;
  readonly name: string;
  /** Bytes of its blocks. */
  readonly out: number;
  readonly in: number;
  readonly exchanges: number;
  readonly us: number;
}

/** A cycle in which each drive gets its output block and gives its input block once. */
export interface LineCycle {
  readonly drives: readonly DriveShare[];
  /** The shortest one: with no time lost between. */
  readonly us: number;
  /** Share of it in which the controller itself sends, 0 to 1. */
  readonly own: number;
  /** Drives with which nothing goes round, and why. */
  readonly left: readonly { readonly station: number; readonly name: string; readonly why: string }[];
}

/**
 * What the drives of a line take of a cycle, by the blocks of their sheets and by the bytes of the requests that carry them. `replyDelayUs`: how long each
 * thinks before it answers. Linear.
 */
export function lineCycle(
  timing: LineTiming,
  drives: readonly CycleDrive[],
  way: CycleWay,
  framing: ModbusFraming,
  replyDelayUs: number,
): LineCycle {
  const [shares, left]: [DriveShare[], LineCycle['left'][number][]] = [[], []];
  let [us, ownUs] = [0, 0];
  for (const { station, name, index } of drives) {
    const sizes = index ? sizesOf(index, station, way, framing, replyDelayUs) : 'the bench has no sheet of it';
    if (typeof sizes === 'string') {
      left.push({ station, name, why: sizes });
      continue;
    }
    const stretches = sizes.exchanges.flatMap((size) => exchangeStretches(timing, size));
    const own = totalUs(stretches);
    us += own;
    ownUs += totalUs(stretches.filter(({ kind }) => kind === 'request'));
    const { out, in: input } = sizes.blocks;
    shares.push({
      station,
      name,
      out: 2 * out.length,
      in: 2 * input.length,
      exchanges: sizes.exchanges.length,
      us: own,
    });
  }
  return { drives: shares, us, own: us === 0 ? 0 : ownUs / us, left };
}

function sizesOf(
  index: SheetIndex,
  station: number,
  way: CycleWay,
  framing: ModbusFraming,
  replyDelayUs: number,
): { readonly blocks: CycleBlocks; readonly exchanges: readonly ExchangeSize[] } | string {
  const made = cycleBlocks(index);
  if (!made.ok) return made.error;
  const [blocks] = made.value;
  if (!blocks) return 'its sheet lists nothing that goes round';
  const words = new Array<number>(blocks.out.length).fill(0);
  const requests = cycleRequests(blocks, station, [words], way, framing, index.sheet.uss?.pkwWords);
  if (!requests.ok) return requests.error;
  return {
    blocks,
    exchanges: requests.value.map(({ inTurn, isInput }) => {
      const requestBytes = inTurn[0]?.length ?? 0;
      return { requestBytes, replyBytes: replyBytes(blocks, isInput, way, framing) ?? requestBytes, replyDelayUs };
    }),
  };
}

/** How long the answer is; null where it is as long as its request (USS). */
function replyBytes(blocks: CycleBlocks, isInput: boolean, way: CycleWay, framing: ModbusFraming): number | null {
  if (blocks.kind === 'process-data') return null;
  const values = new Array<number>(blocks.in.length).fill(0);
  const message: ModbusMessage = isInput
    ? { unit: 1, fc: way === 'one' ? 23 : blocks.inTable === 'input-register' ? 4 : 3, values }
    : { unit: 1, fc: 16, address: blocks.outFirst, quantity: blocks.out.length };
  const reply = framing.encode(message, 'response');
  return reply.ok ? reply.value.length : null;
}
