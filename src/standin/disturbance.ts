/** What the yard does to a line on request; shares are 0 to 1, per byte or per reply. All of it comes from the yard's seed. */
export interface Disturbance {
  /** Share of bytes that get lost on the wire. */
  readonly dropByte: number;
  /** Share of bytes with one or two flipped bits. */
  readonly flipBits: number;
  /** Share of replies that never come. */
  readonly loseReply: number;
  /** Shortest and longest extra delay of a reply in microseconds, evenly spread between them. */
  readonly delayFromUs: number;
  readonly delayReplyUs: number;
  /** Share of replies that are sent twice, the second right behind the first. */
  readonly doubleReply: number;
  /** Share of replies that name another station than the one that was asked. */
  readonly foreignReply: number;
  /** Where the cable of the bench is open; on a two-wire line it is open both ways. */
  readonly open: 'nowhere' | 'everywhere' | 'from-drives';
  /** The two conductors are swapped at the bench's connector. */
  readonly swapped: boolean;
  /** The bench's adapter hears what it sends itself. */
  readonly echo: boolean;
  /** The bench's adapter turns around too late and misses the first character of each reply. */
  readonly lateTurnaround: boolean;
  /** A second master polls the line's stations. */
  readonly otherMaster: boolean;
  /** A second drive has this station number too; 0 = none. */
  readonly twin: number;
}

export const CALM: Disturbance = {
  dropByte: 0,
  flipBits: 0,
  loseReply: 0,
  delayFromUs: 0,
  delayReplyUs: 0,
  doubleReply: 0,
  foreignReply: 0,
  open: 'nowhere',
  swapped: false,
  echo: false,
  lateTurnaround: false,
  otherMaster: false,
  twin: 0,
};
