/// <reference lib="webworker" />
import { messageOf } from '../core/message-of';
import { isPacketFile } from '../core/capture/pcap-read';
import { Selection } from '../core/capture/selection';
import { rankUnknown } from '../core/unknown/rank';
import type { FramesAnswer, FramesQuestion } from '../messages/frames';
import { breathe } from '../store/breathe';
import { OpenCapture, sampleOf } from './open-capture';

declare const self: DedicatedWorkerGlobalScope;

const SAMPLE = 1 << 14;
/** Progress is told this often at most. */
const TELL_EVERY_MS = 100;

const tell = (answer: FramesAnswer): void => self.postMessage(answer);

let opened: OpenCapture | null = null;
let places = new Selection(0);
/** Each opening and each filter has its number; an older one stops when it sees a newer. */
let opening = 0;
let filtering = 0;
let watching = 0;
/** Lets an opening go on that is held between two pieces; null where none is. */
let hold: { readonly over: Promise<void>; readonly end: () => void } | null = null;

function setHeld(held: boolean): void {
  hold?.end();
  hold = null;
  if (!held) return;
  let end = (): void => undefined;
  hold = { over: new Promise((resolve) => (end = resolve)), end: () => end() };
}

/** Ends whatever is going on with the present capture, one that is held too. */
function close(): void {
  opening++;
  filtering++;
  watching++;
  opened = null;
  setHeld(false);
}

async function open({ file, plan }: Extract<FramesQuestion, { kind: 'open' }>): Promise<void> {
  close();
  const own = opening;
  const beganMs = performance.now();
  let toldMs = 0;
  let heldMs = 0;
  const capture = await OpenCapture.open(file, plan, async (read) => {
    if (performance.now() - toldMs > TELL_EVERY_MS) {
      toldMs = performance.now();
      tell({ kind: 'progress', read, size: file.size });
    }
    if (hold) {
      const sinceMs = performance.now();
      await hold.over;
      heldMs += performance.now() - sinceMs;
    }
    return own === opening;
  });
  if (!capture || own !== opening) return;
  opened = capture;
  const { statistics, index, notes } = capture.capture;
  tell({ kind: 'opened', statistics, frames: index.count, notes, ms: performance.now() - beganMs - heldMs });
}

async function filter(question: Extract<FramesQuestion, { kind: 'filter' }>): Promise<void> {
  const own = ++filtering;
  if (!opened) return;
  // No row of an earlier filter is one of this.
  places = new Selection(0);
  let toldMs = 0;
  let turn = Promise.resolve();
  await opened.filter(question.filter, question.text, (found, looked, over) => {
    if (own !== filtering) return false;
    places = found;
    // The first find shows at once, then as often as progress is told.
    if (over || performance.now() - toldMs > TELL_EVERY_MS) {
      toldMs = performance.now();
      tell({ kind: 'filtered', number: question.number, count: found.count, looked, over });
      turn = breathe();
    }
    return true;
  });
  await turn;
}

/** What goes round; another capture that is opened ends it, and other questions are heard in between. */
async function rounds({ ask }: Extract<FramesQuestion, { kind: 'rounds' }>): Promise<void> {
  const own = opening;
  const found =
    opened &&
    (await opened.rounds(async () => {
      await breathe();
      return own === opening;
    }));
  if (found) tell({ kind: 'rounds', ask, rounds: found });
}

async function watch({ ask, round, way, layout }: Extract<FramesQuestion, { kind: 'watch' }>): Promise<void> {
  const own = ++watching;
  const told = await opened?.watch(round, way, layout, () => own === watching);
  if (told) tell({ kind: 'watched', ask, ...told });
}

async function rows({ ask, from, count: wanted }: Extract<FramesQuestion, { kind: 'rows' }>): Promise<void> {
  if (!opened) return;
  const found = await opened.rows(places.slice(from, wanted));
  tell({ kind: 'rows', ask, from, rows: found });
}

async function answer(question: FramesQuestion): Promise<void> {
  switch (question.kind) {
    case 'open':
      return open(question);
    case 'close':
      return close();
    case 'hold':
      return setHeld(question.held);
    case 'sample': {
      const head = new Uint8Array(await question.file.slice(0, SAMPLE).arrayBuffer());
      return tell({ kind: 'sample', ask: question.ask, ...sampleOf(head), packets: isPacketFile(head) });
    }
    case 'filter':
      return filter(question);
    case 'rows':
      return rows(question);
    case 'rounds':
      return rounds(question);
    case 'watch':
      return watch(question);
    case 'export': {
      if (!opened) return;
      const frames = places.count;
      const blob = await opened.export(places, question.form);
      return tell({ kind: 'file', blob, ending: question.form, frames });
    }
    case 'rank':
      return tell({ kind: 'ranked', ask: question.ask, guesses: rankUnknown(question.bytes, question.dialects) });
  }
}

self.addEventListener('message', ({ data }: MessageEvent<FramesQuestion>) => {
  answer(data).catch((error: unknown) => tell({ kind: 'trouble', text: messageOf(error) }));
});
