import { act, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { hex } from '../../tests/harness/bytes';
import { anatomyRtu } from '../core/modbus/anatomy';
import { readRtu } from '../core/modbus/rtu';
import { ByteStrip, type StripEditing } from './byte-strip';

const FRAME = hex('0306 02C3 0F45 BDB0');

function strip() {
  const editing = {
    setByte: jest.fn(),
    insertByte: jest.fn(),
    deleteByte: jest.fn(),
    setField: jest.fn(),
    paste: jest.fn(),
    undo: jest.fn(),
    redo: jest.fn(),
  } satisfies StripEditing;
  const reading = readRtu(FRAME, 'request');
  render(
    <ByteStrip
      label="Request"
      bytes={[...FRAME]}
      fields={anatomyRtu(FRAME, reading)}
      faults={reading.faults}
      direction="sent"
      editing={editing}
    />,
  );
  return editing;
}

const byte = (at: number): HTMLElement => screen.getByRole('button', { name: new RegExp(`^byte ${at + 1},`) });

it('names every byte with its field, and faults where they are', () => {
  strip();
  expect(byte(2)).toHaveAccessibleName('byte 3, address: 02');
  expect(byte(7)).toHaveAccessibleName('byte 8, check: B0, fault');
  expect(screen.getByRole('listitem')).toHaveTextContent('these bytes give BD AF (bytes 7 to 8)');
});

it('two hex digits make a byte and move on; arrows walk; the first digit can be dropped', async () => {
  const editing = strip();
  const user = userEvent.setup();
  act(() => byte(4).focus());
  await user.keyboard('1{Escape}7f');
  expect(editing.setByte.mock.calls).toEqual([[4, 0x7f]]);
  expect(byte(5)).toHaveFocus();
  await user.keyboard('{ArrowLeft}{ArrowLeft}{Home}{End}');
  expect(byte(7)).toHaveFocus();
});

it('insert, delete, undo and redo by key; pasted text goes to the notation reader', async () => {
  const editing = strip();
  const user = userEvent.setup();
  act(() => byte(3).focus());
  await user.keyboard('{Insert}{Delete}{Control>}z{/Control}{Control>}y{/Control}');
  fireEvent.paste(byte(3), { clipboardData: { getData: () => '01h 03h' } });
  expect(editing.insertByte).toHaveBeenCalledWith(3);
  expect(editing.deleteByte).toHaveBeenCalledWith(3);
  expect([editing.undo.mock.calls.length, editing.redo.mock.calls.length]).toEqual([1, 1]);
  expect(editing.paste).toHaveBeenCalledWith('01h 03h');
});

it('a pressed meaning takes a value', async () => {
  const editing = strip();
  const user = userEvent.setup();
  await user.click(screen.getByTitle(/type another value/));
  await user.clear(screen.getByLabelText('value of value'));
  await user.type(screen.getByLabelText('value of value'), '0x10{Enter}');
  expect(editing.setField).toHaveBeenCalledWith(expect.objectContaining({ path: 'values[0]' }), '0x10');
});

it('what cannot be known yet is a question mark, never zero', () => {
  render(
    <ByteStrip
      label="Expected"
      bytes={[3, null]}
      fields={[{ path: 'a', label: 'value', start: 0, end: 2, value: 0, text: 'not known yet', codec: 'u16be' }]}
      direction="received"
    />,
  );
  expect(screen.getByRole('button', { name: 'byte 2, value: not known yet' })).toHaveTextContent('??');
});
