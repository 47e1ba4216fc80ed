import { act, fireEvent, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { rtu } from '../../../tests/harness/line';
import { packBlock } from '../../core/trace/block';
import type { TraceEntry } from '../../core/trace/entry';
import { EMPTY_RECORD, withNewer, withOlder } from '../../core/trace/record';
import { TracePanel } from './trace-panel';

const HEIGHT = 220;
const ROWS = HEIGHT / 22;

// A page without layout has no height: the list gets one of ten rows.
beforeAll(() => {
  jest.spyOn(HTMLElement.prototype, 'offsetHeight', 'get').mockReturnValue(HEIGHT);
  jest.spyOn(HTMLElement.prototype, 'offsetWidth', 'get').mockReturnValue(800);
});

/** Reads of the status, each answered after 20 ms; every tenth one is not. */
function exchanges(line: string, session: string, count: number): readonly TraceEntry[] {
  return Array.from({ length: 2 * count }, (_, sequence): TraceEntry => {
    const isLost = sequence % 20 === 19;
    const kind = sequence % 2 === 0 ? 'sent' : isLost ? 'event' : 'received';
    return {
      session,
      sequence,
      line,
      station: 3,
      atUs: 100_000 * (sequence >> 1) + (sequence % 2) * 20_000,
      direction: kind,
      bytes: kind === 'event' ? new Uint8Array(0) : rtu(kind === 'sent' ? '03 03 0181 0001' : '03 03 02 2201'),
      lineFaults: [],
      exchange: 1 + (sequence >> 1),
      outcome: kind === 'sent' ? 'none' : isLost ? 'timeout' : 'answered',
      cause: 'poll',
    };
  });
}

async function panelWith(count: number) {
  const { bench, show } = benchAt('K1', 3);
  const { lineId } = bench.state.getState();
  const earlier = exchanges(lineId, 'earlier', count);
  const now = exchanges(lineId, 'now', 30);
  const record = withNewer(withOlder(EMPTY_RECORD, [packBlock(earlier)]), now);
  bench.state.setState({ record, entries: now, recordRead: 'whole', keptUpTo: 59 });
  show(<TracePanel />);
  await screen.findByRole('list');
  return { bench, lineId };
}

const rows = () => within(screen.getByRole('region', { name: 'Entries of the trace' })).queryAllByRole('listitem');

it('holds the whole record and shows its end only, a reply with the time after its request', async () => {
  await panelWith(20_000);
  expect(screen.getByTestId('trace-kept')).toHaveTextContent('40,060 entries · kept');
  expect(rows().length).toBeGreaterThanOrEqual(ROWS);
  expect(rows().length).toBeLessThan(2.5 * ROWS);
  const last = rows()[rows().length - 1]!;
  expect(last).toHaveTextContent('no answer within the time-out');
  expect(rows()[rows().length - 3]).toHaveTextContent('+ 20.0 ms');
});

it('says what is not kept yet, and that earlier entries are still read', async () => {
  const { bench } = await panelWith(10);
  act(() => bench.state.setState({ keptUpTo: 50, recordRead: 'reading' }));
  expect(screen.getByTestId('trace-kept')).toHaveTextContent(
    '80 entries, earlier ones are being read · 9 not kept yet',
  );
});

it('a filter goes through all of it, and on through what comes', async () => {
  const { bench, lineId } = await panelWith(1000);
  await userEvent.type(screen.getByLabelText('Filter the trace'), 'faults');
  expect(await screen.findByText('103 found')).toBeInTheDocument();
  for (const row of rows()) expect(row).toHaveTextContent('no answer');
  const more = exchanges(lineId, 'now', 40).slice(60);
  act(() => bench.state.setState(({ record }) => ({ record: withNewer(record, more) })));
  expect(await screen.findByText('104 found')).toBeInTheDocument();
  await userEvent.clear(screen.getByLabelText('Filter the trace'));
  expect(screen.queryByTestId('trace-found')).not.toBeInTheDocument();
  await userEvent.type(screen.getByLabelText('Filter the trace'), 'nowhere');
  expect(await screen.findByText('No entry has this in it.')).toBeInTheDocument();
});

it('begins at the newest entry again with another filter, wherever the list was, and in the same rows', async () => {
  await panelWith(1000);
  const list = screen.getByRole('region', { name: 'Entries of the trace' });
  Object.defineProperty(list, 'scrollHeight', { value: 2060 * 22 });
  Object.defineProperty(list, 'clientHeight', { value: HEIGHT });
  list.scrollTop = 0;
  fireEvent.scroll(list);
  const oldest = rows()[0]!;
  expect(oldest).toHaveStyle({ top: '0px' });
  await userEvent.type(screen.getByLabelText('Filter the trace'), 'faults');
  expect(await screen.findByText('103 found')).toBeInTheDocument();
  expect(rows()[rows().length - 1]).toHaveStyle({ top: `${102 * 22}px` });
  expect(oldest).toBeInTheDocument();
  await userEvent.clear(screen.getByLabelText('Filter the trace'));
  expect(rows()[rows().length - 1]).toHaveStyle({ top: `${2059 * 22}px` });
});

it('folds to its last entry by its key', async () => {
  await panelWith(10);
  await userEvent.keyboard('t');
  await userEvent.keyboard('t');
  expect(screen.queryByRole('region', { name: 'Entries of the trace' })).not.toBeInTheDocument();
  expect(screen.getByLabelText('Trace')).toHaveTextContent('no answer within the time-out');
});

it('says what it is for while nothing has crossed a line, and has nothing to filter', () => {
  const { show } = benchAt('K1', 3);
  show(<TracePanel />);
  expect(screen.getByTestId('trace-kept')).toHaveTextContent('0 entries');
  expect(screen.getByRole('region', { name: 'Entries of the trace' })).toHaveTextContent(
    'Open a line and send a frame',
  );
  expect(screen.queryByLabelText('Filter the trace')).not.toBeInTheDocument();
});
