import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { PasteArea } from './paste-area';

const ROWS = Array.from({ length: 3000 }, (_, i) => `${40001 + i}\tName ${i}\tUINT16`).join('\n');

let taken = '';
function Field({ longest = 200_000 }: { readonly longest?: number }) {
  const [text, setText] = useState('');
  return (
    <PasteArea
      label="rows"
      rows={4}
      longest={longest}
      value={text}
      onChange={(next) => {
        taken = next;
        setText(next);
      }}
    />
  );
}
const field = (): HTMLTextAreaElement => screen.getByLabelText('rows');
/** What a browser does with a paste: the event first, the text only where nobody prevented it. */
const paste = (text: string): void => {
  const isLeft = fireEvent.paste(field(), { clipboardData: { getData: () => text } });
  if (isLeft) fireEvent.change(field(), { target: { value: text } });
};

beforeEach(() => {
  taken = '';
});

it('holds a long text whole, shows whole lines of its beginning and says so', () => {
  render(<Field />);
  paste(ROWS);
  expect(taken).toBe(ROWS);
  expect(field().value.length).toBeLessThan(2001);
  expect(ROWS.startsWith(`${field().value}\n`)).toBe(true);
  expect(field().readOnly).toBe(true);
  const shown = field().value.split('\n').length;
  expect(screen.getByText(new RegExp(`^3000 lines: the first ${shown} are shown, all are read`))).toBeTruthy();
});

it('is written into again once it is emptied, or takes the next text instead', () => {
  render(<Field />);
  paste(ROWS);
  paste('40001\tSpeed');
  expect(taken).toBe('40001\tSpeed');
  expect(field().readOnly).toBe(false);
  field().select();
  paste('A5'.repeat(10_000));
  expect(screen.getByText(/^20000 characters: the first 2000 are shown/)).toBeTruthy();
  fireEvent.click(screen.getByRole('button', { name: 'Empty the field' }));
  expect(taken).toBe('');
  expect(field().value).toBe('');
  expect(field().readOnly).toBe(false);
});

it('puts a long text where the cursor is, and takes none that is too long', () => {
  render(<Field longest={15_000} />);
  fireEvent.change(field(), { target: { value: 'head tail' } });
  field().setSelectionRange(5, 5);
  paste('b'.repeat(12_000));
  expect(taken).toBe(`head ${'b'.repeat(12_000)}tail`);
  paste(ROWS);
  expect(screen.getByText(`${ROWS.length} characters were not taken: 15000 at most`)).toBeTruthy();
  expect(taken).toHaveLength(12_009);
});
