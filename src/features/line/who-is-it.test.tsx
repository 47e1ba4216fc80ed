import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchOnLine, FAN } from '../../../tests/harness/bench-on-line';
import { WhoIsIt } from './who-is-it';

/** The fan, of which the job does not say what it is. */
async function stranger() {
  const line = await benchOnLine(FAN);
  line.bench.state.setState(({ job }) => ({
    job: job && {
      ...job,
      lines: job.lines.map((one) => ({ ...one, stations: one.stations.map(({ sheet: _, ...station }) => station) })),
    },
  }));
  line.show(<WhoIsIt />);
  return line;
}

it('a station without a sheet is asked what each sheet asks of itself; the one that fits is offered first and given by a press', async () => {
  const { bench, own } = await stranger();
  await userEvent.click(screen.getByRole('button', { name: /^Ask which of \d+ sheets fits/ }));
  // Reads only.
  const functions = own.entries.filter(({ direction }) => direction === 'sent').map(({ bytes }) => bytes[1]);
  expect(new Set(functions)).toEqual(new Set([3]));
  const [first] = within(screen.getByRole('table', { name: 'Sheets by how well they fit' })).getAllByRole('row');
  expect(first).toHaveTextContent(/^Tern✓ fitstype code 4107, as the sheet has it/);
  await userEvent.click(screen.getByRole('button', { name: 'Give it Tern' }));
  expect(bench.changeJob).toHaveBeenCalledTimes(1);
});

it('says nothing where a sheet is given', async () => {
  const { show } = await benchOnLine(FAN);
  const { container } = show(<WhoIsIt />);
  expect(container).toBeEmptyDOMElement();
});
