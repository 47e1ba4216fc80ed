/** Why a port could not be opened, or went away while it was open. */
export const TROUBLES = [
  /** The other end sent a refusal: nothing listens at that port. */
  'refused',
  /** The system knows no way to that address. */
  'unreachable',
  /** No answer of any kind within the time to connect. */
  'no-answer',
  /** The local server does not go there: not a local address, or its own port. */
  'not-allowed',
  /** A limit of the local server: sockets, bytes, or rate. */
  'limit',
  'closed-by-far',
  'reset',
  /** Nothing crossed the socket for so long that the local server closed it. */
  'idle',
  'server-gone',
  'closed-here',
  /** Another program, or another tab, has the port. */
  'held',
  'no-such-port',
  'unplugged',
  /** This browser has no access to serial ports. */
  'no-access',
  'bad-settings',
] as const;
export type TroubleKind = (typeof TROUBLES)[number];

export interface Trouble {
  readonly kind: TroubleKind;
  /** One sentence for people. */
  readonly text: string;
}

/** A trouble of a line with its sentence. */
export const trouble = (kind: TroubleKind, text: string): Trouble => ({ kind, text });
