import type { ModbusMessage } from '../core/modbus/message';

/** Who may send before whom: Stop, then the user and what the user began, then what keeps a watchdog calm, then reading. */
export type Priority = 'stop' | 'user' | 'procedure' | 'keep-alive' | 'poll';

/** One request to be sent on a line. */
export interface LineRequest {
  readonly station: number;
  readonly bytes: Uint8Array;
  readonly priority: Priority;
  /** The stage or act behind it, for the trace. */
  readonly cause: string;
  /** Handed through to the result; 0 where nobody waits. */
  readonly ticket: number;
  /** The bytes go out as they are, and carry nothing along that was sent before. */
  readonly asTyped?: boolean;
  /** One of many that follow each other by themselves: presses go before it, and what is watched comes to its turn between two of them. */
  readonly yields?: boolean;
}

/**
 * How an exchange ended. Only `answered` and `exception` are certain: `may-be-late` fits this request and an earlier one that timed out,
 * `unconfirmed` is an answer that does not say yet whether the task was done. `sent` is a broadcast, `abandoned` was cut short by Stop, `closed` by the end of the line.
 */
export type ExchangeOutcome =
  | 'answered'
  | 'exception'
  | 'unconfirmed'
  | 'may-be-late'
  | 'timeout'
  | 'damaged'
  | 'foreign'
  | 'sent'
  | 'abandoned'
  | 'closed';

export interface ExchangeResult {
  readonly request: LineRequest;
  readonly exchange: number;
  readonly outcome: ExchangeOutcome;
  readonly reply: Uint8Array | null;
  /** What request and reply say; null where the request was not whole or no reply fits it. */
  readonly asked: ModbusMessage | null;
  readonly said: ModbusMessage | null;
  /** The older exchange whose answer it may be; absent where it is sure. */
  readonly older?: number;
  /** When the request's last stop bit left, and when the reply's last one came (or the wait ended); line clock, microseconds. */
  readonly sentUs: number;
  readonly endedUs: number;
}

/** Whether it is sure what became of the request. */
export const isCertain = ({ outcome }: Pick<ExchangeResult, 'outcome'>): boolean =>
  outcome === 'answered' || outcome === 'exception';

/** Whether the station is sure to have answered this request, so that what it says of itself may feed live values and state. */
export const isHeard = (result: Pick<ExchangeResult, 'outcome'>): boolean =>
  isCertain(result) || result.outcome === 'unconfirmed';
