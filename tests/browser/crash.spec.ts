import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium, expect, type BrowserContext, type Page } from '@playwright/test';
import { once } from 'node:events';
import { connect } from 'node:net';
import { seededRandom } from '../../src/core/random/random';
import type { WriteResult } from '../../src/core/sets/set-writing';
import { sealRtu } from '../../src/core/modbus/rtu';
import { indexSheet } from '../../src/core/sheet/index-sheet';
import { loadSheet } from '../../src/core/sheet/load-sheet';
import { longTail } from '../../src/core/shipped/long-tail';
import { test } from './told-again';

/** How often the browser is killed; more often by `BUJO_KILLS=50 npx playwright test crash`. */
const KILLS = Number(process.env.BUJO_KILLS ?? 20);
const KILLS_IN_WRITING = Number(process.env.BUJO_KILLS ?? 5);

type Launch = NonNullable<Parameters<typeof chromium.launchPersistentContext>[1]>;

const launched = (profile: string, options: Launch): Promise<BrowserContext> =>
  chromium.launchPersistentContext(profile, { ...options, viewport: { width: 1280, height: 800 } });

/** As the power of a laptop goes: nothing of the browser comes to its end. */
async function killed(context: BrowserContext, profile: string): Promise<void> {
  const gone = new Promise((resolve) => context.on('close', resolve));
  execFileSync('pkill', ['-9', '-f', profile]);
  await gone;
}

/** What the database holds of a session: entries from 0 on without a gap. */
const storedOf = (page: Page, session: string): Promise<number> =>
  page.evaluate(
    (id) =>
      new Promise<number>((resolve, reject) => {
        const opened = indexedDB.open('bujo');
        opened.onerror = () => reject(new Error('no database'));
        opened.onsuccess = () => {
          const blocks = opened.result
            .transaction('traceBlocks')
            .objectStore('traceBlocks')
            .getAll(IDBKeyRange.bound([id, 0], [id, Infinity]));
          blocks.onsuccess = () => {
            const rows = blocks.result as { first: number; count: number }[];
            opened.result.close();
            resolve(
              rows
                .sort((a, b) => a.first - b.first)
                .reduce((next, { first, count }) => (first === next ? next + count : next), 0),
            );
          };
        };
      }),
    session,
  );

async function watching(context: BrowserContext, baseURL: string): Promise<Page> {
  const page = context.pages()[0] ?? (await context.newPage());
  await page.goto(baseURL);
  await page.getByRole('button', { name: 'Open K1 kiln' }).click();
  await page.getByRole('link', { name: /Words/ }).click();
  await page.getByRole('button', { name: 'Watch' }).click();
  return page;
}

test(`the browser is killed in the middle of polling, ${KILLS} times: nothing told as kept is lost`, async ({
  baseURL,
  launchOptions,
}) => {
  test.setTimeout(360_000);
  const profile = mkdtempSync(path.join(tmpdir(), 'bujo-profile-'));
  let before: { readonly session: string; readonly kept: number } | null = null;
  for (let kill = 0; kill <= KILLS; kill++) {
    const context = await launched(profile, launchOptions);
    const page = await watching(context, baseURL ?? '');
    if (before) expect([kill, (await storedOf(page, before.session)) >= before.kept]).toEqual([kill, true]);
    if (kill === KILLS) {
      await context.close();
      break;
    }
    const told = page.getByTestId('trace-kept');
    await expect(told).toHaveAttribute('data-kept', /^\S+ \d{2,}$/);
    const [session = '', kept = ''] = ((await told.getAttribute('data-kept')) ?? '').split(' ');
    before = { session, kept: parseInt(kept, 10) + 1 };
    await killed(context, profile);
  }
  rmSync(profile, { recursive: true, force: true });
});

/** The fan's sheet as it ships: its file with the long tail of its dictionary. */
function fanSheet() {
  const file = JSON.parse(readFileSync('sheets/tern.json', 'utf8')) as { readonly parameters: readonly unknown[] };
  const loaded = loadSheet({
    ...file,
    parameters: [...file.parameters, ...longTail({ kind: 'groups', first: 20 })],
  });
  if (!loaded.ok) throw new Error(JSON.stringify(loaded.error));
  return indexSheet(loaded.value);
}

/** Settings of the fan that may be written at any time and are kept as they are: forty of them, two values each that its limits allow. */
const SETTINGS = fanSheet()
  .parameters.filter(
    ({ type, write, role, choices, lockedBy, resets, secret, min, max, effect, step }) =>
      type === 'uint16' &&
      write === 'always' &&
      !role &&
      !choices &&
      !lockedBy &&
      !resets &&
      !secret &&
      effect !== 'restart' &&
      step === undefined &&
      max - min > 4,
  )
  .slice(0, 40)
  .flatMap(({ number, place, min, max }) =>
    place.kind === 'register' ? [{ number, address: place.address, values: [min + 1, max - 1] as const }] : [],
  );

/** What the fan itself holds; the device server takes one caller at a time, and that of a dead browser is gone soon. */
async function heldByFan(port: number): Promise<ReadonlyMap<string, number>> {
  for (let tries = 0; ; tries++)
    try {
      return await askFan(port);
    } catch (error) {
      if (tries === 20) throw error;
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
}

/** Asked past the bench: the fan lives in the server and outlives every browser. */
async function askFan(port: number): Promise<ReadonlyMap<string, number>> {
  const socket = connect(port, '127.0.0.1');
  socket.setTimeout(2_000, () => socket.destroy());
  const gone = once(socket, 'close').then(() => Promise.reject(new Error('the fan does not answer')));
  gone.catch(() => undefined);
  socket.on('error', () => undefined);
  const held = new Map<string, number>();
  for (const { number, address } of SETTINGS) {
    socket.write(sealRtu(Uint8Array.of(3, 3, address >> 8, address & 0xff, 0, 1, 0, 0)));
    let reply = Buffer.alloc(0);
    while (reply.length < 7) {
      const [bytes] = (await Promise.race([once(socket, 'data'), gone])) as [Buffer];
      reply = Buffer.concat([reply, bytes]);
    }
    held.set(number, reply.readUInt16BE(3));
    // Silence that ends a frame at 19200 bit/s, and some more.
    await new Promise((resolve) => setTimeout(resolve, 10));
  }
  socket.destroy();
  return held;
}

interface Told {
  readonly number: string;
  readonly words: readonly number[];
  readonly result: WriteResult;
}

/** The newest writing as the browser kept it. */
const keptWriting = (page: Page): Promise<{ readonly startedMs: number; readonly items: readonly Told[] } | null> =>
  page.evaluate(
    () =>
      new Promise((resolve) => {
        const opened = indexedDB.open('bujo');
        opened.onsuccess = () => {
          const all = opened.result.transaction('writings').objectStore('writings').getAll();
          all.onsuccess = () => {
            opened.result.close();
            const rows = all.result as { startedMs: number; writing: { items: Told[] } }[];
            const newest = rows.sort((a, b) => b.startedMs - a.startedMs)[0];
            resolve(newest ? { startedMs: newest.startedMs, items: newest.writing.items } : null);
          };
        };
      }),
  );

/** Puts a plan into the browser's database, as the page keeps one that was made in it. */
const putPlan = (page: Page, values: readonly (readonly [string, number])[]): Promise<void> =>
  page.evaluate(
    (plan) =>
      new Promise<void>((resolve) => {
        const opened = indexedDB.open('bujo');
        opened.onsuccess = () => {
          const change = opened.result.transaction(['plans', 'jobs'], 'readwrite');
          const jobs = change.objectStore('jobs').getAll();
          jobs.onsuccess = () => {
            const [job] = jobs.result as { id: string; lines: { id: string; name: string }[] }[];
            const line = job?.lines.find(({ name }) => name === 'K1 by device server')?.id ?? '';
            change.objectStore('plans').put({
              drive: `${line} 3`,
              job: job?.id,
              plan: new Map(plan.map(([number, value]) => [number, { words: [value], reason: 'typed' }])),
            });
          };
          change.oncomplete = () => {
            opened.result.close();
            resolve();
          };
        };
      }),
    values,
  );

async function toPlan(page: Page, baseURL: string): Promise<void> {
  await page.goto(baseURL);
  await page.getByRole('button', { name: 'Open K1 by device server' }).click();
  await page
    .getByRole('button', { name: /3 · kiln fan/ })
    .nth(1)
    .click();
  await page.getByRole('link', { name: /Registers/ }).click();
  await page.getByRole('tab', { name: 'Plan and write' }).click();
}

/** What is told of a value against what the drive holds: true, or in doubt and said so. */
function isTrue({ number, words: [wanted], result }: Told, before: ReadonlyMap<string, number>, now: number): boolean {
  switch (result.kind) {
    case 'equal':
    case 'confirmed':
      return now === wanted;
    case 'kept-as':
      return now === result.words[0];
    case 'waiting':
      return now === before.get(number);
    case 'sent':
    case 'not-reached':
      return now === wanted || now === before.get(number);
    case 'refused':
      return now === before.get(number);
  }
}

test(`the browser is killed in the middle of writing, ${KILLS_IN_WRITING} times: nothing that is told of a value is untrue`, async ({
  baseURL,
  launchOptions,
  request,
}) => {
  test.setTimeout(120_000 + KILLS_IN_WRITING * 30_000);
  expect(SETTINGS.length).toBeGreaterThan(20);
  const random = seededRandom(18);
  const profile = mkdtempSync(path.join(tmpdir(), 'bujo-profile-'));
  // The usual port or, beside a demo, one behind it.
  const devices = (await (await request.get('/api/yard')).json()) as { name: string; port: number }[];
  const port = devices.find(({ name }) => name === 'K1')?.port ?? 0;
  let before = await heldByFan(port);
  let startedMs = 0;
  let cut = 0;
  for (let kill = 0; kill <= KILLS_IN_WRITING; kill++) {
    const held = await heldByFan(port);
    const context = await launched(profile, launchOptions);
    const page = context.pages()[0] ?? (await context.newPage());
    await toPlan(page, baseURL ?? '');
    const told = await keptWriting(page);
    const wrong = (told?.items ?? []).filter((one) => !isTrue(one, before, held.get(one.number) ?? NaN));
    expect([kill, wrong]).toEqual([kill, []]);
    const left = (told?.items ?? []).filter(({ result }) => /waiting|sent|confirmed/.test(result.kind)).length;
    if (told && left > 0 && left < told.items.length) cut++;
    if (told) {
      const proved = told.items.filter(({ result }) => result.kind === 'equal').length;
      const table = page.getByRole('table', { name: 'What became of each value' }).first();
      await expect(table.getByText('✓ read back and equal')).toHaveCount(proved);
    }
    if (kill === KILLS_IN_WRITING) {
      await context.close();
      break;
    }
    if (left === 0) {
      before = held;
      startedMs = told?.startedMs ?? 0;
      await putPlan(
        page,
        SETTINGS.map(({ number, values: [low, high] }) => [number, held.get(number) === low ? high : low]),
      );
      await toPlan(page, baseURL ?? '');
      await page.getByRole('button', { name: new RegExp(`^Write ${SETTINGS.length} values to`) }).click();
    } else await page.getByRole('button', { name: /^Go on with \d+/ }).click();
    // It is under way: the first of its values is out.
    await expect.poll(async () => (await keptWriting(page))?.startedMs ?? 0).toBeGreaterThan(startedMs);
    await page.waitForTimeout(100 + random() * 1_500);
    await killed(context, profile);
  }
  // Most of the kills came in the middle.
  expect(cut).toBeGreaterThan(KILLS_IN_WRITING / 2);
  rmSync(profile, { recursive: true, force: true });
});
