import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { FIRST_SETUP } from './capture-choice';
import { CaptureList } from './capture-list';
import type { CaptureActions, CaptureState } from './capture-store';

/** A list of so many entries, and from where rows of it were asked for. */
function listOf(count: number) {
  const rows = jest.fn(() => Promise.resolve([]));
  const capture = { setup: FIRST_SETUP, rows } as unknown as CaptureState & CaptureActions;
  benchAt('K1 kiln', 3).show(<CaptureList capture={capture} count={count} />);
  return { rows, list: () => screen.getByRole('list', { name: 'Frames of the capture' }) };
}

it('a list that no browser lays out at once is shown in parts, to its last entry', async () => {
  const { rows, list } = listOf(2_500_000);
  expect(screen.getByRole('status')).toHaveTextContent('listed: 1 to 1000000 of 2500000');
  expect(screen.getByRole('button', { name: /^Those before/ })).toBeDisabled();
  await userEvent.click(screen.getByRole('button', { name: 'Those after' }));
  await userEvent.click(screen.getByRole('button', { name: 'Those after' }));
  expect(screen.getByRole('status')).toHaveTextContent('listed: 2000001 to 2500000 of 2500000');
  expect(rows).toHaveBeenLastCalledWith(2_000_000, 40);
  expect(screen.getByRole('button', { name: /^Those after/ })).toBeDisabled();
  expect(list().firstElementChild).toHaveStyle({ height: `${500_000 * 24}px` });
});

it('a list that a browser lays out is shown whole', () => {
  const { list } = listOf(1_000_000);
  expect(within(list()).getAllByRole('listitem').length).toBeLessThanOrEqual(80);
  expect(screen.queryByRole('button', { name: 'Those after' })).toBeNull();
});
