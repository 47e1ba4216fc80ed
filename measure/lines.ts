import { createServer, type Server, type Socket } from 'node:net';
import type { Browser, Page } from '@playwright/test';
import alderFord from '../demo/alder-ford.json';
import { DATABASE_NAME } from '../src/store/database';
import { claim, note } from './measure';

const LINES = 32;
const SOCKETS = 8;
const WATCH_MS = 15_000;
/** Goals: how far a cycle may be off, and when the last line has its stop word. */
const CYCLE_WITHIN = 0.03;
const STOP_MS = 300;

const idOf = (i: number): string => `many-${i}`;
const SOCKET_LINES: ReadonlySet<string> = new Set(Array.from({ length: SOCKETS }, (_, i) => idOf(i)));
const nameOf = (i: number): string => `N${i + 1} line`;

/** The word that lets the fan turn. */
const RUN_WORD = 0x000d;

/** A drive over Modbus TCP that holds nothing but zeros, takes every write, and answers at once; `written` hears each word as it comes. */
function silentDrive(written: (word: number) => void): Promise<Server> {
  const serve = (socket: Socket): void => {
    let heard = Buffer.alloc(0);
    socket.on('error', () => undefined);
    socket.on('data', (bytes) => {
      heard = Buffer.concat([heard, bytes]);
      for (let size = 0; heard.length >= 8 && heard.length >= (size = 6 + heard.readUInt16BE(4));) {
        const request = heard.subarray(0, size);
        heard = heard.subarray(size);
        const [unit = 0, fc = 0] = request.subarray(6);
        if (fc === 6) written(request.readUInt16BE(10));
        const body =
          fc === 3
            ? [2 * request.readUInt16BE(10), ...new Array<number>(2 * request.readUInt16BE(10)).fill(0)]
            : [...request.subarray(8, 12)];
        socket.write(Buffer.from([...request.subarray(0, 4), 0, body.length + 2, unit, fc, ...body]));
      }
    });
  };
  const server = createServer(serve);
  return new Promise((resolve) => server.listen(0, '127.0.0.1', () => resolve(server)));
}

const portOf = (server: Server): number => {
  const address = server.address();
  return typeof address === 'object' && address ? address.port : 0;
};

/** A job of many lines, each with one fan; some of them over sockets. */
function jobOf(ports: readonly number[]) {
  const [kiln] = alderFord.lines;
  return {
    format: 1,
    id: alderFord.id,
    name: alderFord.name,
    lines: Array.from({ length: LINES }, (_, i) => {
      const port = ports[i];
      const over =
        port === undefined ? { serial: kiln?.serial, far: 'yard' } : { far: 'tcp', tcp: { host: '127.0.0.1', port } };
      return {
        id: idOf(i),
        name: nameOf(i),
        medium: port === undefined ? 'RS-485' : 'Ethernet',
        protocol: port === undefined ? 'modbus-rtu' : 'modbus-tcp',
        ...over,
        stations: [
          {
            ...kiln?.stations[0],
            id: `many-fan-${i}`,
            name: `fan ${i + 1}`,
          },
        ],
      };
    }),
  };
}

const put = (page: Page, job: ReturnType<typeof jobOf>): Promise<void> =>
  page.evaluate(
    async ([name, row]) => {
      const open = indexedDB.open(name);
      const database = await new Promise<IDBDatabase>((resolve) => (open.onsuccess = () => resolve(open.result)));
      const write = database.transaction('jobs', 'readwrite');
      write.objectStore('jobs').put(row);
      await new Promise((resolve) => (write.oncomplete = resolve));
      database.close();
    },
    [DATABASE_NAME, job] as const,
  );

interface Sent {
  readonly line: string;
  readonly cause: string;
  readonly isSent: boolean;
  readonly atUs: number;
  /** The request without the number that a transaction has. */
  readonly bytes: string;
}

/** All entries of the trace as the page keeps them, in their order. */
const entriesOf = (page: Page): Promise<readonly Sent[]> =>
  page.evaluate(async (name) => {
    const open = indexedDB.open(name);
    const database = await new Promise<IDBDatabase>((resolve) => (open.onsuccess = () => resolve(open.result)));
    const all = database.transaction('traceBlocks').objectStore('traceBlocks').getAll();
    await new Promise((resolve) => (all.onsuccess = resolve));
    database.close();
    const blocks = all.result as {
      first: number;
      count: number;
      atUs: Float64Array;
      direction: Uint8Array;
      line: Uint16Array;
      cause: Uint16Array;
      texts: string[];
      ends: Uint32Array;
      bytes: Uint8Array;
    }[];
    return blocks
      .sort((a, b) => a.first - b.first)
      .flatMap(({ count, atUs, direction, line, cause, texts, ends, bytes }) =>
        Array.from({ length: count }, (_, i) => ({
          line: texts[line[i] ?? 0] ?? '',
          cause: texts[cause[i] ?? 0] ?? '',
          isSent: direction[i] === 0,
          atUs: atUs[i] ?? NaN,
          bytes: bytes.subarray((ends[i - 1] ?? 0) + 2, ends[i]).join(' '),
        })),
      );
  }, DATABASE_NAME);

/** When the newest kept entry was. Nothing else is read: all of it takes the page's thread for so long that the worker would stop what turns. */
const newestUs = (page: Page): Promise<number> =>
  page.evaluate(async (name) => {
    const open = indexedDB.open(name);
    const database = await new Promise<IDBDatabase>((resolve) => (open.onsuccess = () => resolve(open.result)));
    const last = database.transaction('traceBlocks').objectStore('traceBlocks').openCursor(null, 'prev');
    await new Promise((resolve) => (last.onsuccess = resolve));
    database.close();
    return (last.result?.value as { readonly atUs: Float64Array } | undefined)?.atUs.at(-1) ?? NaN;
  }, DATABASE_NAME);

const atShare = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? NaN;

/** How far each cycle of each watched request lies from the usual one of its request, as a share of it. */
function cycleErrors(entries: readonly Sent[]): readonly number[] {
  const last = new Map<string, number>();
  const cycles = new Map<string, number[]>();
  for (const { line, cause, isSent, atUs, bytes } of entries) {
    if (!isSent || cause !== 'poll') continue;
    const key = `${line} ${bytes}`;
    const before = last.get(key);
    if (before !== undefined) cycles.set(key, [...(cycles.get(key) ?? []), atUs - before]);
    last.set(key, atUs);
  }
  return [...cycles.values()]
    .flatMap((own) => {
      const middle = atShare(
        [...own].sort((a, b) => a - b),
        0.5,
      );
      return own.slice(1).map((us) => Math.abs(us - middle) / middle);
    })
    .sort((a, b) => a - b);
}

/** 32 lines open and watched at once, eight of them over sockets, each with a run word that is kept alive: how evenly each is asked, and Stop of all. */
export async function linesBench(browser: Browser, origin: string): Promise<void> {
  /** When the first word that lets no shaft turn came to a drive after Stop was pressed. */
  const stoppedMs = new Map<number, number>();
  let pressedMs = Infinity;
  const heard = (i: number, word: number): void => {
    const nowMs = performance.now();
    if (nowMs > pressedMs && word !== RUN_WORD && !stoppedMs.has(i)) stoppedMs.set(i, nowMs);
  };
  const drives = await Promise.all(Array.from({ length: SOCKETS }, (_, i) => silentDrive((word) => heard(i, word))));
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(origin);
  await page.getByRole('heading', { name: alderFord.name }).waitFor();
  await put(page, jobOf(drives.map(portOf)));
  await page.reload();
  for (let i = 0; i < LINES; i++) {
    await page.getByLabel('find a line by its name').fill(nameOf(i));
    const row = page.getByRole('group', { name: `Line ${nameOf(i)}`, exact: true });
    await row.getByRole('button', { name: `Open ${nameOf(i)}` }).click();
    await row.getByRole('button', { name: `Close ${nameOf(i)}` }).waitFor();
    await row.getByRole('button', { name: new RegExp(`^3 · fan ${i + 1}\\b`) }).click();
    await page.getByRole('link', { name: /Words/ }).click();
    await page.getByRole('button', { name: 'Watch', exact: true }).click();
    await page.getByRole('button', { name: 'run forward', exact: true }).click();
    await page.getByRole('button', { name: /^Send 0x000D to/ }).click();
    await page.getByRole('link', { name: /Job/ }).click();
  }
  const openedUs = await newestUs(page);
  await page.waitForTimeout(WATCH_MS);
  const watchedUs = await newestUs(page);
  pressedMs = performance.now();
  await page.keyboard.press('Control+.');
  // What is in the page is kept within the second.
  await page.waitForTimeout(4_000);
  const all = await entriesOf(page);
  const entries = all.filter(({ atUs }) => atUs > openedUs && atUs <= watchedUs);
  for (const [what, isOne] of [
    [`${SOCKETS} over sockets`, (line: string): boolean => SOCKET_LINES.has(line)],
    [`${LINES - SOCKETS} of stand-ins in the page`, (line: string): boolean => !SOCKET_LINES.has(line)],
  ] as const) {
    const errors = cycleErrors(entries.filter(({ line }) => isOne(line)));
    const share = (of: number): string => `${(100 * atShare(errors, of)).toFixed(1)} %`;
    note(
      `lines: ${LINES} watched at once, ${what}: half of ${errors.length} cycles within ${share(0.5)} of the usual one, 95 of 100 within ${share(0.95)}, 99 within ${share(0.99)}, the worst off by ${share(1)}`,
    );
    const good = errors.filter((error) => error <= CYCLE_WITHIN).length;
    claim(`share of the cycles of ${what} within 3 % of the usual one`, good / errors.length, { atLeast: 0.95 });
  }
  const stops = new Map<string, number>();
  for (const { line, cause, isSent, atUs } of all)
    // A page that is busy for a second is a reason to stop too: what was stopped by that before is not meant.
    if (isSent && cause === 'Stop' && atUs > watchedUs && !stops.has(line)) stops.set(line, atUs);
  const lastMs = Math.max(...stoppedMs.values()) - pressedMs;
  const spreadMs = (Math.max(...stops.values()) - Math.min(...stops.values())) / 1000;
  note(
    `lines: Stop of all: ${stops.size} lines got their first stop word within ${spreadMs.toFixed(0)} ms of each other, the last of ${stoppedMs.size} sockets had it ${lastMs.toFixed(0)} ms after the key`,
  );
  claim('the last first stop word of 32 lines after the key, against 300 ms', Math.max(lastMs, spreadMs) / STOP_MS, {
    atMost: 1,
  });
  await context.close();
  for (const server of drives) server.close();
}
