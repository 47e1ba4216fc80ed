import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { ternIndex } from '../../../tests/harness/sheets';
import { indexSheet } from '../../core/sheet/index-sheet';
import { shelfOf } from '../../core/sheet/shelf';
import { WordsStage } from './words-stage';

/** The fan's sheet without its stop words, at the fan's station. */
function withoutStop() {
  const bare = { ...ternIndex().sheet, commands: undefined };
  expect(indexSheet(bare).words).toBeDefined();
  return benchAt('K1', 3, { sheets: shelfOf([bare]) });
}

it('a word that may turn the shaft is not sent before the user has said that nothing here can stop it; then it is', async () => {
  const { bench, show, know } = withoutStop();
  know({ 'control-word': 0x000d, 'status-word': 1 }, true);
  show(<WordsStage />);
  const send = screen.getByRole('button', { name: /^Send 0x000D/ });
  expect(send).toBeDisabled();
  expect(send).toHaveAccessibleDescription('nothing here can stop this drive: see below');
  await userEvent.keyboard('{Control>}{Enter}{/Control}');
  expect(bench.send).not.toHaveBeenCalled();
  await userEvent.click(screen.getByRole('button', { name: 'I can stop it another way' }));
  expect(send).toBeEnabled();
  await userEvent.click(send);
  expect(bench.send).toHaveBeenCalledTimes(1);
  // It goes on saying so.
  expect(screen.getByText('Stop cannot stop this drive')).toBeInTheDocument();
});

it('a word that asks for nothing may go out at once', () => {
  const { show, know } = withoutStop();
  know({ 'control-word': 0x0004, 'status-word': 1 }, true);
  show(<WordsStage />);
  expect(screen.getByRole('button', { name: /^Send 0x0004/ })).toBeEnabled();
});
