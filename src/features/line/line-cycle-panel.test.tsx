import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { LineCyclePanel } from './line-cycle-panel';

const SETTINGS = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } as const;

const show = (line: string, station: number, wantedMs: number | null = null) =>
  benchAt(line, station).show(
    <LineCyclePanel timing={{ kind: 'modbus-rtu', settings: SETTINGS }} replyDelayUs={5_000} wantedMs={wantedMs} />,
  );

it('names each drive of the line with its share, and what one more costs; both at once is shorter', async () => {
  show('K1', 3, 20);
  const table = within(screen.getByRole('table', { name: 'Each drive’s share of the cycle' }));
  expect(table.getByRole('row', { name: /^3 · kiln fan 6 bytes 10 bytes 2 / })).toBeInTheDocument();
  expect(table.getByRole('row', { name: /^7 · infeed chain / })).toBeInTheDocument();
  const title = (): string => screen.getByText(/^shortest cycle/).textContent;
  const two = Number.parseFloat(title().replace(/^shortest cycle /, ''));
  expect(title()).toMatch(/: more than the 20 ms wanted$/);
  await userEvent.selectOptions(screen.getByLabelText('By'), 'one');
  expect(Number.parseFloat(title().replace(/^shortest cycle /, ''))).toBeLessThan(two);
  expect(screen.getByText(/^One more drive like 7 · infeed chain makes it/)).toBeInTheDocument();
});

it('a drive with which nothing goes round is said, with its reason', () => {
  show('G1', 21);
  expect(screen.getByText(/ is not in it: the bench has no sheet of it\.$/)).toBeInTheDocument();
  expect(screen.getByText('nothing, by the sheets of its drives')).toBeInTheDocument();
});
