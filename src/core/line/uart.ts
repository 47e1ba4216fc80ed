import type { SerialSettings } from './settings';

/** One end of an asynchronous line. The rate is an exact fraction in bit/s, so that sampling instants on an edge are exact too. */
export interface UartEnd extends Omit<SerialSettings, 'rate'> {
  readonly rate: { readonly num: bigint; readonly den: bigint };
}

/** What the sender puts on the line. Counts of idle bits are in the sender's bits. */
export interface UartSend {
  readonly bytes: Uint8Array;
  readonly gapBits: number;
  readonly idleBeforeBits: number;
  readonly idleAfterBits: number;
  /** After the bytes the line is held low for so many bits of the sender. */
  readonly breakBits?: number;
  /** The two conductors are swapped, so every level is the other one, idle included. */
  readonly inverted: boolean;
}

export interface ReceivedCharacter {
  readonly byte: number;
  readonly frameError: boolean;
  readonly parityError: boolean;
  /** Falling edge of the start bit, in microseconds from the first idle bit of the line. */
  readonly startUs: number;
}

export interface UartReceived {
  readonly characters: readonly ReceivedCharacter[];
  /** Falling edges whose start bit read high in its middle. */
  readonly falseStarts: number;
  /** Characters during which the line was low all the time. */
  readonly breaks: number;
}

type Level = 0 | 1;

const ones = (byte: number): number => {
  let count = 0;
  for (let rest = byte; rest > 0; rest >>= 1) count += rest & 1;
  return count;
};

const parityBit = (byte: number, parity: SerialSettings['parity']): Level =>
  (ones(byte) + (parity === 'O' ? 1 : 0)) % 2 === 1 ? 1 : 0;

/** Levels of the line, one per bit of the sender. */
function waveform(
  { dataBits, parity, stopBits }: UartEnd,
  { bytes, gapBits, idleBeforeBits, idleAfterBits, breakBits = 0, inverted }: UartSend,
): readonly Level[] {
  const levels: Level[] = [];
  const idle = (count: number): void => {
    for (let i = 0; i < count; i++) levels.push(1);
  };
  idle(idleBeforeBits);
  bytes.forEach((full, i) => {
    if (i > 0) idle(gapBits);
    const byte = full & ((1 << dataBits) - 1);
    levels.push(0);
    for (let bit = 0; bit < dataBits; bit++) levels.push(((byte >> bit) & 1) as Level);
    if (parity !== 'N') levels.push(parityBit(byte, parity));
    idle(stopBits);
  });
  for (let i = 0; i < breakBits; i++) levels.push(0);
  idle(idleAfterBits);
  return inverted ? levels.map((level): Level => (level === 1 ? 0 : 1)) : levels;
}

/** Time in units in which a sender's bit and half a receiver's bit are both whole numbers. */
interface Ticks {
  readonly senderBit: bigint;
  readonly halfReceiverBit: bigint;
  readonly perSecond: bigint;
}

const ticksOf = (sender: UartEnd, receiver: UartEnd): Ticks => ({
  senderBit: 2n * receiver.rate.num * sender.rate.den,
  halfReceiverBit: receiver.rate.den * sender.rate.num,
  perSecond: 2n * sender.rate.num * receiver.rate.num,
});

/** Ticks as microseconds, exact to a millionth of one before the last division. */
const microseconds = (ticks: bigint, perSecond: bigint): number =>
  Number((ticks * 1_000_000_000_000n) / perSecond) / 1e6;

/**
 * What a receiver makes of what a sender sent. It starts at a falling edge, samples each bit once in its middle counted from that edge (a sample
 * on an edge sees the level after it), drops a start bit that reads high, checks one stop bit, and looks for the next falling edge from the
 * middle of that on, so a line that stays low starts nothing. The line is idle before and after for good. Linear in the bits.
 */
export function receiveUart(sender: UartEnd, receiver: UartEnd, send: UartSend): UartReceived {
  const levels = waveform(sender, send);
  const { senderBit, halfReceiverBit, perSecond } = ticksOf(sender, receiver);
  const rest: Level = send.inverted ? 0 : 1;
  const levelAt = (tick: bigint): Level => levels[Number(tick / senderBit)] ?? rest;
  const sample = (edge: bigint, bit: number): Level => levelAt(edge + BigInt(2 * bit + 1) * halfReceiverBit);
  const parityBits = receiver.parity === 'N' ? 0 : 1;
  const stopAt = 1 + receiver.dataBits + parityBits;
  const characters: ReceivedCharacter[] = [];
  let falseStarts = 0;
  let breaks = 0;
  /** Next edge is looked for from this bit of the sender on. */
  let from = 1;
  for (let edgeBit = fallingEdge(levels, from); edgeBit >= 0; edgeBit = fallingEdge(levels, from)) {
    const edge = BigInt(edgeBit) * senderBit;
    if (sample(edge, 0) === 1) {
      falseStarts++;
      from = Math.max(edgeBit + 1, firstBitFrom(edge + halfReceiverBit, senderBit));
      continue;
    }
    const bits = Array.from({ length: receiver.dataBits + parityBits }, (_, i) => sample(edge, i + 1));
    const stop = sample(edge, stopAt);
    const byte = bits.slice(0, receiver.dataBits).reduce<number>((value, level, i) => value | (level << i), 0);
    const parityError = parityBits === 1 && bits[receiver.dataBits] !== parityBit(byte, receiver.parity);
    if (stop === 0 && bits.every((level) => level === 0)) breaks++;
    characters.push({
      byte,
      frameError: stop === 0,
      parityError,
      startUs: microseconds(edge, perSecond),
    });
    from = Math.max(edgeBit + 1, firstBitFrom(edge + BigInt(2 * stopAt + 1) * halfReceiverBit, senderBit));
  }
  return { characters, falseStarts, breaks };
}

/** The first bit of the sender that begins at or after a tick. */
const firstBitFrom = (tick: bigint, senderBit: bigint): number => Number((tick + senderBit - 1n) / senderBit);

function fallingEdge(levels: readonly Level[], from: number): number {
  for (let at = Math.max(1, from); at < levels.length; at++) if (levels[at] === 0 && levels[at - 1] === 1) return at;
  return -1;
}
