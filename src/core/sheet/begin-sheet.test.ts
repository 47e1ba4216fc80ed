import { motionCautions } from '../drive/motion-cautions';
import { mayTurn } from '../drive/request-effect';
import { canStop } from '../drive/can-stop';
import { indexSheet } from './index-sheet';
import { emptySheet } from './empty-sheet';
import { withFirstFacts, stopText, type FirstFacts } from './begin-sheet';
import type { Place } from './place';
import { meaningOf } from '../drive/describe';
import type { Sheet } from './sheet';

const at = (address: number): Place => ({ kind: 'register', table: 'holding-register', address });
const FACTS: FirstFacts = {
  profile: 'cia402',
  at: {
    'control-word': at(8192),
    'status-word': at(8193),
    'speed-reference': at(8194),
    'actual-speed': at(8195),
  },
  full: { raw: '16384', value: '50', unit: 'Hz' },
};
const made = (facts: FirstFacts, sheet: Sheet = emptySheet('flap', 'Flap')): Sheet => {
  const result = withFirstFacts(sheet, facts, 1);
  if (!result.ok) throw new Error(JSON.stringify(result.error));
  return result.value;
};

it('a drive without a sheet has its words, its scale and its stop from four addresses', () => {
  const index = indexSheet(made(FACTS));
  expect(canStop(index)).toBe(true);
  expect(index.sheet.commands?.stop.words).toEqual([0x0007, 0x0006]);
  expect(stopText('cia402')).toBe('0x0007, 0x0006');
  const reference = index.byRole.get('speed-reference');
  expect(reference?.place).toEqual(at(8194));
  expect(reference && meaningOf(index, reference, 0x2000)).toBe('25 Hz');
  // Typed in is not proved.
  expect(index.parameters.map(({ source, proof }) => [source?.kind, proof])).toEqual(
    Array(4).fill(['guess', undefined]),
  );
  expect(index.profile?.id).toContain('cia402');
});

it('plain bits: any word but 0 may turn the shaft until a bit is known as the one that runs it, and nothing stops it', () => {
  const index = indexSheet(made({ profile: 'plain', at: { 'control-word': at(1) } }));
  expect(canStop(index)).toBe(false);
  expect(stopText('plain')).toBe('');
  expect(index.words?.control.bits).toHaveLength(16);
  expect([0, 1, 0x8000].map((control) => mayTurn({ control }, index))).toEqual([false, true, true]);
  expect(motionCautions({ control: 4 }, index, () => undefined).warnings[0]).toBe(
    'This word may turn the shaft, since no bit is known as the one that makes this drive run: the reference is not known.',
  );
  // Once the bit is known, the doubt ends.
  const { words } = index.sheet;
  const bits = words?.control.bits.map((bit) => (bit.bit === 1 ? { ...bit, role: 'run' as const } : bit)) ?? [];
  const known = indexSheet({
    ...index.sheet,
    words: { control: { width: 16, bits }, status: { width: 16, bits: [] } },
  });
  expect([1, 2, 4].map((control) => mayTurn({ control }, known))).toEqual([false, true, false]);
});

it('what the sheet knows already stays: an entry at the place gets the role', () => {
  const before: Sheet = {
    ...emptySheet('flap', 'Flap'),
    revision: 4,
    parameters: [{ number: 'R1', name: 'Command', at: [at(8192)], type: 'uint16', note: 'page 9' }],
  };
  const after = withFirstFacts(before, FACTS, 5);
  expect(after.ok && after.value.revision).toBe(5);
  expect(after.ok && after.value.parameters?.[0]).toEqual({ ...before.parameters?.[0], role: 'control-word' });
  expect(after.ok && after.value.parameters).toHaveLength(4);
  // A scale that is known later reaches the speeds that are there.
  const bare = withFirstFacts(before, { ...FACTS, full: undefined }, 5);
  const later = bare.ok ? withFirstFacts(bare.value, FACTS, 5) : bare;
  expect(later).toEqual(after);
  // A second time changes nothing.
  const again = after.ok ? withFirstFacts(after.value, FACTS, 5) : after;
  expect(again).toEqual(after);
});

it('over USS the words are process data', () => {
  const process = (direction: 'out' | 'in', word: number): Place => ({ kind: 'process', direction, word });
  const sheet = made({
    profile: 'profidrive',
    at: { 'control-word': process('out', 0), 'status-word': process('in', 0), 'speed-reference': process('out', 1) },
  });
  expect(indexSheet(sheet).byRole.get('status-word')?.cells).toEqual(['process in 0']);
  expect(sheet.commands?.stop.words).toEqual([0x047e]);
});

it('a scale of nothing is refused with its place', () => {
  const refused = withFirstFacts(
    emptySheet('flap', 'Flap'),
    { ...FACTS, full: { raw: '0', value: '50', unit: 'Hz' } },
    1,
  );
  expect(refused.ok ? [] : refused.error.map(({ path }) => path)).toEqual([expect.stringContaining('scalings')]);
  const two = withFirstFacts(
    emptySheet('flap', 'Flap'),
    { ...FACTS, at: { 'control-word': at(1), 'status-word': at(1) } },
    1,
  );
  expect(two.ok ? [] : two.error.map(({ text }) => text)).toEqual(['its register 1 belongs to another parameter']);
});

it('speeds of 32 bits count in 32 bits, and a float is in its unit already, in the order of words that was said', () => {
  const wide = indexSheet(
    made({
      ...FACTS,
      speeds: 'int32-low',
      full: { raw: '1000000', value: '50', unit: 'Hz' },
      at: { ...FACTS.at, 'actual-speed': at(8196) },
    }),
  );
  const reference = wide.byRole.get('speed-reference')!;
  expect(reference.cells).toHaveLength(2);
  expect([reference.type, reference.order]).toEqual(['int32', 'CDAB']);
  expect(meaningOf(wide, reference, 500_000)).toBe('25 Hz');
  const float = indexSheet(
    made({
      profile: 'cia402',
      speeds: 'float32',
      unit: 'rpm',
      at: { 'control-word': at(1), 'status-word': at(2), 'actual-speed': at(3) },
    }),
  );
  const actual = float.byRole.get('actual-speed')!;
  // IEEE 754: 1450.5 as binary32 is 44B55000h.
  expect(meaningOf(float, actual, 0x44b5_5000)).toBe('1450.5 rpm');
  expect(actual.scale).toBeUndefined();
});

it('a scale that is known later counts as wide as the speeds that are there', () => {
  const before = made({ ...FACTS, speeds: 'int32', full: undefined, at: { ...FACTS.at, 'actual-speed': at(8196) } });
  const later = made({ profile: 'cia402', at: {}, full: { raw: '1000000', value: '50', unit: 'Hz' } }, before);
  const index = indexSheet(later);
  expect(meaningOf(index, index.byRole.get('speed-reference')!, 500_000)).toBe('25 Hz');
});
