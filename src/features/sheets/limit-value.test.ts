import { emptySheet } from '../../core/sheet/empty-sheet';
import type { Parameter } from '../../core/sheet/parameter-section';
import { limitInUnit, readLimit } from './limit-value';

const SHEET = emptySheet('a', 'A');
const entry = (more: Partial<Parameter>): Parameter => ({ number: '1', name: 'limit', type: 'uint16', ...more });
const SPEED = entry({ unit: 'Hz', scale: { kind: 'resolution', value: '0.01' } });
const COLD = entry({ type: 'int16', unit: '°C', scale: { kind: 'resolution', value: '0.1' } });

it.each<[Parameter, string, number | RegExp]>([
  [SPEED, '1500', 1500],
  [SPEED, '15 Hz', 1500],
  [SPEED, '0.015 kHz', 1500],
  [SPEED, '0x05DC', 1500],
  [SPEED, '15 V', /is not the unit of this field, Hz/],
  [SPEED, '700 Hz', /./],
  [COLD, '−12.5 °C', -125],
  [entry({ unit: 'V' }), '400 V', 400],
  [entry({ unit: 'V' }), '0.5 V', /a whole number/],
  [entry({ type: 'float32', unit: 'Hz' }), '12.5 Hz', 12.5],
  [entry({}), 'fast', /a number of counts/],
])('a limit of %j typed as “%s”', (parameter, text, made) => {
  const read = readLimit(SHEET, parameter, text);
  if (made instanceof RegExp) expect(read).toMatch(made);
  else expect(read).toBe(made);
});

it('shows a limit in its unit', () => {
  expect(limitInUnit(SHEET, SPEED, 1500)).toBe('15 Hz');
  expect(limitInUnit(SHEET, COLD, -125)).toBe('−12.5 °C');
  expect(limitInUnit(SHEET, entry({ unit: 'V' }), 400)).toBe('');
});
