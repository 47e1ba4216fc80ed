import type { Bench } from '../../bench/bench';
import { stationKey, type DriveRef } from '../../bench/state/bench-state';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import {
  afterGroup,
  beginReading,
  halved,
  holesOf,
  nextGroup,
  resumed,
  SILENCES_TO_PAUSE,
} from '../../core/sets/set-reading';
import type { SetRow } from '../../store/database';
import { ask, askingOf, type Asking } from './run-line';
import { putSet, registersStore, setRunning } from './registers-store';

/** The reading is kept after so many requests, and at its end: a reload loses less than these. */
const KEPT_EVERY = 8;

/** The row of the last reading of a drive. */
export const nowId = (job: string, key: string): string => `${job} ${key} now`;

/** Reads the values of a drive: all that its sheet names, or those with these numbers; the others stay as they were read before. */
export function readValues(bench: Bench, drive: DriveRef, index: SheetIndex, numbers?: ReadonlySet<string>): void {
  const job = bench.state.getState().job?.id ?? '';
  const key = stationKey(drive.line, drive.station);
  const before = registersStore.getState().sets.get(nowId(job, key));
  const isSame =
    before?.sheet.slug === index.sheet.slug && before.sheet.revision === index.sheet.revision ? before : undefined;
  const wanted = index.parameters.filter(({ number }) => numbers?.has(number) !== false);
  const reading = beginReading(index, wanted, holesOf(isSame?.reading.said ?? new Map()));
  const kept = numbers && isSame ? isSame.reading.said : new Map<string, never>();
  void run(bench, drive, index, {
    id: nowId(job, key),
    job,
    line: drive.line,
    station: drive.station,
    kind: 'now',
    name: 'the drive now',
    sheet: { slug: index.sheet.slug, revision: index.sheet.revision },
    startedMs: Date.now(),
    reading: { ...reading, said: new Map([...kept].filter(([number]) => !numbers?.has(number))) },
  });
}

/** Goes on with a reading that was paused, or that a lost line or a reload broke off. */
export function goOnReading(bench: Bench, drive: DriveRef, index: SheetIndex, row: SetRow): void {
  void run(bench, drive, index, { ...row, reading: resumed(row.reading) });
}

export const pause = (key: string): void => setRunning(key, null, 'paused');

/** The request of the group in front; a group that takes several requests is cut until one carries it. */
function nextRequest(
  row: SetRow,
  { index, places, drive }: Asking,
): { readonly row: SetRow; readonly bytes: Uint8Array | null } {
  for (let now = row; ; now = { ...now, reading: halved(now.reading) }) {
    const group = nextGroup(now.reading) ?? [];
    const wanted = group.flatMap((number) => index.byNumber.get(number) ?? []);
    const requests = places.read(drive.station, wanted);
    if (requests.length <= 1 || group.length <= 1) return { row: now, bytes: requests[0] ?? null };
  }
}

async function run(bench: Bench, drive: DriveRef, index: SheetIndex, begun: SetRow): Promise<void> {
  const key = stationKey(drive.line, drive.station);
  const asking = askingOf(bench, drive, index);
  if (!asking || registersStore.getState().running.has(key)) return;
  const id = begun.id;
  setRunning(key, { kind: 'read', id, sinceUs: bench.state.getState().nowUs, knownThen: begun.reading.said.size });
  const mine = registersStore.getState().running.get(key);
  const isMine = (): boolean => registersStore.getState().running.get(key) === mine;
  let row = begun;
  putSet(row);
  let why = '';
  while (nextGroup(row.reading) && isMine()) {
    const next = nextRequest(row, asking);
    const before = next.row;
    if (!next.bytes) {
      row = {
        ...before,
        reading: afterGroup(index, before.reading, { kind: 'refused', why: 'this line does not reach it', all: false }),
      };
      continue;
    }
    const heard = await ask(bench, asking, next.bytes, 'Registers');
    if (heard.kind === 'ended') {
      why = heard.why;
      break;
    }
    row = {
      ...before,
      reading: afterGroup(index, before.reading, heard.kind === 'told' ? { ...heard, atMs: Date.now() } : heard),
    };
    putSet(row);
    if (row.reading.silences >= SILENCES_TO_PAUSE) {
      why = 'paused, since it does not answer';
      break;
    }
    if (row.reading.requests % KEPT_EVERY === 0) await keep(bench, row);
  }
  await keep(bench, row);
  if (isMine()) setRunning(key, null, why);
}

/** What cannot be kept is still shown; the trace has every answer. */
const keep = (bench: Bench, row: SetRow): Promise<void> => bench.sets.keepSet(row).catch(() => undefined);
