import type { SerialSettings } from '../src/core/line/settings';
import { leavesOf } from '../src/core/bytes/field';
import { annotateUss } from '../src/core/protocol/annotate-uss';
import { TELEGRAMS, wordsIn } from '../src/core/profile/telegrams';
import type { ParameterRole } from '../src/core/sheet/parameter-section';
import { encodeUss } from '../src/core/uss/encode';
import { readUss } from '../src/core/uss/telegram';
import { shippedIndex } from './harness/sheets';
import { standinLine } from './harness/standin-line';

const K2: SerialSettings = { rate: 38400, dataBits: 8, parity: 'E', stopBits: 1 };
/** Number of the choice of telegram at the hoist. */
const CHOICE = '463.0';

/** The hoist by one of its sheets, set to one of its telegrams. */
async function hoist(slug: 'dunlin' | 'dunlin-telegram-3', kept: Record<string, number> = {}) {
  const line = await standinLine(slug, 'uss', [4], K2, 1, K2, kept);
  const places = line.protocol.placesOf(line.index);
  const pzd = (...words: readonly number[]): readonly number[] => {
    const built = encodeUss({ address: 4, pkwWords: 4, pzd: [...words] });
    if (!built.ok) throw new Error(built.error[0]?.text);
    return readUss(line.ask(built.value).reply ?? new Uint8Array(), 4).message?.pzd ?? [];
  };
  const write = (role: ParameterRole, pattern: number, known: Partial<Record<ParameterRole, number>> = {}) =>
    line.ask(places.write(4, line.index.byRole.get(role)!, pattern, (one) => known[one])!);
  return { ...line, pzd, write };
}

it('both sheets of the hoist have the words of their telegram, and one parameter channel for all else', () => {
  const [one, three] = [shippedIndex('dunlin'), shippedIndex('dunlin-telegram-3')];
  const [first, third] = [1, 3].map((number) => TELEGRAMS.find((telegram) => telegram.number === number)!);
  expect([one.sheet.uss?.pzdWords, three.sheet.uss?.pzdWords]).toEqual([wordsIn(first!.in), wordsIn(third!.in)]);
  const numbers = (index: typeof one): string[] =>
    index.parameters.flatMap(({ place, number }) => (place.kind === 'uss' ? [number] : []));
  expect(numbers(three)).toEqual(numbers(one));
  expect(three.byRole.get('speed-reference')).toMatchObject({ type: 'int32', place: { word: 1 } });
});

it('a telegram of the other length is not answered; which one it takes is chosen at the drive, and acts after a restart', async () => {
  const three = await hoist('dunlin-telegram-3');
  expect(three.pzd(0, 0)).toEqual([]);
  expect(three.pzd(0, 0, 0, 0, 0, 0, 0, 0, 0)).toHaveLength(9);
  const set = await hoist('dunlin-telegram-3', { [CHOICE]: 1 });
  expect(set.pzd(0, 0, 0, 0, 0, 0, 0, 0, 0)).toEqual([]);
  const one = await hoist('dunlin');
  const choice = one.index.byRole.get('telegram')!;
  const places = one.protocol.placesOf(one.index);
  // Storing takes some telegrams, in which it is sent again.
  for (let i = 0; i < 3; i++) one.ask(places.writeKept!(4, choice, [3])!);
  expect(one.pzd(0, 0)).toHaveLength(2);
  one.yard.drives.get(4)!.powerCycle();
  one.clock.advanceBy(5_000_000);
  expect(one.pzd(0, 0)).toEqual([]);
  expect(one.pzd(0, 0, 0, 0, 0, 0, 0, 0, 0)).toHaveLength(9);
});

it('full scale is 0x40000000; half of it is half the speed, there and back', async () => {
  const own = await hoist('dunlin-telegram-3', { '455.0': 0 });
  own.write('control-word', 0x047e);
  own.write('control-word', 0x047f);
  own.write('speed-reference', 0x2000_0000, { 'control-word': 0x047f });
  own.clock.advanceBy(10_000_000);
  const back = own.pzd(0x047f, 0x2000, 0, 0, 0, 0, 0, 0, 0);
  expect((back[1]! << 16) | back[2]!).toBe(0x2000_0000);
  // 25 Hz at four poles are 12.5 turns a second, and its encoder counts 8192 a turn.
  const position = (words: readonly number[]): number => words[5]! * 0x1_0000 + words[6]!;
  const from = position(back);
  const startUs = own.clock.now();
  own.clock.advanceBy(1_000_000);
  const later = position(own.pzd(0x047f, 0x2000, 0, 0, 0, 0, 0, 0, 0));
  const seconds = (own.clock.now() - startUs) / 1e6;
  expect((later - from) / 8192 / seconds).toBeCloseTo(12.5, 1);
  // Down: the counts are signed, and go back.
  own.write('speed-reference', 0xe000_0000, { 'control-word': 0x047f });
  own.clock.advanceBy(10_000_000);
  const down = own.pzd(0x047f, 0xe000, 0, 0, 0, 0, 0, 0, 0);
  expect((down[1]! << 16) | down[2]!).toBe(-0x2000_0000);
  expect(own.yard.drives.get(4)!.isTurning()).toBe(true);
});

it('gives a sign of life while the controller does, and follows the two bits of its encoder', async () => {
  const own = await hoist('dunlin-telegram-3');
  const beat = (life: number, encoder: number): readonly number[] => own.pzd(0, 0, 0, life << 12, encoder, 0, 0, 0, 0);
  expect(beat(0, 0)[3]).toBe(0);
  const signs = [1, 2, 3].map((life) => beat(life, 0)[3]! >> 12);
  expect(signs).toEqual([signs[0]!, signs[0]! + 1, signs[0]! + 2]);
  expect(beat(1, 0x4000).slice(4)).toEqual([0x4000, 0, 0, 0, 0]);
  const absolute = beat(1, 0x2000);
  expect([absolute[4], absolute.slice(5, 7)]).toEqual([0x2000, absolute.slice(7)]);
});

it('a telegram that only asks carries the whole set-point on, and Stop takes all of it back', async () => {
  const own = await hoist('dunlin-telegram-3');
  own.write('control-word', 0x047e);
  own.write('speed-reference', 0x1234_5678, { 'control-word': 0x047f });
  const [ask] = own.protocol.placesOf(own.index).read(4, [own.index.byNumber.get('120')!]);
  own.ask(ask!);
  const words = (bytes: Uint8Array): readonly number[] => readUss(bytes, 4).message?.pzd ?? [];
  const sent = own.entries.filter(({ direction }) => direction === 'sent');
  expect(words(sent.at(-1)!.bytes).slice(0, 3)).toEqual([0x047f, 0x1234, 0x5678]);
  own.master.stop(4);
  own.clock.advanceBy(20_000_000);
  const stop = own.entries.filter(({ direction, cause }) => direction === 'sent' && cause === 'Stop');
  expect(stop.length).toBeGreaterThan(0);
  for (const { bytes } of stop) expect(words(bytes)).toEqual([0x047e, 0, 0, 0, 0, 0, 0, 0, 0]);
  expect(own.yard.drives.get(4)!.isTurning()).toBe(false);
});

it('a value of two words is said once and whole, in the trace and over its bytes', async () => {
  const own = await hoist('dunlin-telegram-3');
  own.write('control-word', 0x047e);
  const result = own.write('speed-reference', 0x1000_0001, { 'control-word': 0x047f });
  const { bytes } = result.request;
  expect(own.protocol.sentence(bytes, 'request', null, own.index)).toMatch(
    /control 0x047F · [^,]+(?:, [^,]+)*, reference 268435457 = 12\.5\d* Hz(?:, [a-z ]+2 0x0000)?/,
  );
  expect(own.protocol.sentence(bytes, 'request', null, own.index).match(/Hz/g)).toHaveLength(1);
  const fields = own.protocol.anatomy(bytes, 'request');
  const leaves = leavesOf(annotateUss(fields, readUss(bytes, 4).message, 'request', own.index));
  const labels = leaves.map(({ label }) => label);
  expect(labels).toEqual(expect.arrayContaining(['main set-point', 'main set-point, word 2', 'control word 2']));
});
