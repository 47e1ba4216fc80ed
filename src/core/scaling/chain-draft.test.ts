import { shippedSheets } from '../../../tests/harness/shipped';
import type { ScalingChain } from './chain';
import { chainOfDraft, draftOfChain, freshStep, STEP_FORMS, type StepKind } from './chain-draft';
import { ratio } from './rational';
import { toRaw, toValue } from './scale';

const KINDS = Object.keys(STEP_FORMS) as StepKind[];
const WORD = { bits: 32, signed: false } as const;
const draft = (...steps: readonly (readonly [StepKind, Readonly<Record<string, string>>])[]) => ({
  unit: 'Hz',
  steps: steps.map(([kind, texts]) => ({ kind, texts })),
  rounding: 'down' as const,
  word: WORD,
});

it('what a form shows of a chain is that chain again: every chain of every sheet that ships', () => {
  const chains = shippedSheets().flatMap(({ scalings = [] }) => scalings.map(({ chain }): ScalingChain => chain));
  expect(chains.length).toBeGreaterThan(3);
  for (const chain of chains) expect(chainOfDraft(draftOfChain(chain))).toEqual({ chain, faults: [] });
});

it.each(KINDS)('a new step “%s” works at once, both ways', (kind) => {
  const { chain } = chainOfDraft({ ...draft(), steps: [freshStep(kind)] });
  const raw = toRaw(chain!, ratio(10n));
  expect(raw.ok && raw.value.faults).toEqual([]);
  expect(toValue(chain!, raw.ok ? raw.value.wire : -1n).ok).toBe(true);
});

it('numbers are read as people type them and stay exact', () => {
  const typed = draft(['full-scale', { value: ' 50,5 ', raw: '12287/3' }], ['offset', { add: '−0.25' }]);
  expect(chainOfDraft(typed).chain?.steps).toEqual([
    { kind: 'full-scale', value: '50.5', raw: '12287/3' },
    { kind: 'offset', add: '-0.25' },
  ]);
});

it('a field that may stay empty is left out, a yes and a whole number are what they are', () => {
  const typed = draft(
    ['motor-poles', { poles: '6', slip: '' }],
    ['gear', { motor: '29', load: '3', inverted: 'yes' }],
    ['gear', { motor: '1', load: '1', inverted: '' }],
  );
  expect(chainOfDraft(typed).chain?.steps).toEqual([
    { kind: 'motor-poles', poles: 6 },
    { kind: 'gear', motor: '29', load: '3', inverted: true },
    { kind: 'gear', motor: '1', load: '1' },
  ]);
});

it('says at which step and field something is wrong, all of it at once, and makes no chain of it', () => {
  const typed = draft(
    ['full-scale', { value: 'fifty', raw: '' }],
    ['resolution', { value: '0.1' }],
    ['motor-poles', { poles: '3' }],
    ['motor-poles', { poles: '2.5' }],
    ['limit', { min: '9', max: '1' }],
    ['factor', {}],
  );
  expect(chainOfDraft({ ...typed, unit: ' ' })).toEqual({
    chain: null,
    faults: [
      { step: null, field: 'unit', text: 'a unit is missing' },
      { step: 0, field: 'value', text: expect.stringMatching(/^“fifty” is no number/) as string },
      { step: 0, field: 'raw', text: 'a number is missing' },
      { step: 2, field: '', text: '3 poles: a motor has 2, 4, 6 … poles' },
      { step: 3, field: 'poles', text: 'a whole number' },
      { step: 4, field: '', text: 'the lower limit 9 is above the upper one 1' },
      { step: 5, field: 'by', text: 'a number is missing' },
    ],
  });
});
