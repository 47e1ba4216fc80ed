import type { Bench } from '../bench';
import { ask, type Asking, type Heard } from '../procedures/ask-drive';
import { stationKey, type DriveRef } from '../state/bench-state';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import {
  afterGroup,
  beginReading,
  halved,
  holesOf,
  nextGroup,
  resumed,
  SILENCES_TO_PAUSE,
  withInFront,
  withReadAgain,
  readingOf,
  type Group,
  type SetReading,
} from '../../core/sets/set-reading';
import type { SetRow } from '../../store/database';
import { putSet, registersStore } from './registers-store';
import { runAt, type Work } from './run-at';

/** The reading is kept after so many requests, and at its end: a reload loses less than these. */
const KEPT_EVERY = 8;

/** The row of the last reading of a drive. */
export const nowId = (job: string, key: string): string => `${job} ${key} now`;

/** Reads all values that the drive's sheet names. */
export function readAll(bench: Bench, drive: DriveRef, index: SheetIndex): Promise<string> {
  const before = nowOf(bench, drive, index);
  const reading = beginReading(index, index.parameters, holesOf(before?.reading.said ?? new Map()));
  return run(bench, drive, index, freshRow(bench, drive, index), reading, (row, own) => ({ ...row, reading: own }));
}

/** Reads the values with these numbers; the others, and what a reading that was broken off still waits for, stay as they are. */
export function readSome(
  bench: Bench,
  drive: DriveRef,
  index: SheetIndex,
  numbers: ReadonlySet<string>,
): Promise<string> {
  const before = nowOf(bench, drive, index);
  const wanted = index.parameters.filter(({ number }) => numbers.has(number));
  const reading = beginReading(index, wanted, holesOf(before?.reading.said ?? new Map()));
  const row = before ?? freshRow(bench, drive, index);
  return run(bench, drive, index, row, reading, (own, part) => ({
    ...own,
    reading: withReadAgain(own.reading, part),
  }));
}

/** Goes on with a reading that was paused, or that a lost line or a reload broke off; as it was kept last, by whichever tab. */
export const goOnReading = (bench: Bench, drive: DriveRef, index: SheetIndex, row: SetRow): Promise<string> =>
  run(bench, drive, index, row, null, (own, reading) => ({ ...own, reading }));

/** The last reading, where it was made with this sheet. */
function nowOf(bench: Bench, { line, station }: DriveRef, { sheet }: SheetIndex): SetRow | undefined {
  const job = bench.state.getState().job?.id ?? '';
  const row = registersStore.getState().sets.get(nowId(job, stationKey(line, station)));
  return row?.sheet.slug === sheet.slug && row.sheet.revision === sheet.revision ? row : undefined;
}

function freshRow(bench: Bench, { line, station }: DriveRef, { sheet: { slug, revision } }: SheetIndex): SetRow {
  const job = bench.state.getState().job?.id ?? '';
  return {
    id: nowId(job, stationKey(line, station)),
    job,
    line,
    station,
    kind: 'now',
    name: 'the drive now',
    sheet: { slug, revision },
    startedMs: Date.now(),
    reading: readingOf(new Map()),
  };
}

/** A group that was asked for, and what will be heard of it. */
interface Asked {
  readonly group: Group;
  readonly heard: Promise<Heard>;
}

/** Asks for the next group beside the one that is asked for already; a group that takes several requests is cut until one carries it. */
function askNext(
  bench: Bench,
  asking: Asking,
  reading: SetReading,
  before: Asked | null,
): { readonly reading: SetReading; readonly asked: Asked | null } {
  const { index, places, drive } = asking;
  const next = nextGroup(reading, before?.group);
  if (!next) return { reading, asked: null };
  for (let now = withInFront(reading, next); ; now = halved(now)) {
    const group = nextGroup(now) ?? [];
    const wanted = group.flatMap((number) => index.byNumber.get(number) ?? []);
    const [bytes, ...more] = places.read(drive.station, wanted);
    if (more.length > 0 && group.length > 1) continue;
    const heard = bytes ? ask(bench, asking, bytes, 'Registers', { yields: true }) : Promise.resolve(OUT_OF_REACH);
    return { reading: now, asked: { group, heard } };
  }
}

const OUT_OF_REACH: Heard = { kind: 'refused', why: 'this line does not reach it', all: false };

/** Runs a reading; null: goes on with the one of the row as it is kept. `rowWith` says what the row becomes as the reading goes on. */
function run(
  bench: Bench,
  drive: DriveRef,
  index: SheetIndex,
  begun: SetRow,
  given: SetReading | null,
  rowWith: (row: SetRow, reading: SetReading) => SetRow,
): Promise<string> {
  const work: Work = async (asking, isPaused) => {
    const base = given ? begun : ((await bench.sets.set(begun.id)) ?? begun);
    let reading = given ?? resumed(base.reading);
    let row = rowWith(base, reading);
    const show = (): void => putSet((row = rowWith(base, reading)));
    show();
    let why = '';
    const waiting: Asked[] = [];
    for (;;) {
      // One more request lies ready while one is under way, so that the line never waits for this page; not at a drive that is silent.
      const most = asking.isShared || reading.silences > 0 ? 1 : 2;
      while (why === '' && !isPaused() && waiting.length < most) {
        const next = askNext(bench, asking, reading, waiting[0] ?? null);
        reading = next.reading;
        if (!next.asked) break;
        waiting.push(next.asked);
      }
      const asked = waiting.shift();
      if (!asked) break;
      const heard = await asked.heard;
      if (heard.kind === 'ended') {
        why = heard.why;
        continue;
      }
      const told = heard.kind === 'told' ? { ...heard, atMs: Date.now() } : heard;
      reading = afterGroup(index, withInFront(reading, asked.group), told);
      show();
      if (reading.silences >= SILENCES_TO_PAUSE) why = 'paused, since it does not answer';
      else if (reading.requests % KEPT_EVERY === 0) await bench.sets.keepSet(row);
    }
    await bench.sets.keepSet(row);
    return why;
  };
  return runAt(
    bench,
    drive,
    index,
    { kind: 'read', id: begun.id, knownThen: given ? 0 : begun.reading.said.size },
    work,
  );
}
