import 'fake-indexeddb/auto';
import { File } from 'node:buffer';
import { act, cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react';
import { benchAt } from './harness/bench';
import { demoJob, shippedSheets } from './harness/shipped';
import { saveFile } from '../src/bench/workers/ask-file-worker';
import { recordText } from '../src/core/handover/html';
import { packBlock } from '../src/core/trace/block';
import type { TraceEntry } from '../src/core/trace/entry';
import { BujoDatabase } from '../src/store/database';
import { photoShelf } from '../src/store/photo-shelf';
import { roomOf } from '../src/store/room';
import { shippedRecords } from '../src/store/record-row';
import { recordShelf } from '../src/store/record-shelf';
import { answerHandover } from '../src/workers/handover/answer';
import { FIRST, handoverStore } from '../src/features/handover/handover-store';
import { HandoverStage } from '../src/features/handover/handover-stage';

let database: BujoDatabase;
let count = 0;

// The worker's own work, without a worker: jsdom has none.
jest.mock('../src/bench/workers/ask-handover', () => ({
  askHandover: (question: Parameters<typeof answerHandover>[1]) =>
    answerHandover({ database, fonts: () => Promise.resolve({ text: '', mono: '' }) }, question),
}));

jest.mock('../src/bench/workers/ask-file-worker', () => ({
  ...jest.requireActual<object>('../src/bench/workers/ask-file-worker'),
  saveFile: jest.fn(),
}));

const line = demoJob().lines[0]!.id;
const entry = (sequence: number, direction: 'sent' | 'received', hex: string): TraceEntry => ({
  session: 's',
  sequence,
  line,
  station: 3,
  atUs: sequence * 10_000,
  direction,
  bytes: Uint8Array.from(Buffer.from(hex.replace(/ /g, ''), 'hex')),
  lineFaults: [],
  exchange: 1 + (sequence >> 1),
  outcome: direction === 'sent' ? 'none' : 'answered',
  cause: 'Words',
});

/** Until the record is made anew of what was typed last. */
const settle = async (): Promise<void> => {
  const wait = (ms: number) => act(() => new Promise((resolve) => setTimeout(resolve, ms)));
  await wait(450);
  for (let still = 0; still < 8; still++) {
    const { made, isMaking } = handoverStore.getState();
    const beganMs = performance.now();
    await wait(20);
    // Where timers come late, what was typed last may not have begun yet.
    if (isMaking || made === null || performance.now() - beganMs > 60) still = 0;
  }
};

/** On a loaded computer a database and a record take their time. */
const eventually = (look: () => void | Promise<void>): Promise<void> => waitFor(look, { timeout: 15_000 });

async function stage() {
  database = new BujoDatabase(`stage ${count++}`);
  await database.sessions.put({ id: 's', startedAtMs: Date.UTC(2026, 10, 20, 8), job: demoJob().id });
  // The run word of the sheet was written, and confirmed.
  const entries = [entry(0, 'sent', '03 06 02 C1 00 0D 19 A9'), entry(1, 'received', '03 06 02 C1 00 0D 19 A9')];
  await database.traceBlocks.put(packBlock(entries));
  const { bench, show } = benchAt('K1 kiln', 3, { record: { blocks: [], starts: [], tail: entries, tailStart: 0 } });
  const records = recordShelf(database, () => shippedRecords(demoJob(), shippedSheets()));
  // One line is enough, and quick to look through.
  bench.state.setState(({ job }) => ({ job: job && { ...job, lines: job.lines.slice(0, 1), ipPlan: [] } }));
  Object.assign(bench, {
    records,
    sets: { of: () => Promise.resolve({ sets: [], writings: [], plans: [] }) },
    trials: { of: () => Promise.resolve([]) },
    room: roomOf(database),
    photos: photoShelf(database),
  });
  handoverStore.setState(FIRST, true);
  show(<HandoverStage />);
  await settle();
  return { bench, records };
}

afterEach(() => {
  cleanup();
  database.close();
});
/** By its label, or its words: looking for roles takes a second of jsdom's among so many rows. */
const press = (name: string | RegExp): void =>
  void fireEvent.click(screen.queryByLabelText(name) ?? screen.getByText(name, { selector: 'button' }));

it('the record is there without a press, what is not as it should be stands first, and each line leads to its exchange', async () => {
  await stage();
  const [first] = within(screen.getByRole('table', { name: 'What is not proved, and what is left open' })).getAllByRole(
    'row',
    { name: /K1 kiln, 3/ },
  );
  expect(first).toHaveTextContent('✗ not so');
  expect(first).toHaveTextContent('control word 0x000D asks it to run');
  fireEvent.click(within(first!).getByRole('button', { name: 'exchange 1' }));
  const source = screen.getByRole('dialog', { name: 'Where this is from' });
  expect(source).toHaveTextContent('03 06 02 C1 00 0D 19 A9 write 11.01 control word ← 0x000D · run forward');
});

it('sections are moved, left out and remarked by keys; what was put to the record is there after a reload', async () => {
  const { bench, records } = await stage();
  fireEvent.click(screen.getByLabelText('Cables: in the record'));
  press('Scaling: up');
  press(/^Settings$/);
  fireEvent.change(screen.getByLabelText('Your remark in this section'), { target: { value: 'as agreed' } });
  await settle();
  const { made } = handoverStore.getState();
  const ids = made!.record.sections.map(({ id }) => id);
  expect(ids).not.toContain('cables');
  expect(ids.indexOf('scaling')).toBe(ids.indexOf('words') - 1);
  expect(made!.record.sections.find(({ id }) => id === 'values')?.remark).toBe('as agreed');
  const { visit } = await records.of(bench.state.getState().job!.id);
  expect(visit).toEqual(handoverStore.getState().visit);
});

it('nobody ticks without a name; a tick has name and time, and is open no more', async () => {
  await stage();
  press(/^Before leaving$/);
  const covers = (): HTMLElement => screen.getByLabelText(/covers are closed/);
  expect(covers()).toBeDisabled();
  fireEvent.change(screen.getByLabelText('By'), { target: { value: 'E. Moss' } });
  await settle();
  fireEvent.click(covers());
  await settle();
  await eventually(() =>
    expect(screen.getByText(/^covers are closed/, { selector: 'td' }).closest('tr')).toHaveTextContent(
      /☑ saidcovers.*E\. Moss, \d{4}-/,
    ),
  );
});

it('a closed record is kept as it is under its digest, compared with what is now, and opened again from its file', async () => {
  const { records, bench } = await stage();
  const job = bench.state.getState().job!.id;
  press('Close the record');
  await settle();
  const closed = (await records.of(job)).records.at(-1)!;
  expect(screen.getByText(`SHA-256 ${closed.digest.slice(0, 12)}…`)).toBeInTheDocument();
  // It is only looked at: nothing of it can be moved or remarked.
  expect(screen.queryByLabelText('Cables: in the record')).toBeNull();
  expect(screen.queryByLabelText('Your remark in this section')).toBeNull();
  // From now on another drive name makes another record; the closed one stays.
  act(() =>
    bench.state.setState(({ job: now }) => ({
      job: now && { ...now, lines: now.lines.map((one) => (one.id === line ? { ...one, name: 'K1 oven' } : one)) },
    })),
  );
  press('As of now');
  await settle();
  expect((await records.of(job)).records.at(-1)).toEqual(closed);
  press(new RegExp(`^What is different since the record of ${closed.record.made.slice(0, 4)}-1`));
  const table = screen.getByRole('table', { name: 'Differences' });
  expect(within(table).getAllByRole('row').at(1)).toHaveTextContent(/K1 kiln · .*K1 oven · /);
  // The same file twice is one record; a broken one says so and changes nothing.
  const open = async (text: string): Promise<void> => {
    fireEvent.change(screen.getByLabelText('A record: page, JSON or archive'), {
      target: { files: [new File([text], 'left.json')] },
    });
    await settle();
  };
  await open(recordText(closed.record));
  expect((await records.of(job)).records).toHaveLength(2);
  expect(screen.getAllByRole('status').map(({ textContent }) => textContent)).toEqual([
    expect.stringMatching(/^left\.json: the record of Alder Ford, /),
  ]);
  await open(recordText(closed.record).slice(0, 900));
  expect(screen.getByText(/^left\.json: it holds no record/)).toBeInTheDocument();
  expect((await records.of(job)).records).toHaveLength(2);
});

it('nothing is closed where the record cannot be made', async () => {
  const { bench, records } = await stage();
  const job = bench.state.getState().job!.id;
  Object.assign(bench, { trials: { of: () => Promise.reject(new Error('the disk is full')) } });
  const before = (await records.of(job)).records.length;
  press('Close the record');
  expect(await screen.findByText('the record was not made: the disk is full')).toBeInTheDocument();
  expect((await records.of(job)).records).toHaveLength(before);
  expect(handoverStore.getState().shown).toBe('');
});

it('the next visit begins without the ticks and remarks of the last one, and can be taken back; another tab’s words are not lost', async () => {
  const { bench, records } = await stage();
  const job = bench.state.getState().job!.id;
  fireEvent.change(screen.getByLabelText('By'), { target: { value: 'E. Moss' } });
  await settle();
  press(/^Before leaving$/);
  fireEvent.click(screen.getByLabelText(/covers are closed/));
  // Another tab of this browser names the visit meanwhile.
  await act(() => records.changeVisit(job, (visit) => ({ ...visit, visit: 'autumn' })));
  fireEvent.change(screen.getByLabelText('Plant'), { target: { value: 'Alder Ford, kiln' } });
  await settle();
  await eventually(() => expect(screen.getByLabelText('Visit')).toHaveValue('autumn'));
  press('Begin the next visit');
  const kept = async () => (await records.of(job)).visit;
  await eventually(async () =>
    expect(await kept()).toMatchObject({ by: 'E. Moss', plant: 'Alder Ford, kiln', visit: '', ticks: {}, remarks: {} }),
  );
  // The exchange was before it: nothing is known of the drive in this visit.
  await eventually(() =>
    expect(JSON.stringify(handoverStore.getState().made!.record.sections)).not.toContain('asks it to run'),
  );
  press('Take it back');
  await eventually(async () =>
    expect(await kept()).toMatchObject({ visit: 'autumn', ticks: { covers: { by: 'E. Moss' } } }),
  );
});

it('the page is saved under the plant, the day and the digest', async () => {
  await stage();
  const { digest, record } = handoverStore.getState().made!;
  press('Save as one page');
  await settle();
  expect(saveFile).toHaveBeenCalledWith(
    expect.objectContaining({ type: 'text/html' }),
    `alder-ford-${record.made.slice(0, 10)}-${digest.slice(0, 12)}.html`,
  );
});

it('what takes room is told, and a trace that was let go comes back', async () => {
  await stage();
  press('Look what takes it');
  expect(await screen.findByText(/^This browser does not tell how much room there is\./)).toBeInTheDocument();
  const letGo = await screen.findByLabelText(/^Let go: Trace of 2026-11-20/);
  fireEvent.click(letGo);
  expect(await screen.findByText(/^Gone: Trace of 2026-11-20 .*, 2 entries/)).toBeInTheDocument();
  expect(await database.traceBlocks.count()).toBe(0);
  fireEvent.click(screen.getByText('Put it back', { selector: 'button' }));
  await screen.findByLabelText(/^Let go: Trace of 2026-11-20/);
  expect(await database.traceBlocks.count()).toBe(1);
});
