import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { FAN } from '../../../tests/harness/bench-on-line';
import { trialsAt } from '../../../tests/harness/trials-at';
import { shippedIndex } from '../../../tests/harness/sheets';
import { demoJob } from '../../../tests/harness/shipped';
import type { Procedure } from '../../core/procedure/procedure';
import type { Job } from '../../core/job/job';
import { framingOf } from '../../core/modbus/framing';
import { registerLink } from '../../core/places/register-link';
import { beginRun, endRun } from '../../core/procedure/run-state';
import { compileTrial } from '../../core/trial/compile';
import { lineOf } from '../../core/trial/seen-line';
import { SHIPPED_TRIALS } from '../../core/trial/shipped-trials';
import type { TrialRunRow } from '../../store/database';
import type { BandChartProps } from './band-chart';
import { TrialsStage } from './trials-stage';
import { trialsStore } from './trials-store';

jest.mock('./band-chart', () => ({
  BandChart: ({ said, other, held }: Pick<BandChartProps, 'said' | 'other' | 'held'>) => (
    <>
      <p>{said}</p>
      <p data-testid="drawn">
        {other?.name ?? 'alone'}, {held ? `${held.min.toFixed(1)} to ${held.max.toFixed(1)} s` : 'whole'}
      </p>
    </>
  ),
}));

const stage = (kept?: readonly TrialRunRow[], factory?: Record<string, number>) => trialsAt(FAN, kept, factory);
const choose = (name: string): Promise<void> => userEvent.click(screen.getByRole('button', { name }));
const steps = () => within(screen.getByRole('table', { name: 'Steps of the trial' }));

it('says of each trial what it proves and what it leaves open, which steps may turn the shaft, and why it cannot begin', async () => {
  const { bench } = await stage();
  await choose('Direction');
  expect(screen.getByText(/turns the shaft the way that the machine wants it/)).toBeInTheDocument();
  expect(screen.getByText(/^From step 3 on the shaft of 3 · kiln fan may turn/)).toBeInTheDocument();
  expect(steps().getAllByText('↻ may turn')).toHaveLength(5);
  const run = screen.getByRole('button', { name: 'Run “Direction” on 3 · kiln fan' });
  expect(run).toHaveAccessibleDescription('whether it stands was not read just now: press Read once, or Watch');
  act(() => bench.state.setState({ lines: new Map() }));
  expect(run).toHaveAccessibleDescription('the line is closed');
});

it('runs what moves nothing without asking for a state, asks the person, and keeps what came', async () => {
  const { rows, onward, own } = await stage();
  await userEvent.click(screen.getByRole('button', { name: 'Run “First contact” on 3 · kiln fan' }));
  onward(2);
  const asks = within(screen.getByRole('group', { name: 'What the trial asks' }));
  expect(asks.getByText(/^Does its own display show the type/)).toBeInTheDocument();
  await userEvent.click(asks.getByRole('button', { name: 'it agrees' }));
  onward(1);
  expect(screen.getByRole('heading', { name: /^What came: ✓ passed/ })).toBeInTheDocument();
  expect(steps().getByRole('row', { name: /^2 read 1\.01 type code ✓ passed 4107/ })).toBeInTheDocument();
  expect(rows[rows.length - 1]?.run).toMatchObject({ phase: 'over', end: 'done' });
  // Reads only.
  expect(new Set(own.entries.filter(({ direction }) => direction === 'sent').map(({ bytes }) => bytes[1]))).toEqual(
    new Set([3]),
  );
  await userEvent.type(screen.getByLabelText(/^What you saw/), 'quiet');
  expect(rows[rows.length - 1]?.remark).toBe('quiet');
});

it('a question that may wait is answered when the run is over; until then it is open', async () => {
  const { rows, onward } = await stage();
  await userEvent.click(screen.getByRole('button', { name: 'Run “First contact” on 3 · kiln fan' }));
  onward(2);
  await userEvent.click(screen.getByRole('button', { name: 'Answer it later' }));
  onward(1);
  expect(screen.getByRole('heading', { name: /^What came: \? cannot be told/ })).toBeInTheDocument();
  const waits = within(screen.getByRole('group', { name: 'To be answered yet' }));
  expect(waits.getByText(/^Does its own display show the type/)).toBeInTheDocument();
  await userEvent.click(waits.getByRole('button', { name: 'it agrees' }));
  expect(screen.getByRole('heading', { name: /^What came: ✓ passed/ })).toBeInTheDocument();
  expect(screen.queryByRole('group', { name: 'To be answered yet' })).toBeNull();
  expect(rows[rows.length - 1]?.run?.records.at(-1)).toMatchObject({ said: 'it agrees', good: true });
});

it('a shaft in motion is said, the step under way too; ending it stops the shaft', async () => {
  const { onward, readStatus, own } = await stage();
  await choose('How it stops');
  readStatus();
  await userEvent.click(screen.getByRole('button', { name: 'Run “How it stops” on 3 · kiln fan' }));
  onward(1);
  expect(
    screen.getByText(/^How it stops on 3 · kiln fan is under way, step 4 of 10: 6\.05 actual speed is at least 25 %/),
  ).toBeInTheDocument();
  expect(own.yard.drives.get(3)?.isTurning()).toBe(true);
  await userEvent.click(screen.getByRole('button', { name: 'End it, and stop the shaft' }));
  onward(20);
  expect(own.yard.drives.get(3)?.isTurning()).toBe(false);
  expect(
    screen.getByRole('heading', { name: /^What came: · not done How it stops on 3 · kiln fan, .*: ended by hand/ }),
  ).toBeInTheDocument();
});

it('a drive that will not turn says so before, and does not begin from a fault', async () => {
  const { bench, readStatus } = await stage([], {});
  await choose('How it stops');
  readStatus();
  const run = screen.getByRole('button', { name: 'Run “How it stops” on 3 · kiln fan' });
  expect(run).toBeEnabled();
  act(() =>
    bench.state.setState(({ views }) => ({
      views: new Map(
        [...views].map(([key, view]) => [
          key,
          { ...view, values: new Map([...view.values].map(([cell]) => [cell, { word: 0x2a10, atUs: 0 }])) },
        ]),
      ),
    })),
  );
  expect(run).toHaveAccessibleDescription('it reports a fault: reset it in Words first');
});

it('a run that a reload cut tells how far it came, whichever was here first', async () => {
  const first = await stage();
  await userEvent.click(screen.getByRole('button', { name: 'Run “First contact” on 3 · kiln fan' }));
  first.onward(1);
  // What the page had written of it by then, and what the worker had.
  const kept = first.rows[first.rows.length - 1]!;
  const run = trialsStore.getState().runs.get(kept.id)?.run;
  first.unmount();
  const again = await stage([kept]);
  const { compiled, line } = kept;
  act(() =>
    again.bench.state.setState({
      runs: [
        {
          id: kept.id,
          line,
          procedure: compiled.procedure!,
          about: { kind: 'none' },
          run: endRun(run!, 'reload', 'its page was reloaded or closed at step 6 of 6; the step may have been done'),
        },
      ],
    }),
  );
  const list = within(screen.getByRole('table', { name: 'Runs of this job' }));
  expect(
    list.getByRole('row', { name: /First contact 3 · kiln fan · not done its page was reloaded/ }),
  ).toBeInTheDocument();
  await waitFor(() => expect(again.rows[again.rows.length - 1]?.run?.end).toBe('reload'));
  await userEvent.click(list.getByRole('button', { name: 'First contact' }));
  expect(screen.getByRole('heading', { name: /^What came: · not done/ })).toBeInTheDocument();
  await userEvent.click(list.getByRole('button', { name: 'Delete' }));
  await waitFor(() => expect(again.dropped).toEqual([kept.id]));
  expect(screen.queryByRole('table', { name: 'Runs of this job' })).toBeNull();
});

it('a trial of one’s own is changed step by step; what cannot be read holds the run off, and every change can be undone', async () => {
  const { bench } = await stage();
  await userEvent.click(screen.getByRole('button', { name: 'Make one of my own from it' }));
  const own = () => bench.state.getState().job?.trials?.[0];
  expect(own()).toMatchObject({ id: 'first-contact-own', name: 'First contact, own' });
  await userEvent.selectOptions(screen.getByLabelText('Add a step at the end'), 'hold');
  const editor = within(screen.getByRole('list', { name: 'Steps to edit' }));
  const seconds = editor.getByLabelText('seconds');
  await userEvent.clear(seconds);
  await userEvent.type(seconds, 'soon');
  expect(screen.getByRole('button', { name: /^Run “First contact, own”/ })).toHaveAccessibleDescription(
    /^Not sent while “seconds” shows something else/,
  );
  expect(own()?.steps[6]).toMatchObject({ kind: 'hold', s: 2 });
  await userEvent.clear(seconds);
  await userEvent.type(seconds, '1,5');
  expect(own()?.steps[6]).toMatchObject({ kind: 'hold', s: 1.5 });
  await userEvent.click(editor.getByRole('button', { name: 'Move step 7 up' }));
  expect(own()?.steps[5]).toMatchObject({ kind: 'hold' });
  act(() => seconds.focus());
  await userEvent.keyboard('{Alt>}{ArrowUp}{/Alt}');
  expect(own()?.steps[4]).toMatchObject({ kind: 'hold' });
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  expect(own()?.steps[5]).toMatchObject({ kind: 'hold' });
  await userEvent.click(screen.getByRole('button', { name: 'Delete this trial' }));
  expect(bench.state.getState().job?.trials).toEqual([]);
});

it('a file that is no trial says what and where, and one that is comes in under a name of its own', async () => {
  const { bench } = await stage();
  // This DOM has no way to read a file's text.
  const fileOf = (text: string, name: string): File =>
    Object.assign(new File([text], name), { text: () => Promise.resolve(text) });
  const field = screen.getByLabelText('Trial file');
  await userEvent.setup({ applyAccept: false }).upload(field, fileOf('{"format":1}', 'odd.json'));
  expect(await screen.findByRole('alert')).toHaveTextContent(/^odd\.json was not taken: id: /);
  const file = { format: 1, id: 'stops', name: 'Stops', proves: 'a', leaves: 'b', steps: [{ id: 'x', kind: 'stop' }] };
  await userEvent.setup({ applyAccept: false }).upload(field, fileOf(JSON.stringify(file), 'stops.json'));
  await waitFor(() => expect(bench.state.getState().job?.trials?.[0]?.id).toBe('stops-2'));
  expect(screen.queryByRole('alert')).toBeNull();
});

it('a run that is over keeps its remark and its line when another job was looked at, and stays deleted once it is', async () => {
  const { bench, rows, onward, dropped } = await stage();
  await userEvent.click(screen.getByRole('button', { name: 'Run “First contact” on 3 · kiln fan' }));
  onward(2);
  await userEvent.click(screen.getByRole('button', { name: 'it agrees' }));
  onward(1);
  await userEvent.type(screen.getByLabelText(/^What you saw/), 'quiet');
  const kept = rows.length;
  const { job, views } = bench.state.getState();
  const news = (): void => act(() => bench.state.setState({ views: new Map(views) }));
  act(() => bench.state.setState({ job: job && { ...job, id: 'another' } }));
  await act(() => Promise.resolve());
  news();
  act(() => bench.state.setState({ job }));
  await act(() => Promise.resolve());
  news();
  expect(rows).toHaveLength(kept);
  expect([...trialsStore.getState().runs.values()].at(-1)).toMatchObject({ remark: 'quiet', run: { end: 'done' } });
  await userEvent.click(screen.getByRole('button', { name: 'Delete' }));
  await waitFor(() => expect(dropped).toHaveLength(1));
  news();
  expect(trialsStore.getState().runs.size).toBe(0);
});

it('another drive is looked at meanwhile: what runs says on which it runs, asks there too, and is read by its own sheet', async () => {
  const { bench, onward } = await stage();
  await userEvent.click(screen.getByRole('button', { name: 'Run “First contact” on 3 · kiln fan' }));
  onward(2);
  act(() => bench.state.setState({ station: 7, job: withChain(bench.state.getState().job) }));
  expect(screen.getByRole('heading', { name: 'First contact for 7 · infeed chain' })).toBeInTheDocument();
  expect(screen.getByText(/^First contact on 3 · kiln fan is under way, step 6 of 6/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'it agrees' }));
  onward(1);
  expect(
    screen.getByRole('heading', { name: /^What came: ✓ passed First contact on 3 · kiln fan/ }),
  ).toBeInTheDocument();
  expect(steps().getByRole('row', { name: /^2 read 1\.01 type code ✓ passed 4107/ })).toBeInTheDocument();
  // Whose sheet is gone is said; what is there of it is not guessed at.
  act(() => bench.state.setState({ sheets: new Map() }));
  expect(screen.getByText('The sheet by which it was run is not here any more.')).toBeInTheDocument();
});

it('another procedure on the line is not cut by a trial', async () => {
  const { bench, drive } = await stage();
  const procedure: Procedure = { kind: 'both-ends', title: 'x', station: 3, steps: [], rounds: 1, standsStill: true };
  act(() =>
    bench.state.setState({ runs: [{ id: 'x', line: drive.line, procedure, about: { kind: 'none' }, run: null }] }),
  );
  expect(screen.getByRole('button', { name: /^Run “First contact”/ })).toHaveAccessibleDescription(
    'another procedure runs on this line',
  );
});

/** With the infeed chain beside the fan: the harness leaves it out. */
const withChain = (job: Job | null): Job | null => {
  const chain = demoJob().lines[0]?.stations.find(({ station }) => station === 7);
  return (
    job && {
      ...job,
      lines: job.lines.map((line, i) => (i === 0 && chain ? { ...line, stations: [...line.stations, chain] } : line)),
    }
  );
};

it('a drive behind plain text has no sheet, and is spoken to all the same: no trial that ships, and one of its own is written', async () => {
  const at = benchAt('D1', 1);
  Object.assign(at.bench, { trials: { of: () => Promise.resolve([]), keep: () => Promise.resolve() } });
  at.show(<TrialsStage />);
  await act(() => Promise.resolve());
  expect(screen.queryByRole('list', { name: 'Trials that ship' })).toBeNull();
  await userEvent.click(screen.getByRole('button', { name: /^The fence answers/ }));
  // What needs a sheet says so, and cannot be begun.
  expect(screen.getByRole('button', { name: /^Run “The fence answers/ })).toBeDisabled();
  await userEvent.click(screen.getByRole('button', { name: /^The old menu does as it is told/ }));
  expect(screen.getByText(/Stop does not reach it: stand at the drive’s own stop/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Write one' }));
  expect(screen.getByRole('heading', { name: /^Own trial/ })).toBeInTheDocument();
  expect(screen.getAllByText('say ?<CR>, and wait for any answer within 5 s').length).toBeGreaterThan(0);
});

it('step by step it waits before each of them until it is told to go on', async () => {
  const { onward, rows } = await stage();
  await userEvent.click(screen.getByRole('button', { name: 'Step by step' }));
  onward(5);
  const status = () => screen.getByText(/^First contact on 3 · kiln fan/, { selector: 'p' });
  expect(status()).toHaveTextContent('First contact on 3 · kiln fan is paused, step 2 of 6: read 1.01 type code');
  await userEvent.click(screen.getByRole('button', { name: 'Do step 2' }));
  onward(5);
  expect(status()).toHaveTextContent(/is paused, step 3 of 6/);
  await userEvent.click(screen.getByRole('button', { name: /^End it/ }));
  expect(rows.at(-1)?.run).toMatchObject({ phase: 'over', end: 'by-hand', records: [{ step: 0 }, { step: 1 }] });
});

describe('a run looked at again', () => {
  const PLACE = {
    job: demoJob().id,
    sheet: { slug: 'tern', revision: 1 },
    name: 'kiln fan',
    line: demoJob().lines[0]!.id,
    station: 3,
  };
  /** Half a second for each request and wait of it, and a line at 5 Hz. */
  const ran = (id: string, startedMs: number, place: Partial<TrialRunRow> = {}): TrialRunRow => {
    const index = shippedIndex('tern');
    const compiled = compileTrial(
      SHIPPED_TRIALS.find((one) => one.id === 'direction')!,
      {
        index,
        places: registerLink(index, framingOf('modbus-rtu')),
        station: 3,
        name: 'fan',
        here: ['ready'],
        known: () => undefined,
      },
    );
    const steps = compiled.procedure!.steps;
    const records = steps.map((_, step) => ({
      step,
      good: true,
      seen: null,
      notYetUs: null,
      exchange: step,
      said: '',
      fromUs: step * 500_000,
      toUs: (step + 1) * 500_000,
    }));
    return {
      ...PLACE,
      id,
      startedMs,
      compiled,
      rampS: 10,
      run: { ...endRun(beginRun(compiled.procedure!, id, 0), 'done', ''), at: steps.length, records },
      samples: lineOf(records.map(({ toUs }) => ({ x: toUs / 1e6, y: 5 }))),
      remark: '',
      ...place,
    };
  };
  const drawn = () => screen.findByTestId('drawn');

  it('has the last one of the same drive under it, or the one that is chosen, of another drive too', async () => {
    await stage([ran('a', 1e12), ran('b', 2e12), ran('c', 3e12), ran('d', 2.5e12, { station: 4, name: 'other fan' })]);
    const list = within(screen.getByRole('table', { name: 'Runs of this job' }));
    await userEvent.click(list.getAllByRole('button', { name: 'Direction' })[0]!);
    expect(await drawn()).toHaveTextContent(/^kiln fan, 2033-05-18.*, whole$/);
    const choice = screen.getByLabelText('Another run laid under it, dashed');
    expect(within(choice).getAllByRole('option')).toHaveLength(4);
    await userEvent.selectOptions(choice, 'd');
    expect(await drawn()).toHaveTextContent(/^other fan, /);
    await userEvent.selectOptions(choice, 'none');
    expect(await drawn()).toHaveTextContent(/^alone, /);
  });

  it('shows one of its steps in the picture; another run is shown whole again', async () => {
    await stage([ran('a', 1e12), ran('b', 2e12)]);
    const list = within(screen.getByRole('table', { name: 'Runs of this job' }));
    await userEvent.click(list.getAllByRole('button', { name: 'Direction' })[0]!);
    await drawn();
    await userEvent.click(screen.getByRole('button', { name: 'Show step 1 in the picture' }));
    expect(await drawn()).toHaveTextContent(/, 0\.0 to [1-9]\d*\.\d s$/);
    await userEvent.click(list.getAllByRole('button', { name: 'Direction' })[1]!);
    expect(await drawn()).toHaveTextContent(/^alone, whole$/);
  });
});
