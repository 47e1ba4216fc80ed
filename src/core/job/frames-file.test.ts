import type { KeptFrame } from './job';
import { framesFileText, knownFrames, movedFrame, readFramesText, withFrames } from './frames-file';

const frame = (id: string, hex = '0306'): KeptFrame => ({
  id,
  name: `frame ${id}`,
  note: '',
  protocol: 'modbus-rtu',
  hex,
});
const LIST = ['a', 'b', 'c'].map((id) => frame(id));

it('what is written is read again', () => {
  expect(readFramesText(framesFileText(LIST))).toEqual({ ok: true, value: LIST });
});

it.each([
  ['no JSON', '{', ''],
  ['another kind of file', JSON.stringify({ format: 1, kind: 'job', frames: [] }), 'kind'],
  ['hex in capitals', framesFileText([frame('a', 'AB')]), 'frames.0.hex'],
  ['half a byte', framesFileText([frame('a', 'abc')]), 'frames.0.hex'],
  ['a frame too long', framesFileText([frame('a', '00'.repeat(1025))]), 'frames.0.hex'],
  ['an unknown protocol', framesFileText([{ ...frame('a'), protocol: 'smoke' as 'uss' }]), 'frames.0.protocol'],
])('refuses %s with the place', (_, text, path) => {
  const read = readFramesText(text);
  expect(read.ok ? null : read.error[0]?.path).toBe(path);
});

it.each([
  [0, 2, 'bca'],
  [2, 0, 'cab'],
  [1, 1, 'abc'],
  [5, 0, 'abc'],
])('moved from %i to %i', (from, to, order) => {
  expect(
    movedFrame(LIST, from, to)
      .map(({ id }) => id)
      .join(''),
  ).toBe(order);
});

it.each([
  ['all new', ['x', 'y'], 'replace', 0, 'a:old b:old c:old x:new y:new'],
  ['one known, put in its place', ['b', 'x'], 'replace', 1, 'a:old b:new c:old x:new'],
  ['one known, both kept', ['b', 'x'], 'both', 1, 'a:old b:old c:old fresh1:new x:new'],
  ['an id twice in the file', ['x', 'x'], 'replace', 0, 'a:old b:old c:old x:new fresh1:new'],
  ['a known id twice in the file', ['a', 'a'], 'replace', 2, 'a:new b:old c:old fresh1:new'],
] as const)('taken in: %s', (_, ids, how, known, expected) => {
  const old = LIST.map((one) => ({ ...one, note: 'old' }));
  const found = ids.map((id) => ({ ...frame(id), note: 'new' }));
  let fresh = 0;
  expect(knownFrames(old, found)).toBe(known);
  expect(
    withFrames(old, found, how, () => `fresh${++fresh}`)
      .map(({ id, note }) => `${id}:${note}`)
      .join(' '),
  ).toBe(expected);
});
