import { shippedIndex } from '../../../tests/harness/sheets';
import { parseRational } from '../scaling/rational';
import type { ParameterRole } from '../sheet/parameter-section';
import { referenceCautions } from './reference-cautions';

/** Sheet Tern: full scale 12287 = 55 Hz, minimum speed 804 = 3.6 Hz. */
const tern = shippedIndex('tern');

const say = (value: string, known: Partial<Record<ParameterRole, number>> = {}, index = tern): readonly string[] => {
  const parsed = parseRational(value);
  if (!parsed.ok) throw new Error(parsed.error.text);
  return referenceCautions(index, parsed.value, (role) => known[role]);
};

it.each<[string, Partial<Record<ParameterRole, number>>, RegExp]>([
  ['1.5', {}, /Below the drive’s minimum speed: it turns at 3\.599 Hz by \S+, as it leaves the factory/],
  ['0', {}, /Below the drive’s minimum speed/],
  ['40', { 'maximum-speed': 6702 }, /Above the drive’s maximum speed: it turns at 30/],
  ['-20', { 'control-word': 0x002d }, /reverse bit set.*cancel/],
])('%s Hz: says what the drive makes of it', (value, known, text) => {
  expect(say(value, known).join(' ')).toMatch(text);
});

it.each<[string, Partial<Record<ParameterRole, number>>]>([
  ['20', {}],
  ['-20', { 'control-word': 0x000d }],
])('%s Hz: nothing to say', (value, known) => {
  expect(say(value, known)).toEqual([]);
});

/** Sheet Wren skips 620 to 680 rpm as it leaves the factory; one count is one rpm. */
it.each<[string, Partial<Record<ParameterRole, number>>, string]>([
  ['650', {}, 'skips, 620 rpm by 43, as it leaves the factory; not read yet to 680 rpm by 44'],
  ['-650', {}, 'skips'],
  ['450', { 'skip-from': 400, 'skip-to': 500 }, 'skips, 400 rpm by 43 to 500 rpm by 44'],
  ['650', { 'skip-from': 400, 'skip-to': 500 }, ''],
  ['620', {}, ''],
])('%s rpm beside the band %j: %s', (value, known, text) => {
  const said = say(value, known, shippedIndex('wren')).join(' ');
  if (text === '') expect(said).toBe('');
  else expect(said).toContain(text);
});
