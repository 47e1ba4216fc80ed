import type { Fault } from '../fault';
import type { Direction } from '../direction';
import type { ModbusMessage } from './message';

/** Where the parts of a frame stand. `check` is its first byte, or -1 where the frame has none or was cut before it. */
export interface FrameShape {
  readonly bodyEnd: number;
  readonly check: number;
  /** The check agrees; over TCP, where there is none, the length does. */
  readonly checkGood: boolean;
  /** Where the frame ends, with all that closes it. */
  readonly end: number;
}

/** One frame as far as it was understood: a faulty one gives all that it can, with its faults. */
export interface ModbusReading {
  readonly direction: Direction;
  readonly message: ModbusMessage | null;
  readonly faults: readonly Fault[];
  readonly shape: FrameShape;
}

/** A reading with what speaks for it, 0 to 1; the likelihoods of a frame's readings add up to 1. */
export interface LikelyReading extends ModbusReading {
  readonly likelihood: number;
  readonly because: string;
}

export interface ModbusDecoded extends Omit<ModbusReading, 'direction'> {
  readonly direction: Direction | 'either';
  /** Both readings, when the bytes leave the direction open; the likelier one first. */
  readonly readings?: readonly LikelyReading[];
}

/** What is known beside the bytes. */
export interface SniffContext {
  /** The frame that was on the line before this one, if it was understood. */
  readonly previous?: { readonly direction: Direction; readonly message: ModbusMessage };
  /** Whether the station's sheet has a register at an address. */
  readonly knows?: (address: number) => boolean;
}

type Read = (bytes: Uint8Array, direction: Direction) => ModbusReading;

/** From here on a reading counts as settled. */
const SETTLED = 0.9;

/**
 * Decodes one frame. Without a direction both are tried, and the one that fits better is told; where they fit alike, the context decides, and
 * without one the direction is `either`.
 */
export function decodeWith(
  read: Read,
  bytes: Uint8Array,
  direction?: Direction,
  context?: SniffContext,
): ModbusDecoded {
  if (direction) return read(bytes, direction);
  const request = read(bytes, 'request');
  const response = read(bytes, 'response');
  const better = fit(bytes, request) - fit(bytes, response) || response.faults.length - request.faults.length;
  if (better !== 0) return better > 0 ? request : response;
  const readings = weigh(request, response, context);
  const [first] = readings;
  return { ...first, direction: first.likelihood >= SETTLED ? first.direction : 'either', readings };
}

/** How much likelier a request is than a response, as odds, for each thing that is known. */
function weigh(
  request: ModbusReading,
  response: ModbusReading,
  { previous, knows }: SniffContext = {},
): readonly [LikelyReading, LikelyReading] {
  let odds = 1;
  let because = 'the bytes read alike both ways';
  const head = request.message ?? response.message;
  if (previous) {
    const open =
      previous.direction === 'request' && previous.message.unit === head?.unit && previous.message.fc === head.fc;
    odds *= open ? 1 / 20 : 20;
    because = open
      ? 'a request for the same function to the same station stands open before it'
      : 'no request stands open before it';
  }
  const { address } = request.message ?? {};
  if (knows && address !== undefined && response.message?.address === undefined) {
    odds *= knows(address) ? 3 : 1 / 3;
    because += knows(address)
      ? '; the sheet has a register at the address that it would ask for'
      : '; the sheet has no register at the address that it would ask for';
  }
  const likelihood = odds / (1 + odds);
  const asked = { ...request, likelihood, because };
  const told = { ...response, likelihood: 1 - likelihood, because };
  return odds >= 1 ? [asked, told] : [told, asked];
}

const STRUCTURE: ReadonlySet<string> = new Set([
  'too-short',
  'truncated',
  'trailing-bytes',
  'byte-count-mismatch',
  'length-mismatch',
  'unknown-function',
]);

/** How well a reading explains the bytes: structure and check agree, only the check, only the length, or nothing. */
function fit(bytes: Uint8Array, { shape, faults }: ModbusReading): number {
  const wholeLength = shape.end === bytes.length && !faults.some(({ code }) => STRUCTURE.has(code));
  return (shape.checkGood ? 2 : 0) + (wholeLength ? 1 : 0);
}
