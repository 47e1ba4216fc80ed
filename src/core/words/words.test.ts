import { ternIndex } from '../../../tests/harness/sheets';
import { binaryText, compareWords, contradictionsIn, maskOf, readWord, roleActive, withBit } from './read';
import { asksToTurn, statusSentence } from './sentence';
import type { WordSpec } from './spec';

const { control, status } = ternIndex().words!;

it('reads active-low bits by what they do, not by their level', () => {
  const stop = (word: number) => readWord(control, word)[0];
  expect(stop(0)).toMatchObject({ level: 0, active: true, text: 'stops on the ramp' });
  expect(stop(1)).toMatchObject({ level: 1, active: false, text: 'released' });
});

it('says so when a bit without a meaning is set', () => {
  expect(readWord(control, 0b10)[1]).toMatchObject({
    level: 1,
    spec: null,
    text: 'set, though the sheet gives it no meaning',
  });
});

it.each([
  [0x0005, 0x000d, ['run 1']],
  [0x000d, 0x002d, ['reverse 1']],
  [0x000d, 0x400d, []],
  [0x000d, 0x0000, ['stop 0', 'enable 0', 'run 0']],
])('from %i to %i changes %j (the marker bit is not compared)', (from, to, changes) => {
  expect(compareWords(control, from, to).map(({ name, to: level }) => `${name} ${level}`)).toEqual(changes);
});

it.each([
  [0x000d, []],
  [0x004d, ['run and jog together contradict each other']],
])('contradictions in %i', (word, sentences) => {
  expect(contradictionsIn(control, word)).toEqual(sentences);
});

it.each([
  [0x0004, false],
  [0x0005, false],
  [0x000d, true],
  [0x002d, true],
  [0x0045, true],
])('%i asks to turn: %s', (word, turns) => {
  expect(asksToTurn(control, word)).toBe(turns);
});

it.each([
  [0x2a01, 'in remote, ready, standing'],
  [0x2a05, 'in remote, enabled, standing'],
  [0x2a0d, 'in remote, running forward'],
  [0x2b2d, 'in remote, running backward, at speed'],
  [0x2a4d, 'in remote, jogging forward'],
  [0x2210, 'fault, in remote, not ready, standing, commands not from the network'],
  [0x0001, 'in local, ready, standing, commands not from the network, reference not from the network'],
])('status %i in words', (word, sentence) => {
  expect(statusSentence(status, word)).toBe(sentence);
});

describe('widths of 8, 16 and 32 bits', () => {
  const spec = (width: WordSpec['width']): WordSpec => ({
    width,
    bits: [
      { bit: width - 1, name: 'top', one: 'on', zero: 'off' },
      { bit: 0, name: 'low', one: 'on', zero: 'off', ignored: true },
    ],
  });

  it.each([
    [8, 0x80, 0xfe],
    [16, 0x8000, 0xfffe],
    [32, 0x80000000, 0xfffffffe],
  ] as const)('%i bits: the top bit is read, the ignored one is masked', (width, word, mask) => {
    const bits = readWord(spec(width), word);
    expect(bits).toHaveLength(width);
    expect(bits[width - 1]).toMatchObject({ level: 1, text: 'on' });
    expect(maskOf(spec(width))).toBe(mask);
    expect(compareWords(spec(width), 0, word).map(({ name }) => name)).toEqual(['top']);
  });

  it('sets and clears bit 31 without a sign', () => {
    expect(withBit(0, 31, 1)).toBe(0x80000000);
    expect(withBit(0xffffffff, 31, 0)).toBe(0x7fffffff);
  });
});

it('a role that the sheet does not have is null, not false', () => {
  expect(roleActive({ width: 8, bits: [] }, 'run', 0xff)).toBeNull();
});

it('binary in groups of four', () => {
  expect(binaryText(0x0077, 16)).toBe('0000 0000 0111 0111');
});
