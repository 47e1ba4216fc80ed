/** @jest-environment node */
import { receiveUart, type UartEnd } from '../src/core/line/uart';
import { pick, seededRandom } from '../src/core/random/random';

/**
 * A second receiver, written another way: it walks through time in steps of a 64th of a bit of the faster end (floats, no fractions) with
 * a state machine, as a piece of hardware would. Cases in which a sampling instant comes close to an edge are left out: there both may be right.
 */
const STEPS = 64;

interface Heard {
  readonly bytes: readonly number[];
  readonly errors: readonly string[];
  readonly unsure: boolean;
}

function walk(sender: UartEnd, receiver: UartEnd, bytes: readonly number[], gapBits: number, inverted: boolean): Heard {
  const rateOf = ({ rate }: UartEnd): number => Number(rate.num) / Number(rate.den);
  const [tx, rx] = [rateOf(sender), rateOf(receiver)];
  const step = 1 / (Math.max(tx, rx) * STEPS);
  const levels: number[] = Array.from({ length: 20 }, () => 1);
  bytes.forEach((byte, i) => {
    if (i > 0) for (let k = 0; k < gapBits; k++) levels.push(1);
    levels.push(0);
    let parity = sender.parity === 'O' ? 1 : 0;
    for (let k = 0; k < sender.dataBits; k++) {
      const bit = Math.floor(byte / 2 ** k) % 2;
      parity = (parity + bit) % 2;
      levels.push(bit);
    }
    if (sender.parity !== 'N') levels.push(parity);
    for (let k = 0; k < sender.stopBits; k++) levels.push(1);
  });
  for (let k = 0; k < 40; k++) levels.push(1);
  const at = (t: number): number => {
    const level = levels[Math.floor(t * tx)] ?? 1;
    return inverted ? 1 - level : level;
  };
  const nearEdge = (t: number): boolean => {
    const inBit = (t * tx) % 1;
    return inBit < 0.004 || inBit > 0.996;
  };
  const parityBits = receiver.parity === 'N' ? 0 : 1;
  const total = 2 + receiver.dataBits + parityBits;
  const out: number[] = [];
  const errors: string[] = [];
  let unsure = false;
  let sampleAt: number[] = [];
  let got: number[] = [];
  let last = at(step / 2);
  const endT = levels.length / tx;
  for (let t = step / 2; t < endT; t += step) {
    const level = at(t);
    if (sampleAt.length === 0) {
      if (last === 1 && level === 0) {
        // The edge itself lies on the border of a sender's bit.
        const edge = Math.round(t * tx) / tx;
        sampleAt = Array.from({ length: total }, (_, k) => edge + (k + 0.5) / rx);
        got = [];
      }
    } else if (t >= (sampleAt[got.length] ?? Infinity)) {
      const instant = sampleAt[got.length] ?? t;
      if (nearEdge(instant)) unsure = true;
      got.push(at(instant));
      if (got[0] === 1) sampleAt = [];
      else if (got.length === total) {
        const data = got.slice(1, 1 + receiver.dataBits);
        const byte = data.reduce((sum, bit, k) => sum + bit * 2 ** k, 0);
        const ones = data.reduce((sum, bit) => sum + bit, 0);
        const parity =
          parityBits === 0 || got[1 + receiver.dataBits] === (ones + (receiver.parity === 'O' ? 1 : 0)) % 2;
        out.push(byte);
        errors.push(`${got[total - 1] === 0 ? 'F' : ''}${parity ? '' : 'P'}`);
        sampleAt = [];
      }
    }
    last = level;
  }
  return { bytes: out, errors, unsure };
}

const end = (num: number, den: number, form: string): UartEnd => ({
  rate: { num: BigInt(num), den: BigInt(den) },
  dataBits: form.startsWith('7') ? 7 : 8,
  parity: form[1] as UartEnd['parity'],
  stopBits: form.endsWith('2') ? 2 : 1,
});

const FORMS = ['8N1', '8E1', '8O1', '8N2', '8E2', '7E1', '7O1', '7N1', '7N2'];
/** Receiver's rate over the sender's: the usual wrong rates, and clock errors of 1 to 8 percent either way. */
const RATIOS = [
  [1, 1],
  [2, 1],
  [1, 2],
  [4, 1],
  [12, 1],
  [1, 4],
  [3, 2],
  ...[1, 2, 3, 4, 5, 6, 7, 8].flatMap((percent) => [
    [100 + percent, 100],
    [100 - percent, 100],
  ]),
] as const;

it('the bit model agrees with a receiver written another way, wherever its samples keep clear of edges', () => {
  const random = seededRandom(77);
  let compared = 0;
  let unsure = 0;
  for (let i = 0; i < 700; i++) {
    const [num = 1, den = 1] = RATIOS[pick(random, RATIOS.length)] ?? [];
    const sender = end(9600, 1, FORMS[pick(random, FORMS.length)] ?? '8N1');
    const receiver = end(9600 * num, den, FORMS[pick(random, FORMS.length)] ?? '8N1');
    const bytes = Array.from({ length: 1 + pick(random, 3) }, () => pick(random, 256));
    const gapBits = [0, 0, 1, 5][pick(random, 4)] ?? 0;
    const inverted = pick(random, 5) === 0;
    const heard = walk(sender, receiver, bytes, gapBits, inverted);
    if (heard.unsure) {
      unsure++;
      continue;
    }
    const { characters } = receiveUart(sender, receiver, {
      bytes: Uint8Array.from(bytes),
      gapBits,
      idleBeforeBits: 20,
      idleAfterBits: 40,
      inverted,
    });
    // A character whose samples run past the end of the line is the idle line's matter, not compared here.
    const whole = Math.min(characters.length, heard.bytes.length);
    const told = characters
      .slice(0, whole)
      .map(({ byte, frameError, parityError }) => `${byte}${frameError ? 'F' : ''}${parityError ? 'P' : ''}`);
    const mine = heard.bytes.slice(0, whole).map((byte, k) => `${byte}${heard.errors[k] ?? ''}`);
    expect(`case ${i}: ${told.join(' ')}`).toBe(`case ${i}: ${mine.join(' ')}`);
    expect(Math.abs(characters.length - heard.bytes.length)).toBeLessThanOrEqual(inverted ? 1 : 0);
    compared++;
  }
  process.stdout.write(`${compared} cases compared, ${unsure} left out because a sample fell on an edge\n`);
  expect(compared).toBeGreaterThan(350);
}, 60_000);
