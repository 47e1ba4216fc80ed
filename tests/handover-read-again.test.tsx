import 'fake-indexeddb/auto';
import { benchOnLine, FAN } from './harness/bench-on-line';
import { demoJob, shippedSheets } from './harness/shipped';
import { registersStore } from '../src/bench/registers/registers-store';
import { recordDifferences } from '../src/core/handover/differences';
import { BujoDatabase, type SetRow } from '../src/store/database';
import { shippedRecords } from '../src/store/record-row';
import { recordShelf } from '../src/store/record-shelf';
import { answerHandover } from '../src/workers/handover/answer';
import { FIRST, handoverStore } from '../src/features/handover/handover-store';
import { endReading, readable, readEverything } from '../src/features/handover/read-again';
import { readVisits } from '../src/features/handover/record-acts';

const database = new BujoDatabase('read again');

jest.mock('../src/bench/workers/ask-handover', () => ({
  askHandover: (question: Parameters<typeof answerHandover>[1]) =>
    answerHandover({ database, fonts: () => Promise.resolve({ text: '', mono: '' }) }, question),
}));

const REGISTERS = registersStore.getState();

/** The fan on its line, with what its factory left changed by hand since the last visit. */
async function atTheFan(factory: Record<string, number>) {
  const line = await benchOnLine(FAN, factory);
  const rows = new Map<string, SetRow>();
  Object.assign(line.bench, {
    records: recordShelf(database, () => shippedRecords(demoJob(), shippedSheets())),
    trials: { of: () => Promise.resolve([]) },
    sets: {
      of: () => Promise.resolve({ sets: [...rows.values()], writings: [], plans: [] }),
      set: (id: string) => Promise.resolve(rows.get(id)),
      keepSet: (row: SetRow) => Promise.resolve(void rows.set(row.id, row)),
    },
  });
  registersStore.setState(REGISTERS, true);
  handoverStore.setState(FIRST, true);
  await readVisits(line.bench);
  return line;
}

it('one press reads what can be reached, says what could not, and shows what is different since the last visit', async () => {
  const { bench, own } = await atTheFan({ '11.02': 77 });
  expect(readable(bench.state.getState()).map(({ station }) => station.name)).toEqual(['kiln fan']);
  await readEverything(bench);
  const { made, records, news } = handoverStore.getState();
  expect(news[0]).toBe('Read again: 1 of 1 drives.');
  expect(news[1]).toMatch(/^Not read, since their line is closed .*K2 vents/);
  const [left] = records;
  // It was 4 s when somebody left; the demo's last visit says so.
  const changed = recordDifferences(left!.record, made!.record).filter(
    ({ section, table, after, before }) =>
      section === 'Settings' &&
      /factory/.test(table) &&
      [...(after ?? []), ...(before ?? [])].some((cell) => cell.startsWith('11.02')),
  );
  expect(changed).toHaveLength(1);
  expect(changed[0]!.before!.join(' ')).toContain('40 = 4 s');
  expect(changed[0]!.after!.join(' ')).toContain('77 = 7.7 s');
  // Reading writes nothing.
  const places = own.protocol.placesOf(own.index);
  expect(own.entries.filter(({ direction, bytes }) => direction === 'sent' && places.writes(bytes))).toEqual([]);
});

it('it ends when it is paused, with what was read until then in the record', async () => {
  const { bench } = await atTheFan({});
  const reading = readEverything(bench);
  endReading();
  await reading;
  expect(handoverStore.getState()).toMatchObject({ isReading: false, isMaking: false });
  expect(handoverStore.getState().news).toEqual(
    expect.arrayContaining([expect.stringMatching(/3 · kiln fan: paused$/) as string]),
  );
});

it('a line that goes away in the middle ends it too, and is named', async () => {
  const { bench, control } = await atTheFan({});
  let asked = 0;
  control.before = () => {
    if (++asked === 3) bench.state.setState({ lines: new Map() });
  };
  await readEverything(bench);
  expect(asked).toBe(3);
  expect(handoverStore.getState().news[0]).toBe('Read again: 0 of 1 drives.');
  expect(handoverStore.getState().news[1]).toMatch(/^K1 kiln, 3 · kiln fan: \S/);
  expect(handoverStore.getState().isReading).toBe(false);
});
