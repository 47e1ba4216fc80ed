/** What the yard does to a line on request; shares are 0 to 1, per byte or per reply. All of it comes from the yard's seed. */
export interface Disturbance {
  /** Share of bytes that get lost on the wire. */
  readonly dropByte: number;
  /** Share of bytes with one or two flipped bits. */
  readonly flipBits: number;
  /** Share of replies that never come. */
  readonly loseReply: number;
  /** Longest extra delay of a reply in microseconds, evenly spread from 0. */
  readonly delayReplyUs: number;
  /** Share of replies that name another station than the one that was asked. */
  readonly foreignReply: number;
}

export const CALM: Disturbance = { dropByte: 0, flipBits: 0, loseReply: 0, delayReplyUs: 0, foreignReply: 0 };
