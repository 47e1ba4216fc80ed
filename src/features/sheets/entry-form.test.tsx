import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { emptySheet } from '../../core/sheet/empty-sheet';
import type { Parameter } from '../../core/sheet/parameter-section';
import type { Sheet } from '../../core/sheet/sheet';
import { EntryForm } from './entry-form';
import { openDraft, sheetDrafts, useDraftSheet } from './sheet-drafts';

const ENTRY: Parameter = {
  number: '1',
  name: 'plan of the wires',
  type: 'uint16',
  at: [{ kind: 'register', table: 'holding-register', address: 10 }],
};
const DECIMALS: Parameter = {
  ...ENTRY,
  number: '2',
  name: 'decimals',
  at: [{ kind: 'register', table: 'holding-register', address: 11 }],
};

function Form() {
  const sheet = useDraftSheet();
  const parameter = sheet?.parameters?.[0];
  return sheet && parameter ? (
    <EntryForm sheet={sheet} parameter={parameter} at={0} onRemove={() => undefined} />
  ) : null;
}

function entryForm(entry: Parameter = ENTRY) {
  const sheet: Sheet = { ...emptySheet('own', 'Own'), parameters: [entry, DECIMALS] };
  sheetDrafts.setState({ drafts: new Map() });
  openDraft(sheet, null);
  benchAt('K1', 3).show(<Form />);
  return (): Parameter | undefined => sheetDrafts.getState().drafts.get('own')?.history.present.parameters?.[0];
}

it('an address in any notation is the place; what cannot be one stays in its field', async () => {
  const entry = entryForm();
  const field = screen.getByLabelText('Address');
  await userEvent.clear(field);
  await userEvent.type(field, '40108');
  expect(entry()?.at).toEqual([{ kind: 'register', table: 'holding-register', address: 107 }]);
  await userEvent.type(field, 'x');
  expect(field).toHaveAccessibleDescription(/an address or a reference/);
  expect(entry()?.at).toEqual([{ kind: 'register', table: 'holding-register', address: 107 }]);
});

it('a value has further ways, each with its own fields; one that is none any more goes', async () => {
  const entry = entryForm();
  await userEvent.click(screen.getByRole('button', { name: 'Reached in another way too' }));
  const field = screen.getByLabelText('Address, way 2');
  await userEvent.clear(field);
  await userEvent.type(field, '0x0BB8');
  const own = { kind: 'register', table: 'holding-register', address: 10 };
  expect(entry()?.at).toEqual([own, { ...own, address: 3000 }]);
  // The first way cannot be taken away while others hang on it.
  expect(within(screen.getByLabelText('Reached as')).queryByRole('option', { name: /not said/ })).toBeNull();
  await userEvent.selectOptions(screen.getByLabelText('Reached as, way 2'), 'not any more');
  expect(entry()?.at).toEqual([own]);
});

it('hex digits of a word are fields with names of their own', async () => {
  const entry = entryForm();
  await userEvent.click(screen.getByRole('button', { name: 'Add a field' }));
  await userEvent.click(screen.getByRole('button', { name: 'Add a field' }));
  expect(entry()?.fields?.map(({ bit, bits }) => [bit, bits])).toEqual([
    [0, 4],
    [4, 4],
  ]);
  const names = screen.getByRole('textbox', { name: 'names of its values, field 2' });
  await userEvent.click(names);
  await userEvent.paste('0: free, 1: run');
  expect(entry()?.fields?.[1]?.choices).toEqual([
    { value: 0, name: 'free' },
    { value: 1, name: 'run' },
  ]);
  await userEvent.click(screen.getByRole('button', { name: 'remove field 1' }));
  await userEvent.click(screen.getByRole('button', { name: 'remove field 1' }));
  expect(entry()?.fields).toBeUndefined();
});

it('a scale that another entry sets names that entry and what a count is by its value', async () => {
  const entry = entryForm({ ...ENTRY, unit: 'A' });
  await userEvent.selectOptions(screen.getByLabelText('Scale'), 'as another entry says');
  expect(entry()?.scale).toMatchObject({ kind: 'by', parameter: '2' });
  const cases = screen.getByLabelText('One count is, by its value');
  await userEvent.clear(cases);
  expect(cases).toHaveAccessibleDescription('such as 0: 1, 1: 0.1, 2: 0.01');
  await userEvent.click(cases);
  await userEvent.paste('0: 1, 3: 1/1000');
  expect(entry()?.scale).toEqual({
    kind: 'by',
    parameter: '2',
    cases: [
      { value: 0, one: '1' },
      { value: 3, one: '1/1000' },
    ],
  });
  const other = screen.getByLabelText('The entry that says it');
  await userEvent.clear(other);
  expect(other).toHaveAccessibleDescription('the number of another entry of this sheet');
});

it('limits are counts, or a quantity with its unit', async () => {
  const entry = entryForm({ ...ENTRY, unit: 'Hz', scale: { kind: 'resolution', value: '0.01' } });
  await userEvent.click(screen.getByLabelText('Most, in counts'));
  await userEvent.paste('50 Hz');
  expect(entry()?.max).toBe(5000);
  await userEvent.click(screen.getByLabelText('Least, in counts'));
  await userEvent.paste('12 V');
  expect(screen.getByLabelText('Least, in counts')).toHaveAccessibleDescription(/is not the unit of this field/);
  expect(entry()?.min).toBeUndefined();
});
