/// <reference lib="webworker" />
import { messageOf } from '../core/message-of';
import { uuidV7 } from '../core/id';
import { BATCH_MS, BatchPace } from '../link/batch-pace';
import { BridgeClient } from '../link/bridge-client';
import type { BatchDrawn, LineBatch, LineCommand, LineNews, PageHere } from '../messages/line';
import type { BrowserSerialPort } from '../link/serial-port';
import { BujoDatabase } from '../store/database';
import { keepNonvolatile, readNonvolatile } from '../store/nonvolatile';
import { RunKeeper } from '../store/runs';
import { TraceWriter } from '../store/trace-writer';
import { LineHost } from './line-host';
import { LiveClock } from '../core/time/live-clock';
import { browserChannel, browserLocks, takeStreamPlace } from './tab-channel';

declare const self: DedicatedWorkerGlobalScope;

const database = new BujoDatabase();
const clock = new LiveClock(
  () => performance.now(),
  (action, ms) => self.setTimeout(action, ms),
  (handle) => self.clearTimeout(handle),
);
let keptUpTo = -1;
let keepTrouble = '';
let number = 0;
const pace = new BatchPace();
/** The page is asked this often whether it is alive. */
const PING_MS = 200;

/** Storage that is refused or full is no reason to stop working: the page says so, the lines go on. */
function troubled<T>(instead: T, error: unknown): T {
  keepTrouble = messageOf(error);
  return instead;
}

const writer = new TraceWriter(
  database,
  {
    kept: (sequence) => {
      keptUpTo = sequence;
      keepTrouble = '';
    },
    failed: (reason) => (keepTrouble = reason),
  },
  (action, ms) => self.setTimeout(action, ms),
);

/** Web Serial is not in the type library yet, and not in every browser. */
const { serial } = navigator as { readonly serial?: { getPorts(): Promise<readonly BrowserSerialPort[]> } };

let session = '';
const runs = new RunKeeper(
  database,
  (error) => troubled(undefined, error),
  (action, ms) => self.setTimeout(action, ms),
);

const host = new LineHost({
  clock,
  nowMs: () => performance.now(),
  keepRun: (line, procedure, run) => runs.keep({ id: run.id, session, line, procedure, run }),
  locks: browserLocks(),
  channel: browserChannel(),
  later: (action, ms) => self.setTimeout(action, ms),
  newId: () => uuidV7(Date.now(), crypto.getRandomValues(new Uint8Array(10))),
  keepTrace: (entries) => writer.add(entries),
  loadKept: (line) => readNonvolatile(database, line).catch((error: unknown) => troubled(new Map(), error)),
  saveKept: (line, station, values) =>
    void keepNonvolatile(database, line, station, values).catch((error: unknown) => troubled(undefined, error)),
  bridge: new BridgeClient((input, init) => fetch(input, init), '', takeStreamPlace),
  serialPorts: serial ? () => serial.getPorts() : null,
});

// Another tab opened a newer version of the program: this one lets go of the database so that it can be upgraded.
database.on('versionchange', () => {
  database.close();
  keepTrouble = 'a newer version of this program was opened in another tab; reload this one';
});

function post(): void {
  const nowMs = performance.now();
  if (!pace.isDue(nowMs)) return;
  const gathered = host.gather();
  const nothing =
    gathered.entries.length +
      gathered.exchanges.length +
      gathered.lines.length +
      gathered.stops.length +
      gathered.runs.length +
      (gathered.earlier?.length ?? 0) ===
    0;
  if (nothing && !pace.isQuietTooLong(nowMs)) return;
  pace.posted(nowMs, number, gathered.entries.length);
  runs.posted(
    number,
    gathered.runs.map(({ run }) => run),
  );
  const batch: LineBatch = {
    kind: 'batch',
    ...gathered,
    number: number++,
    nowUs: clock.now(),
    keptUpTo,
    keepTrouble,
    yardSpeed: clock.speed,
    turning: host.turning(),
    realTime: host.realTime(),
    ipSweep: host.ipSweep(),
  };
  self.postMessage(batch);
}

const AT_ONCE: ReadonlySet<LineCommand['kind']> = new Set<LineCommand['kind']>(['stop', 'hold', 'held', 'let-go']);

/** One command after the other, in the order of the presses; neither a Stop nor another line waits for an open that takes its time. */
let queue: Promise<void> = Promise.resolve();
self.addEventListener('message', ({ data }: MessageEvent<LineCommand | BatchDrawn | PageHere>) => {
  // Whatever the page says, it is alive.
  host.heardPage();
  if (data.kind === 'here') return;
  if (data.kind === 'drawn') {
    pace.drawn(performance.now(), data.number);
    runs.taken(data.number);
  }
  // These wait for nothing that takes its time.
  else if (AT_ONCE.has(data.kind)) void host.obey(data);
  else
    queue = queue
      .then(() => remember(data))
      .then(() => (data.kind === 'open' ? void host.obey(data) : host.obey(data)))
      .then(() => rememberLines(data))
      .catch((error: unknown) => troubled(undefined, error));
});

async function remember(command: LineCommand): Promise<void> {
  if (command.kind !== 'begin') return;
  session = command.session;
  await database.sessions
    .put({ id: command.session, startedAtMs: command.wallMs, job: command.job, lines: command.jobLines })
    .catch((error: unknown) => troubled(undefined, error));
}

/** Its entries are read by the lines of their time, also where they are looked at later. */
async function rememberLines(command: LineCommand): Promise<void> {
  if (command.kind !== 'job-lines') return;
  await database.sessions
    .update(session, { lines: command.lines, earlier: host.earlier() })
    .catch((error: unknown) => troubled(undefined, error));
}

self.setInterval(() => {
  host.watchPage();
  post();
}, BATCH_MS);
self.setInterval(() => self.postMessage({ kind: 'ping' } satisfies LineNews), PING_MS);
