import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { bytesToHex } from '../../core/bytes/hex';
import { WordsStage } from './words-stage';

/** The lift of the demo, whose registers are its numbers and 2048. */
function atLift() {
  const own = benchAt('E1', 1);
  return {
    ...own,
    sent: () =>
      (own.bench.send as jest.Mock).mock.calls.map((call) => bytesToHex((call as [unknown, Uint8Array])[1], ' ')),
  };
}

it('a mode below zero is shown as the drive has it, and set by its word', async () => {
  const { know, show, sent } = atLift();
  know({ 'status-word': 0x0250, 'mode-display': 2 }, true);
  show(<WordsStage />);
  await userEvent.selectOptions(screen.getByLabelText('mode of operation'), '-1: stored moves');
  await userEvent.click(screen.getByRole('button', { name: /^Set the mode of/ }));
  // Function 6, register 2100, −1 as 16 bits.
  expect(sent()).toEqual([expect.stringMatching(/06 08 34 ff ff$/)]);
  expect(screen.queryByLabelText('stored move to start')).toBeNull();
});

it('in the mode of stored moves it is said and chosen which one a start begins', async () => {
  const { know, show, sent } = atLift();
  know({ 'status-word': 0x0237, 'mode-display': 0xffff, 'stored-move': 3, 'stored-move-display': 3 }, true);
  show(<WordsStage />);
  expect(screen.getByText('a start begins move 3; move 3 is under way')).toBeInTheDocument();
  expect(screen.getByText(/the drive is in stored moves/)).toBeInTheDocument();
  await userEvent.selectOptions(screen.getByLabelText('stored move to start'), 'move 2');
  await userEvent.click(screen.getByRole('button', { name: /^Choose it for/ }));
  // Register 2048 + 110.
  expect(sent()).toEqual([expect.stringMatching(/06 08 6e 00 02$/)]);
});
