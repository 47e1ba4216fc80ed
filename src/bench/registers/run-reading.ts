import type { Bench } from '../bench';
import { ask, type Asking } from '../procedures/ask-drive';
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
  withReadAgain,
  readingOf,
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

/** The request of the group in front; a group that takes several requests is cut until one carries it. */
function nextRequest(
  reading: SetReading,
  { index, places, drive }: Asking,
): { readonly reading: SetReading; readonly bytes: Uint8Array | null } {
  for (let now = reading; ; now = halved(now)) {
    const group = nextGroup(now) ?? [];
    const wanted = group.flatMap((number) => index.byNumber.get(number) ?? []);
    const requests = places.read(drive.station, wanted);
    if (requests.length <= 1 || group.length <= 1) return { reading: now, bytes: requests[0] ?? null };
  }
}

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
    while (why === '' && nextGroup(reading) && !isPaused()) {
      const next = nextRequest(reading, asking);
      const heard = next.bytes
        ? await ask(bench, asking, next.bytes, 'Registers')
        : ({ kind: 'refused', why: 'this line does not reach it', all: false } as const);
      if (heard.kind === 'ended') {
        why = heard.why;
        break;
      }
      reading = afterGroup(index, next.reading, heard.kind === 'told' ? { ...heard, atMs: Date.now() } : heard);
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
