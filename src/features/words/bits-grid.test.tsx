import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { readBitTable } from '../../core/words/bit-table';
import { BitsGrid } from './bits-grid';

const seen: string[] = [];

function Holder({ first }: { readonly first: string }) {
  const [text, setText] = useState(first);
  seen.splice(0, seen.length, text);
  return <BitsGrid text={text} onText={setText} />;
}

const cell = (column: string, row: number): HTMLInputElement => screen.getByLabelText(`${column}, row ${row}`);
const paste = (into: HTMLElement, text: string): boolean =>
  fireEvent.paste(into, { clipboardData: { getData: () => text } });

it('shows the table as cells with an empty row, and a typed cell changes its row', () => {
  render(<Holder first={'0\tstop\treleased\tstops\n3\trun'} />);
  expect([cell('bit', 1).value, cell('0 means', 1).value, cell('name', 2).value, cell('bit', 3).value]).toEqual([
    '0',
    'stops',
    'run',
    '',
  ]);
  fireEvent.change(cell('1 means', 2), { target: { value: 'the shaft turns' } });
  fireEvent.change(cell('bit', 3), { target: { value: '5' } });
  fireEvent.change(cell('name', 3), { target: { value: 'reverse' } });
  expect(seen[0]).toBe('0\tstop\treleased\tstops\n3\trun\tthe shaft turns\n5\treverse');
  expect(readBitTable(seen[0] ?? '', 16)).toMatchObject({ faults: [], bits: [{ bit: 0 }, { bit: 3 }, { bit: 5 }] });
});

it('a table is pasted over from any cell on, from a spreadsheet or a page; a single word goes into its cell', () => {
  render(<Holder first={'0\tstop\n1\told'} />);
  expect(paste(cell('bit', 2), '1\tenable\ton\toff\r\n2 | jog | jogs\r\n')).toBe(false);
  expect(seen[0]).toBe('0\tstop\n1\tenable\ton\toff\n2\tjog\tjogs');
  expect(paste(cell('name', 1), 'halt\tfree\nready\tgoes')).toBe(false);
  expect(seen[0]).toBe('0\thalt\tfree\n1\tready\tgoes\toff\n2\tjog\tjogs');
  expect(paste(cell('name', 1), 'one word')).toBe(true);
});

it('a name of several words is typed key by key, in any column', async () => {
  render(<Holder first={'0\tstop'} />);
  await userEvent.clear(cell('name', 1));
  await userEvent.type(cell('name', 1), 'speed is reached');
  await userEvent.type(cell('0 means', 1), 'not yet at speed');
  expect(cell('name', 1)).toHaveValue('speed is reached');
  expect(seen[0]).toBe('0\tspeed is reached\t\tnot yet at speed');
  expect(readBitTable(seen[0] ?? '', 16)).toMatchObject({
    faults: [],
    bits: [{ bit: 0, name: 'speed is reached', zero: 'not yet at speed' }],
  });
});
