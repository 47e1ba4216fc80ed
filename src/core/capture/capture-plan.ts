import type { Dialect } from '../dialect/dialect';
import type { LogMapping } from './text-log';

export type CaptureProtocol = 'modbus-rtu' | 'modbus-ascii' | 'modbus-tcp' | 'uss' | 'dialect';

/** What a file holds, and how it is to be read. */
export interface CapturePlan {
  readonly form: 'binary' | 'packets' | 'hex-dump' | 'text-log';
  readonly protocol: CaptureProtocol;
  readonly dialect?: Dialect;
  /** For packets: the TCP ports that Modbus is spoken on. */
  readonly ports: readonly number[];
  /** For records with times: a silence of this length ends a frame, in microseconds. */
  readonly gapUs: number;
  readonly mapping?: LogMapping;
}
