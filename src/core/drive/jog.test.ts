import { shippedIndex } from '../../../tests/harness/sheets';
import { jogCaution } from './jog';
import type { ParameterRole } from '../sheet/parameter-section';

const tern = shippedIndex('tern');
const known = (values: Partial<Record<ParameterRole, number>>) => (role: ParameterRole) => values[role];

it.each<[string, Partial<Record<ParameterRole, number>>, boolean, RegExp]>([
  ['not read', {}, false, /not read yet/],
  ['off', { 'watchdog-time': 0 }, true, /is off/],
  ['ignored', { 'watchdog-time': 32, 'watchdog-action': 2 }, true, /is ignored/],
  ['set and not proven', { 'watchdog-time': 32, 'watchdog-action': 0 }, false, /3\.2 s by 5\.04, but nobody/],
  ['set and proven', { 'watchdog-time': 32, 'watchdog-action': 0 }, true, /^$/],
])('time-out %s', (_, values, proven, text) => {
  expect(jogCaution(tern, known(values), proven)).toMatch(text);
});

it('says that there is nothing to rely on where the sheet has no time-out', () => {
  expect(jogCaution(shippedIndex('pipit'), known({}), false)).toMatch(/knows no time-out/);
});
