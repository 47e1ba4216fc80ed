/** What can be wrong with bytes or with typed input. A code is never reused with another meaning. */
export type FaultCode =
  | 'checksum-mismatch'
  | 'truncated'
  | 'too-short'
  | 'too-long'
  | 'trailing-bytes'
  | 'byte-count-mismatch'
  | 'quantity-out-of-range'
  | 'value-out-of-range'
  | 'address-overflow'
  | 'unknown-function'
  | 'odd-hex-digits'
  | 'bad-hex-digit'
  | 'bad-token'
  | 'unclosed-text'
  | 'empty'
  | 'missing-field'
  | 'reply-mismatch'
  | 'wrong-protocol-id'
  | 'length-mismatch'
  | 'missing-start'
  | 'missing-end'
  | 'restarted'
  | 'missing-check'
  | 'not-allowed'
  | 'clipped'
  | 'not-canonical';

/** One fault at a place: `start` inclusive, `end` exclusive, in bytes on the wire (in characters for typed text). */
export interface Fault {
  readonly code: FaultCode;
  readonly start: number;
  readonly end: number;
  readonly text: string;
}

/** A fault at the bytes from `start` up to `end`, which is not in it. */
export const fault = (code: FaultCode, start: number, end: number, text: string): Fault => ({ code, start, end, text });
