import type { Fault } from '../fault';
import type { Direction } from './layout';
import type { ModbusMessage } from './message';

/** Where the parts of a frame stand. `check` is its first byte, or -1 where the frame has none or was cut before it. */
export interface FrameShape {
  readonly bodyEnd: number;
  readonly check: number;
  /** The check agrees; over TCP, where there is none, the length does. */
  readonly checkGood: boolean;
}

/** One frame as far as it was understood: a faulty one gives all that it can, with its faults. */
export interface ModbusReading {
  readonly direction: Direction;
  readonly message: ModbusMessage | null;
  readonly faults: readonly Fault[];
  readonly shape: FrameShape;
}

export interface ModbusDecoded extends Omit<ModbusReading, 'direction'> {
  readonly direction: Direction | 'either';
  /** Both readings, when bytes and context leave the direction open. */
  readonly readings?: readonly ModbusReading[];
}

type Read = (bytes: Uint8Array, direction: Direction) => ModbusReading;

/**
 * Decodes one frame. Without a direction both are tried, and the one that fits better is told; `either` when they fit alike.
 */
export function decodeWith(read: Read, bytes: Uint8Array, direction?: Direction): ModbusDecoded {
  if (direction) return read(bytes, direction);
  const request = read(bytes, 'request');
  const response = read(bytes, 'response');
  const better = fit(bytes, request) - fit(bytes, response) || response.faults.length - request.faults.length;
  if (better !== 0) return better > 0 ? request : response;
  return { ...request, direction: 'either', readings: [request, response] };
}

const STRUCTURE: ReadonlySet<string> = new Set([
  'truncated',
  'trailing-bytes',
  'byte-count-mismatch',
  'unknown-function',
]);

/** How well a reading explains the bytes: structure and check agree, only the check, only the length, or nothing. */
function fit(bytes: Uint8Array, { shape, faults }: ModbusReading): number {
  const end = shape.check >= 0 ? shape.check + 2 : shape.checkGood ? shape.bodyEnd : -1;
  const wholeLength = end === bytes.length && !faults.some(({ code }) => STRUCTURE.has(code));
  return (shape.checkGood ? 2 : 0) + (wholeLength ? 1 : 0);
}
