/** Why a drive refuses a request, whatever the protocol's number for it. */
export type RefusalWhy =
  /** It does not know such a request. */
  | 'function'
  /** There is no such register, parameter or index. */
  | 'place'
  | 'value'
  /** It may be read, not changed. */
  | 'fixed'
  /** Whoever asks has no right to change it. */
  | 'right'
  /** Not in its present state. */
  | 'state'
  | 'busy'
  /** A gateway has no way to the line, or got no answer on it. */
  | 'path'
  | 'target'
  | 'other';

/** A refusal by its number, in the words of its protocol. */
export interface Refusal {
  readonly why: RefusalWhy;
  readonly text: string;
}
