import type { Field } from '../core/bytes/field';
import type { Direction } from '../core/direction';
import type { Fault } from '../core/fault';
import type { FrameSink, Splitter } from '../core/capture/frame-sink';
import type { Result } from '../core/result';
import type { Answer } from './protocol';

/** What a protocol offers to `decode`, `encode` and `split`. */
export interface FrameCodec {
  readonly decode: (bytes: Uint8Array, options: DecodeOptions) => Decoded;
  /** Throws `BadLine` for a message that is not of the protocol’s form. */
  readonly encode: (message: unknown, direction: Direction) => Result<Uint8Array, readonly Fault[]>;
  readonly split: (sink: FrameSink) => Splitter;
  /** Station and function of a frame, as far as the protocol has them. */
  readonly headOf: (
    frame: Uint8Array,
    direction: Direction,
  ) => { readonly unit: number | null; readonly fc: number | null };
}

export interface DecodeOptions {
  readonly direction?: Direction | undefined;
  readonly requestQuantity?: number | undefined;
  readonly pkwWords?: number | undefined;
}

export interface Decoded {
  readonly direction: Direction | 'either';
  readonly message: unknown;
  readonly faults: readonly Fault[];
  readonly fields: readonly Field[];
  readonly readings?: readonly Answer[];
}
