import {
  bitsPerCharacter,
  characterUs,
  frameGapUs,
  innerGapUs,
  parseSettings,
  settingsText,
  type SerialSettings,
} from './settings';

const at = (rate: number, form = '8E1'): SerialSettings => ({
  rate,
  dataBits: form.startsWith('7') ? 7 : 8,
  parity: form[1] as SerialSettings['parity'],
  stopBits: form.endsWith('2') ? 2 : 1,
});

// Modbus over Serial Line V1.02, 2.5.1.1: 11 bits a character, 3.5 and 1.5 characters, 1750 and 750 µs above 19200 bit/s.
it.each([
  [9600, 1145.83, 4010.42, 1718.75],
  [19200, 572.92, 2005.21, 859.38],
  [38400, 286.46, 1750, 750],
  [115200, 95.49, 1750, 750],
])('at %i bit/s', (rate, character, gap, inner) => {
  expect(characterUs(at(rate))).toBeCloseTo(character, 1);
  expect(frameGapUs(at(rate))).toBeCloseTo(gap, 1);
  expect(innerGapUs(at(rate))).toBeCloseTo(inner, 1);
});

it.each([
  ['8E1', 11],
  ['8N1', 10],
  ['8N2', 11],
  ['7O1', 10],
])('%s has %i bits a character', (form, bits) => {
  expect(bitsPerCharacter(at(9600, form))).toBe(bits);
  expect(settingsText(at(9600, form))).toBe(`9600 ${form}`);
  expect(parseSettings(`9600 ${form}`)).toEqual(at(9600, form));
});
