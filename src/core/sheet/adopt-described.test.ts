import { readTable } from '../tables/read-table';
import { adoptDescribed, takenInto, type Reach } from './adopt-described';
import { emptySheet, freeSlug } from './empty-sheet';
import { indexSheet } from './index-sheet';
import { loadSheet } from './load-sheet';

const HOLDING: Reach = { kind: 'table', table: 'holding-register' };
const adopted = (text: string, reach: Reach = HOLDING) =>
  readTable(text).parameters.map((parameter) => adoptDescribed(parameter, reach));

it('a pasted table becomes a sheet that is loaded and used', () => {
  const entries = adopted(
    'Register\tName\tType\tRange\tUnit\tScale\tDefault\tAccess\n300\tControl word\tUINT16\t0 to 65535\t\t\t\tR/W\n301\tSpeed set\tINT16\t-50.0 to 50.0\tHz\t0.1\t0\tR/W\n310\tPosition now\tINT32\t\tmm\t0.01\t\tR',
  );
  const sheet = loadSheet({
    ...emptySheet('mine', 'Mine'),
    revision: 1,
    parameters: entries.map(({ parameter }) => parameter),
  });
  expect(sheet.ok).toBe(true);
  if (!sheet.ok) return;
  const index = indexSheet(sheet.value);
  expect(index.byRole.get('control-word')?.place).toEqual({
    kind: 'register',
    table: 'holding-register',
    address: 300,
  });
  // −50.0 Hz in tenths.
  expect(index.byRole.get('speed-reference')).toMatchObject({ min: -500, max: 500, default: 0, write: 'always' });
  expect(index.byNumber.get('310')).toMatchObject({
    type: 'int32',
    write: 'never',
    cells: ['holding-register 310', 'holding-register 311'],
  });
});

it('keeps names of numbers below zero, from a cell and from a table of their own, whichever minus they are printed with', () => {
  const [mode, way] = adopted(
    'Register\tName\tRange\n52\tMode\t−1: stored moves, 0: none, 1: position\n53\tWay\t\n\nWay (53)\nValue\tMeaning\n−2\tback\n−1\tdown\n0\tstand',
  );
  expect(mode?.parameter).toMatchObject({
    type: 'int16',
    choices: [
      { value: -1, name: 'stored moves' },
      { value: 0, name: 'none' },
      { value: 1, name: 'position' },
    ],
  });
  expect(way?.parameter).toMatchObject({
    type: 'int16',
    choices: [
      { value: -2, name: 'back' },
      { value: -1, name: 'down' },
      { value: 0, name: 'stand' },
    ],
  });
});

it('says what it assumed, and keeps in the note what it cannot hold', () => {
  const [limits, noType] = adopted('Address,Name,Range,Unit,Access\n9,Window,0.25 to 7.5,mm,R/W\n11,Lamp,0 to 1,,R/W');
  expect(limits?.parameter).toMatchObject({ type: 'uint16', note: 'as printed: 0.25 to 7.5 mm, default ?' });
  expect(limits?.parameter.min).toBeUndefined();
  expect(limits?.assumed.join('; ')).toMatch(/taken as uint16.*no whole counts/);
  expect(noType?.parameter).toMatchObject({ min: 0, max: 1 });
});

it('numbers of USS, and keys that only a rule can place', () => {
  const text = 'No.\tName\tRange\n12\tRamp\t0 to 9\n13\tHold\t0 to 9';
  expect(adopted(text, { kind: 'uss' })[0]?.parameter.at).toEqual([{ kind: 'uss', number: 12 }]);
  expect(adopted(text, { kind: 'rule' })[0]?.parameter.at).toBeUndefined();
});

it('an entry that is there stays unless it is to be replaced, and a role is given once', () => {
  const present = [{ number: '9', name: 'Control word', role: 'control-word', type: 'uint16' }] as const;
  const fresh = [
    { number: '9', name: 'Other', type: 'uint16' },
    { number: '10', name: 'Control word 2', role: 'control-word', type: 'uint16' },
  ] as const;
  expect(takenInto(present, fresh, false)).toEqual({
    parameters: [present[0], { number: '10', name: 'Control word 2', type: 'uint16' }],
    added: 1,
    replaced: 0,
    left: 1,
  });
  expect(takenInto(present, fresh, true).parameters[0]).toEqual({
    number: '9',
    name: 'Other',
    type: 'uint16',
    role: 'control-word',
  });
});

it('a name in machine form is free', () => {
  expect(freeSlug('Förder-Band 2', (slug) => slug === 'forder-band-2')).toBe('forder-band-2-2');
});
