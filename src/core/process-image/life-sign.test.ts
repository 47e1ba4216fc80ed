import { shippedIndex } from '../../../tests/harness/sheets';
import { againstLife, blocksInTurn, lifeSignOf, lifeWords, mayCarryLife, type LifeForm } from './life-sign';

it('a toggled bit has two turns, and the other bits stay', () => {
  const sign = lifeSignOf('toggle', ' 3 ');
  expect(sign.ok && lifeWords(sign.value, 0x804f)).toEqual([0x8047, 0x804f]);
  expect(lifeSignOf('toggle', '16')).toEqual({ ok: false, error: 'a bit from 0 to 15' });
  expect(lifeSignOf('toggle', '')).toMatchObject({ ok: false });
});

it('a byte counts from 0, four bits from 1, and the rest of the word stays', () => {
  const byte = lifeSignOf('byte', '');
  const bytes = byte.ok ? lifeWords(byte.value, 0x12ff) : [];
  expect([bytes.length, bytes[0], bytes[1], bytes[255]]).toEqual([256, 0x1200, 0x1201, 0x12ff]);
  const four = lifeSignOf('nibble', '');
  // IEC 61800-7-203, from memory: the controller's sign of life is 1 to 15, and 0 is none.
  expect(four.ok && lifeWords(four.value, 0x0abc)).toEqual(
    Array.from({ length: 15 }, (_, i) => ((i + 1) << 12) | 0x0abc),
  );
});

it('only the word that carries it changes in a block; without one there is one block', () => {
  expect(blocksInTurn([1, 2, 3], { at: 1, sign: { kind: 'toggle', bit: 0 } })).toEqual([
    [1, 2, 3],
    [1, 3, 3],
  ]);
  expect(blocksInTurn([1, 2, 3], null)).toEqual([[1, 2, 3]]);
});

describe('where a sign of life may be', () => {
  const tern = shippedIndex('tern');
  const curlew = shippedIndex('curlew');
  const against = (index: typeof tern, role: 'control-word' | 'life-sign', form: LifeForm, bit = '0'): string => {
    const sign = lifeSignOf(form, bit);
    return sign.ok ? againstLife(index, index.byRole.get(role) ?? null, sign.value) : sign.error;
  };

  it('no bit of the control word that does something, by the sheet or by its profile', () => {
    // Tern's run bit, and CiA 402's fault reset (IEC 61800-7-201, bit 7).
    expect(against(tern, 'control-word', 'toggle', '3')).toBe(
      'bit 3 is “run”: a sign of life takes bits that mean nothing else',
    );
    expect(against(curlew, 'control-word', 'toggle', '7')).toMatch(/^bit 7 is “fault reset”/);
    expect(against(curlew, 'control-word', 'byte')).not.toBe('');
    // What the sheet says is not compared, and what it gives no meaning, is free.
    expect(against(tern, 'control-word', 'toggle', '14')).toBe('');
    expect(against(curlew, 'control-word', 'toggle', '15')).toBe('');
    expect(against(curlew, 'life-sign', 'byte')).toBe('');
  });

  it('no reference, no mode, nothing wider than a word', () => {
    const may = (role: 'speed-reference' | 'mode' | 'life-sign', words = 1) =>
      mayCarryLife(curlew.byRole.get(role) ?? null, words);
    expect([may('speed-reference'), may('mode'), may('life-sign'), may('life-sign', 2)]).toEqual([
      false,
      false,
      true,
      false,
    ]);
  });
});
