import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { UnreadForm, useUnread } from './unread';
import { RowsEditor, type RowColumn } from './rows-editor';

interface Bit {
  readonly bit: number;
  readonly name: string;
}

const COLUMNS: readonly RowColumn<Bit>[] = [
  {
    label: 'bit',
    width: 80,
    show: ({ bit }) => `${bit}`,
    take: (row, text) => (/^\d+$/.test(text) ? { ...row, bit: parseInt(text, 10) } : 'a whole number'),
  },
  { label: 'name', width: 160, show: ({ name }) => name, take: (row, text) => ({ ...row, name: text }) },
];

function Editor({ from }: { readonly from: readonly Bit[] }) {
  const [rows, setRows] = useState(from);
  const unread = useUnread();
  return (
    <UnreadForm unread={unread}>
      <RowsEditor
        label="Bits"
        noun="bit"
        rows={rows}
        columns={COLUMNS}
        fresh={() => ({ bit: rows.length, name: 'new' })}
        onRows={setRows}
        most={3}
      />
      <output>{rows.map(({ bit, name }) => `${bit}:${name}`).join(' ')}</output>
      <p>{unread.why}</p>
    </UnreadForm>
  );
}
const held = (): string => screen.getByRole('status').textContent ?? '';
const TWO = [
  { bit: 0, name: 'ready' },
  { bit: 3, name: 'fault' },
];

it('a cell is a field: what can be read goes into the row, what cannot stays with its reason and holds the acts off', async () => {
  render(<Editor from={TWO} />);
  const cell = screen.getByRole('textbox', { name: 'bit, bit 2' });
  await userEvent.clear(cell);
  await userEvent.type(cell, '7');
  expect(held()).toBe('0:ready 7:fault');
  await userEvent.type(cell, 'x');
  expect(cell).toHaveValue('7x');
  expect(held()).toBe('0:ready 7:fault');
  expect(screen.getByText('a whole number')).toBeInTheDocument();
  expect(screen.getByText(/bit, bit 2/)).toBeInTheDocument();
  await userEvent.type(cell, '{Backspace}');
  expect(screen.queryByText('a whole number')).not.toBeInTheDocument();
});

it('rows are added up to the most, moved and removed', async () => {
  render(<Editor from={TWO} />);
  await userEvent.click(screen.getByRole('button', { name: 'bit 2 up' }));
  expect(held()).toBe('3:fault 0:ready');
  expect(screen.getByRole('button', { name: 'bit 1 up' })).toBeDisabled();
  expect(screen.getByRole('button', { name: 'bit 2 down' })).toBeDisabled();
  await userEvent.click(screen.getByRole('button', { name: 'Add a bit' }));
  expect(held()).toBe('3:fault 0:ready 2:new');
  expect(screen.getByRole('button', { name: 'Add a bit' })).toBeDisabled();
  await userEvent.click(screen.getByRole('button', { name: 'remove bit 1' }));
  expect(held()).toBe('0:ready 2:new');
  expect(within(screen.getByRole('table', { name: 'Bits' })).getAllByRole('row')).toHaveLength(3);
});
