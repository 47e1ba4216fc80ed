import { act, screen, within } from '@testing-library/react';
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
  const { unmount } = line.show(<WhoIsIt />);
  return { ...line, unmount };
}

it('a station without a sheet is asked what each sheet asks of itself; the one that fits is offered first and given by a press', async () => {
  const { bench, own } = await stranger();
  await userEvent.click(screen.getByRole('button', { name: /^Ask which of \d+ sheets fits/ }));
  const found = await screen.findByRole('table', { name: 'Sheets by how well they fit' });
  // Reads only.
  const functions = own.entries.filter(({ direction }) => direction === 'sent').map(({ bytes }) => bytes[1]);
  expect(new Set(functions)).toEqual(new Set([3]));
  const [first] = within(found).getAllByRole('row');
  expect(first).toHaveTextContent(/^Tern✓ fitstype code 4107, as the sheet has it/);
  await userEvent.click(screen.getByRole('button', { name: 'Give it Tern' }));
  expect(bench.changeJob).toHaveBeenCalledTimes(1);
});

it('says nothing where a sheet is given', async () => {
  const { show } = await benchOnLine(FAN);
  const { container } = show(<WhoIsIt />);
  expect(container).toBeEmptyDOMElement();
});

it('ends where the line is closed, says after how many, and can be asked again', async () => {
  const { bench, control } = await stranger();
  const press = screen.getByRole('button', { name: /^Ask which of \d+ sheets fits/ });
  control.before = () => bench.state.setState({ lines: new Map() });
  const { lines } = bench.state.getState();
  await userEvent.click(press);
  expect(await screen.findByText(/^Ended after \d of \d+ sheets: the line is closed\.$/)).toBeInTheDocument();
  expect(screen.queryByRole('table')).toBeNull();
  control.before = null;
  act(() => bench.state.setState({ lines }));
  await userEvent.click(press);
  expect(await screen.findByRole('table', { name: 'Sheets by how well they fit' })).toBeInTheDocument();
});

it('asks no more once another drive is looked at', async () => {
  const line = await stranger();
  let sent = 0;
  line.control.before = () => {
    if (++sent === 1) line.unmount();
  };
  await userEvent.click(screen.getByRole('button', { name: /^Ask which of \d+ sheets fits/ }));
  await act(() => new Promise((resolve) => setTimeout(resolve, 50)));
  expect(sent).toBe(1);
});
