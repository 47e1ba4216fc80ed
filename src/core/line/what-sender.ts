import { receiveUart, type UartEnd, type UartReceived } from './uart';
import type { SerialSettings } from './settings';

/** Rates that drives and adapters have, most usual first within a drive's life. */
export const USUAL_RATES = [9600, 19200, 38400, 115200, 57600, 4800, 2400, 1200] as const;
export const USUAL_FORMS = [
  { dataBits: 8, parity: 'E', stopBits: 1 },
  { dataBits: 8, parity: 'N', stopBits: 1 },
  { dataBits: 8, parity: 'N', stopBits: 2 },
  { dataBits: 8, parity: 'O', stopBits: 1 },
  { dataBits: 8, parity: 'E', stopBits: 2 },
  { dataBits: 8, parity: 'O', stopBits: 2 },
  { dataBits: 7, parity: 'E', stopBits: 1 },
  { dataBits: 7, parity: 'O', stopBits: 1 },
] as const satisfies readonly Omit<SerialSettings, 'rate'>[];

/** Settings of the other end that explain what was heard, and how well. */
export interface Explanation {
  readonly sender: SerialSettings;
  readonly inverted: boolean;
  /** Share of what was heard that these settings give, 0 to 1. */
  readonly fit: number;
  /** Other settings that would have given the same; nobody can tell them apart from these bytes. */
  readonly alike: readonly SerialSettings[];
}

const endOf = ({ rate, ...form }: SerialSettings, scale: bigint = 1000n): UartEnd => ({
  ...form,
  rate: { num: BigInt(Math.round(rate)) * scale, den: 1000n },
});

const simulate = (
  sender: SerialSettings,
  receiver: SerialSettings,
  bytes: Uint8Array,
  inverted: boolean,
  perMille = 0n,
) =>
  receiveUart(endOf(sender), endOf(receiver, 1000n + perMille), {
    bytes,
    gapBits: 0,
    idleBeforeBits: 20,
    idleAfterBits: 40,
    inverted,
  });

/** What a receiver hears of one character, and whether its clock's tolerance may change it. */
export interface HeardSet {
  /** All readings of the whole that a clock error within the tolerance can give. */
  readonly readings: readonly (readonly number[])[];
  /** One reading only: the sampling instants keep clear of the edges. */
  readonly sure: boolean;
}

/**
 * What may be read where the sampling instants fall on or near edges: the receiver's clock is taken a little slow, right and a little fast
 * (in thousandths), since a tenth of a percent decides there.
 */
export function mayBeRead(
  sender: SerialSettings,
  receiver: SerialSettings,
  bytes: Uint8Array,
  tolerancePerMille = 5,
): HeardSet {
  const steps = [0, 1, -1, tolerancePerMille, -tolerancePerMille];
  const readings = new Map<string, readonly number[]>();
  for (const step of steps) {
    const reading = simulate(sender, receiver, bytes, false, BigInt(step)).characters.map(({ byte }) => byte);
    readings.set(reading.join(' '), reading);
  }
  return { readings: [...readings.values()], sure: readings.size === 1 };
}

/** A receiver at half the sender's rate, or a third, samples on the sender's edges. */
const onEdges = (sender: SerialSettings, receiver: SerialSettings): boolean =>
  sender.rate > receiver.rate && sender.rate % receiver.rate === 0;

/** Length of the longest run that two byte lists share in order, over the longer one: 1 = equal. */
function likeness(a: readonly number[], b: readonly number[]): number {
  const most = Math.max(a.length, b.length);
  if (most === 0) return 1;
  let previous = new Array<number>(b.length + 1).fill(0);
  for (const byte of a) {
    const row = [0];
    for (let j = 1; j <= b.length; j++)
      row.push(byte === b[j - 1] ? (previous[j - 1] ?? 0) + 1 : Math.max(previous[j] ?? 0, row[j - 1] ?? 0));
    previous = row;
  }
  return (previous[b.length] ?? 0) / most;
}

/** What came: bytes with their faults, as the receiver told them. */
export interface Heard {
  readonly bytes: readonly number[];
  readonly framingErrors: number;
  readonly parityErrors: number;
}

const faultsOf = ({ characters }: UartReceived) => ({
  framing: characters.filter(({ frameError }) => frameError).length,
  parity: characters.filter(({ parityError }) => parityError).length,
});

/**
 * Ranks settings of the sender that explain what a receiver heard of bytes that are known: a frame that must have been sent, an echo, a
 * poll of another master. Settings that would look the same are named with each. Best first; poor ones are left out.
 */
export function explainHeard(
  heard: Heard,
  expected: Uint8Array,
  receiver: SerialSettings,
  rates: readonly number[] = USUAL_RATES,
): readonly Explanation[] {
  const groups = new Map<
    string,
    { readonly sender: SerialSettings; readonly inverted: boolean; fit: number; alike: SerialSettings[] }
  >();
  for (const inverted of [false, true])
    for (const rate of rates)
      for (const form of USUAL_FORMS) {
        const sender: SerialSettings = { rate, ...form };
        const received = simulate(sender, receiver, expected, inverted);
        const bytes = received.characters.map(({ byte }) => byte);
        const { framing, parity } = faultsOf(received);
        // Where samples fall on edges any reading of the set may have come; the best one counts.
        const readings =
          !inverted && onEdges(sender, receiver) ? mayBeRead(sender, receiver, expected).readings : [bytes];
        const fit = Math.max(...readings.map((reading) => fitOf(heard, reading, framing, parity)));
        if (fit < 0.5) continue;
        const key = `${inverted} ${bytes.join(' ')} ${framing} ${parity}`;
        const known = groups.get(key);
        if (known) known.alike.push(sender);
        else groups.set(key, { sender, inverted, fit, alike: [] });
      }
  return [...groups.values()].sort((a, b) => b.fit - a.fit);
}

/** Bytes count most; that faults came, and about how many, decides between settings that give the same bytes. */
function fitOf(heard: Heard, bytes: readonly number[], framing: number, parity: number): number {
  const size = Math.max(1, bytes.length);
  const off = Math.abs(framing - heard.framingErrors) + Math.abs(parity - heard.parityErrors);
  return likeness(heard.bytes, bytes) * (1 - 0.3 * Math.min(1, off / size));
}

/** What the bytes alone say about the other end's rate, where nothing is known of what was sent (common practice, no source). */
export interface RateHint {
  readonly ratio: 'sender-slower-2' | 'sender-slower-4' | 'sender-faster' | 'inverted' | 'parity' | 'none';
  readonly text: string;
}

const QUARTER: ReadonlySet<number> = new Set([0x00, 0x78, 0x80, 0xf8, 0x86, 0xe0, 0x7e, 0xfe, 0x98, 0x66, 0xe6]);
const FOURFOLD: ReadonlySet<number> = new Set([0x00, 0x78, 0x80, 0xf8]);

/** Recognises the junk of the usual mismatches. At least a few bytes are needed to say anything. */
export function rateHint(heard: Heard): RateHint {
  const { bytes, framingErrors, parityErrors } = heard;
  const none: RateHint = { ratio: 'none', text: '' };
  if (bytes.length < 4) return none;
  const share = (isSo: (byte: number) => boolean): number => bytes.filter(isSo).length / bytes.length;
  if (share((byte) => FOURFOLD.has(byte)) > 0.9)
    return {
      ratio: 'sender-slower-4',
      text: 'only 00, 78, 80 and F8 came: the sender is four times as slow as this end',
    };
  if (share((byte) => byte % 2 === 0) > 0.9 && share((byte) => QUARTER.has(byte)) > 0.5)
    return { ratio: 'sender-slower-2', text: 'only even values came: the sender is about half as fast as this end' };
  if (share((byte) => byte >= 0xf0) > 0.6)
    return {
      ratio: 'sender-faster',
      text: 'nearly all bytes are FF, FE or FC and the like: the sender is faster than this end',
    };
  if (parityErrors > bytes.length * 0.4 && framingErrors < bytes.length * 0.2)
    return {
      ratio: 'parity',
      text: 'the characters are whole but half or more of them have a wrong parity: the parity differs',
    };
  return none;
}
