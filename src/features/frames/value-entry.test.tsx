import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { emptySheet } from '../../core/sheet/empty-sheet';
import { indexSheet, type SheetIndex } from '../../core/sheet/index-sheet';
import type { Parameter } from '../../core/sheet/parameter-section';
import { ValueEntry } from './value-entry';

const TENTHS = { unit: 'A', scale: { kind: 'resolution', value: '0.1' } } as const;

/** The bytes that the field edits. */
function Held({
  index,
  word,
  onWord,
}: {
  readonly index: SheetIndex;
  readonly word: number;
  readonly onWord: (word: number) => void;
}) {
  const [held, setHeld] = useState(word);
  const give = (next: number): void => {
    setHeld(next);
    onWord(next);
  };
  return <ValueEntry index={index} parameter={index.parameters[0]!} label="Value" word={held} onWord={give} />;
}

function shown(form: Omit<Parameter, 'number' | 'name' | 'at'>, word: number) {
  const index = indexSheet({
    ...emptySheet('a', 'A'),
    parameters: [
      { number: '1', name: 'entry', ...form, at: [{ kind: 'register', table: 'holding-register', address: 1 }] },
    ],
  });
  const onWord = jest.fn();
  render(<Held index={index} word={word} onWord={onWord} />);
  return { field: screen.getByLabelText(/^Value/), onWord };
}

// By hand: decimal digits stand in four bits each; -17.5 A is -175 tenths, 0xFF51.
it.each<[string, Omit<Parameter, 'number' | 'name' | 'at'>, number, string, string, number]>([
  ['decimal digits in tenths', { type: 'bcd16', ...TENTHS }, 0x1234, '123.4', '56.7', 0x0567],
  ['decimal digits', { type: 'bcd16' }, 0x1234, '1234', '99', 0x0099],
  ['a signed number in tenths', { type: 'int16', ...TENTHS }, 0xff51, '-17.5', '-0.1', 0xffff],
  ['a signed number', { type: 'int16' }, 0xfffe, '-2', '-3', 0xfffd],
  ['a plain number', { type: 'uint16' }, 65000, '65000', '0x10', 16],
  ['a register of a text', { type: 'text', size: 1 }, 0x4142, '16706', '65', 65],
  ['a date in bits', { type: 'date-bits' }, 33, '33', '34', 34],
])('%s is shown and typed as what it stands for', async (_, form, word, text, typed, sent) => {
  const { field, onWord } = shown(form, word);
  expect(field).toHaveValue(text);
  await userEvent.clear(field);
  await userEvent.type(field, typed);
  expect(onWord).toHaveBeenLastCalledWith(sent);
});

it('what decimal digits cannot hold is said and gives no word', async () => {
  const { field, onWord } = shown({ type: 'bcd16', ...TENTHS }, 0);
  await userEvent.clear(field);
  await userEvent.type(field, '1000');
  expect(screen.getByText('0 to 9999')).toBeInTheDocument();
  // The words of 1, 10 and 100 A went before it.
  expect(onWord.mock.calls).toEqual([[0x0010], [0x0100], [0x1000]]);
});
