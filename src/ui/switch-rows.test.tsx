import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { ternIndex } from '../../tests/harness/sheets';
import { SwitchRows } from './switch-rows';

const { control } = ternIndex().sheet.words!;

it('a switch turns its own bit and nothing else', async () => {
  const onWord = jest.fn();
  render(<SwitchRows label="control" spec={control} word={0x0005} changed={new Set()} onWord={onWord} />);
  expect(screen.getByRole('switch', { name: 'bit 0, stop' })).toBeChecked();
  await userEvent.click(screen.getByRole('switch', { name: 'bit 3, run' }));
  await userEvent.click(screen.getByRole('switch', { name: 'bit 2, enable' }));
  expect(onWord.mock.calls).toEqual([[0x000d], [0x0001]]);
});

it('shows a bit without a meaning only while it is set, and says so', () => {
  const { rerender } = render(<SwitchRows label="control" spec={control} word={0x0000} changed={new Set()} />);
  expect(screen.queryByText('no meaning')).not.toBeInTheDocument();
  rerender(<SwitchRows label="control" spec={control} word={0x0002} changed={new Set()} />);
  expect(screen.getByText('no meaning')).toBeInTheDocument();
});
