import { act, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { demoJob } from '../../../tests/harness/shipped';
import { withStation, type Job } from '../../core/job/job';
import type { WayBack } from '../../core/job/take-away';
import { MergeOffers } from './merge-panel';

const theirs = withStation(demoJob(), demoJob().lines[0]!.id, 3, (station) => ({
  ...station,
  name: 'fan of the kiln',
  about: 'Its bearings were changed.',
}));

it('what a colleague’s file has otherwise is taken one by one by a press, and each has its way back', async () => {
  const { bench, show } = benchAt('K1', 3);
  const backs: WayBack[] = [];
  const adopt = jest.fn(() => Promise.resolve(theirs));
  Object.assign(bench, {
    jobs: { adopt },
    changeJob: (change: (job: Job) => Job, back: WayBack) => {
      backs.push(back);
      bench.state.setState(({ job }) => ({ job: job && change(job) }));
      return true;
    },
  });
  show(<MergeOffers file={{ job: theirs, sheets: [] }} />);
  // Nothing is compared or kept before the press.
  expect(adopt).not.toHaveBeenCalled();
  await userEvent.click(screen.getByRole('button', { name: 'Take from it, one by one' }));
  const table = await screen.findByRole('table', { name: 'What differs in the file' });
  expect(within(table).getByRole('row', { name: /: its name kiln fan fan of the kiln/ })).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: /^Take over .*: what is said of it$/ }));
  expect(bench.state.getState().job!.lines[0]!.stations[0]).toMatchObject({
    name: 'kiln fan',
    about: 'Its bearings were changed.',
  });
  expect(screen.getByText(/^1 thing in the file differs/)).toBeInTheDocument();
  act(() => bench.state.setState(({ job }) => ({ job: job && backs[0]!.restore(job) })));
  expect(bench.state.getState().job).toEqual(demoJob());
  await userEvent.click(screen.getByRole('button', { name: /^Take over .*: its name$/ }));
  await userEvent.click(screen.getByRole('button', { name: /^Take over .*: what is said of it$/ }));
  expect(screen.getByText('Nothing in the file differs from this job any more.')).toBeInTheDocument();
});

it('sheets that cannot be kept are said, and nothing was changed', async () => {
  const { bench, show } = benchAt('K1', 3);
  Object.assign(bench, { jobs: { adopt: () => Promise.reject(new Error('full')) } });
  show(<MergeOffers file={{ job: theirs, sheets: [] }} />);
  await userEvent.click(screen.getByRole('button', { name: 'Take from it, one by one' }));
  expect(bench.state.getState().refused).toBe('the sheets of the file cannot be kept: full');
  expect(bench.state.getState().job).toEqual(demoJob());
});
