import type { Bench } from '../../bench/bench';
import { askHandover } from '../../bench/workers/ask-handover';
import { fileName, saveFile } from '../../bench/workers/ask-file-worker';
import type { Visit } from '../../core/handover/visit';
import { messageOf } from '../../core/message-of';
import type { ArchivePart, HandoverAnswer, RecordSources } from '../../messages/handover';
import type { RecordRow } from '../../store/database';
import { FIRST, handoverStore, type DigestedRecord } from './handover-store';

/** The newest entries are kept within a moment; a record waits so long for that, no longer. */
const KEPT_WITHIN_MS = 2_000;
const LOOK_EVERY_MS = 50;

const say = (...news: readonly string[]): void => handoverStore.setState({ news });

/** Waits until what the page saw is kept, since the record is made of what is kept. */
async function untilKept(bench: Bench): Promise<void> {
  const { entries, session } = bench.state.getState();
  const last = entries.findLast((entry) => entry.session === session)?.sequence ?? -1;
  for (let ms = 0; ms < KEPT_WITHIN_MS && bench.state.getState().keptUpTo < last; ms += LOOK_EVERY_MS)
    await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS));
}

async function sourcesOf(bench: Bench): Promise<RecordSources | null> {
  const { job, sheets } = bench.state.getState();
  if (!job) return null;
  await untilKept(bench);
  const [{ sets, writings }, runs, photos] = await Promise.all([
    bench.sets.of(job.id),
    bench.trials.of(job.id),
    bench.photos.of(job.id),
  ]);
  return {
    job,
    sheets: [...new Set([...sheets.values()].map(({ sheet }) => sheet))],
    sets,
    writings,
    runs,
    photos,
    visit: handoverStore.getState().visit,
    madeMs: Date.now(),
    zoneMinutes: new Date().getTimezoneOffset(),
  };
}

/** Reads what is kept of the open job's visits. */
export async function readVisits(bench: Bench): Promise<void> {
  const job = bench.state.getState().job?.id ?? '';
  if (job === '' || handoverStore.getState().job === job) return;
  handoverStore.setState({ ...FIRST, job });
  try {
    const { visit, records } = await bench.records.of(job);
    if (handoverStore.getState().job === job) handoverStore.setState({ visit, records, isRead: true });
  } catch (error) {
    // A browser that keeps nothing still makes a record.
    handoverStore.setState({ isRead: true });
    say(`what is kept of this job’s visits was not read: ${messageOf(error)}`);
  }
}

/** Counts the makings: of two that overlap the later one is shown, whichever ends last. */
let making = 0;

/** Makes the record of the open job as it is now; null, and said, where it cannot be made. */
export async function makeNow(bench: Bench): Promise<DigestedRecord | null> {
  const mine = ++making;
  handoverStore.setState({ isMaking: true });
  try {
    const sources = await sourcesOf(bench);
    const answer = sources && (await askHandover({ kind: 'record', sources }));
    if (answer?.kind === 'failed') say(`the record was not made: ${answer.why}`);
    if (answer?.kind !== 'record') return null;
    const made = { record: answer.record, digest: answer.digest };
    if (mine === making) handoverStore.setState({ made });
    if (answer.notes.length > 0) say(...answer.notes);
    return made;
  } catch (error) {
    say(`the record was not made: ${messageOf(error)}`);
    return null;
  } finally {
    if (mine === making) handoverStore.setState({ isMaking: false });
  }
}

/** Changes of this tab that are on their way into the database: until they are there, what is shown is what was typed. */
let unwritten = 0;

/** Changes what a person puts to the record, and keeps it; what another tab put to it meanwhile is shown then. */
export function changeVisit(bench: Bench, change: (visit: Visit) => Visit): void {
  const { job } = handoverStore.getState();
  handoverStore.setState(({ visit }) => ({ visit: change(visit) }));
  unwritten++;
  bench.records
    .changeVisit(job, change)
    .then(
      (stored) => {
        if (unwritten > 1 || handoverStore.getState().job !== job) return;
        if (JSON.stringify(stored) !== JSON.stringify(handoverStore.getState().visit))
          handoverStore.setState({ visit: stored });
      },
      (error: unknown) => say(`what you put to the record is not kept: ${messageOf(error)}`),
    )
    .finally(() => unwritten--);
}

const nameOf = ({ record: { plant, made }, digest }: DigestedRecord): string =>
  `${plant} ${made.slice(0, 10)} ${digest.slice(0, 12)}`;

const fileOf = async (what: string, asked: Promise<HandoverAnswer>): Promise<Blob | null> => {
  const answer = await asked;
  if (answer.kind === 'file') return answer.blob;
  say(`${what} was not made: ${answer.kind === 'failed' ? answer.why : ''}`);
  return null;
};

/** The record as one page that needs no program. */
export async function savePage(shown: DigestedRecord): Promise<void> {
  const { paper } = handoverStore.getState();
  const blob = await fileOf('the page', askHandover({ kind: 'page', record: shown.record, paper }));
  if (blob) saveFile(blob, fileName(nameOf(shown), 'html'));
}

/**
 * Everything as open files in an archive, or what the controller's programmer needs of it. The record is made anew for it, so that it and the files beside it
 * are of one moment; a closed record goes by itself, since files of now would not belong to it.
 */
export async function saveArchive(bench: Bench, closed: DigestedRecord | null, part: ArchivePart): Promise<void> {
  const { paper } = handoverStore.getState();
  const own = closed ?? (await makeNow(bench));
  const sources = closed ? null : await sourcesOf(bench);
  if (!own || (!closed && !sources)) return;
  const blob = await fileOf('the archive', askHandover({ kind: 'archive', record: own.record, sources, paper, part }));
  if (!blob) return;
  saveFile(blob, fileName(`${nameOf(own)}${part === 'controller' ? ' controller' : ''}`, 'zip'));
  if (closed) say('The archive holds the record as page and JSON; files of now would not belong to a closed record.');
}

/** The frame of the last print: a browser need not say when it is over. */
const PRINTED = 'record-to-print';

/** Prints the record by the browser, which also makes a PDF of it: the same page as the file, in a frame that nobody sees. */
export async function printRecord(shown: DigestedRecord): Promise<void> {
  const { paper } = handoverStore.getState();
  const blob = await fileOf('the page', askHandover({ kind: 'page', record: shown.record, paper }));
  if (!blob) return;
  document.getElementById(PRINTED)?.remove();
  const frame = document.createElement('iframe');
  frame.id = PRINTED;
  frame.title = 'the record, as it is printed';
  frame.style.cssText = 'position: fixed; width: 0; height: 0; border: 0; visibility: hidden';
  frame.srcdoc = await blob.text();
  frame.addEventListener('load', () => {
    frame.contentWindow?.addEventListener('afterprint', () => frame.remove());
    frame.contentWindow?.print();
  });
  document.body.append(frame);
}

/** Closes the record as it is: it is kept under its digest and not changed any more. */
export async function closeRecord(bench: Bench): Promise<void> {
  const { job } = handoverStore.getState();
  const made = await makeNow(bench);
  if (!made) return;
  await keepRecord(bench, { ...made, job, keptMs: Date.now() });
  handoverStore.setState({ shown: made.digest });
  say(`Closed under ${made.digest.slice(0, 12)}; what changes from now on makes another record.`);
}

async function keepRecord(bench: Bench, row: RecordRow): Promise<void> {
  await bench.records.keep(row);
  handoverStore.setState(({ records }) => ({
    records: records.some(({ digest }) => digest === row.digest) ? records : [...records, row],
  }));
}

/** A record out of a file, laid to those of the open job; what is not whole of it is said. */
export async function openRecord(bench: Bench, file: File): Promise<void> {
  const answer = await askHandover({ kind: 'open', file });
  if (answer.kind !== 'record') return say(`${file.name}: ${answer.kind === 'failed' ? answer.why : 'no record'}`);
  const { record, digest, notes } = answer;
  const { job } = handoverStore.getState();
  await keepRecord(bench, { record, digest, job, keptMs: Date.now() });
  handoverStore.setState({ shown: digest });
  say(
    `${file.name}: the record of ${record.plant}, ${record.made.slice(0, 10)}, ${digest.slice(0, 12)}.`,
    ...(record.job.id === job ? [] : [`It is of another job, ${record.job.name}.`]),
    ...notes,
  );
}

export async function dropRecord(bench: Bench, { digest }: RecordRow): Promise<void> {
  await bench.records.drop(digest);
  handoverStore.setState(({ records, shown, beside }) => ({
    records: records.filter((row) => row.digest !== digest),
    shown: shown === digest ? '' : shown,
    beside: beside === digest ? '' : beside,
  }));
}
