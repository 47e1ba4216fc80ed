import { act, fireEvent, screen, within } from '@testing-library/react';
import { benchAt } from '../../../tests/harness/bench';
import { withLine, type Job } from '../../core/job/job';
import { useBenchState } from '../../bench/bench-context';
import { StationRows } from './station-rows';

function Rows({ id }: { readonly id: string }) {
  const line = useBenchState(({ job }) => job?.lines.find((one) => one.id === id));
  return line ? <StationRows line={line} range={[1, 247]} /> : null;
}

/** The kiln's line with so many stations beside the fan. */
function rowsOf(count: number) {
  const own = benchAt('K1', 3);
  const { lineId, job } = own.bench.state.getState();
  const many = (whole: Job): Job =>
    withLine(whole, lineId, (line) => ({
      ...line,
      stations: Array.from({ length: count }, (_, i) => ({ id: `s${i}`, station: i + 1, name: `drive ${i + 1}` })),
    }));
  own.bench.state.setState({ job: job && many(job) });
  own.show(<Rows id={lineId} />);
  return own;
}
const row = (station: number): HTMLElement =>
  screen.getByRole('group', { name: `station ${station} drive ${station}` });

it('a station is renumbered where its number is free, and what is typed stays until it is taken over', () => {
  const { bench } = rowsOf(3);
  fireEvent.change(within(row(2)).getByLabelText('station'), { target: { value: '3' } });
  expect(within(row(2)).getByLabelText('station')).toHaveAccessibleDescription('station 3 is on this line already');
  expect(within(row(2)).getByRole('button', { name: 'Change 2' })).toBeDisabled();
  // Another row is changed meanwhile: nothing of this one is lost.
  fireEvent.change(within(row(1)).getByLabelText('name'), { target: { value: 'fan' } });
  fireEvent.click(within(row(1)).getByRole('button', { name: 'Change 1' }));
  expect(screen.getByRole('group', { name: 'station 1 fan' })).toBeInTheDocument();
  expect(within(row(2)).getByLabelText('station')).toHaveValue('3');
  fireEvent.change(within(row(2)).getByLabelText('station'), { target: { value: '9' } });
  fireEvent.click(within(row(2)).getByRole('button', { name: 'Change 2' }));
  const { job, lineId } = bench.state.getState();
  const numbers = job?.lines.find(({ id }) => id === lineId)?.stations.map(({ station }) => station);
  expect(numbers).toEqual([1, 9, 3]);
  // Taken back, the station is shown as it is, not as it was typed.
  act(() => bench.undoChange());
  expect(within(row(2)).getByLabelText('station')).toHaveValue('2');
});

it('of 247 stations only those in sight are drawn', () => {
  rowsOf(247);
  expect(screen.queryAllByRole('group', { name: /^station/ }).length).toBeLessThan(60);
});
