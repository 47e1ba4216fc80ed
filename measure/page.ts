import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { chromium, type Browser, type Page } from '@playwright/test';
import { SIDE_PLACES, STAGES } from '../src/bench/state/stages';
import { CHROMIUM } from '../tests/harness/chromium';
import { busyBench } from './busy';
import { capturePageBench } from './capture-page';
import { largeBench } from './large';
import { linesBench } from './lines';
import { claim, note } from './measure';
import { secondStartBench } from './second-start';
import { tracePageBench } from './trace-page';

const ROOT = process.cwd();
const WATCH_MS = 10_000;

/** A page with the same framework, theme and fonts and nothing else; thrown away afterwards. */
function bareProject(): string {
  const cache = path.join(ROOT, '.cache');
  mkdirSync(cache, { recursive: true });
  const folder = mkdtempSync(path.join(cache, 'bare-'));
  const app = path.join(folder, 'src', 'app');
  mkdirSync(app, { recursive: true });
  mkdirSync(path.join(folder, 'src', 'ui'));
  for (const name of ['src/app/theme.ts', 'src/app/globals.css', 'src/ui/tokens.ts', 'tsconfig.json', 'package.json'])
    cpSync(path.join(ROOT, name), path.join(folder, name));
  symlinkSync(path.join(ROOT, 'node_modules'), path.join(folder, 'node_modules'));
  // The root stays the project's, as the packages are linked from there.
  writeFileSync(
    path.join(folder, 'next.config.ts'),
    `export default { turbopack: { root: ${JSON.stringify(ROOT)} }, outputFileTracingRoot: ${JSON.stringify(ROOT)} };\n`,
  );
  writeFileSync(
    path.join(app, 'providers.tsx'),
    `'use client';\nimport CssBaseline from '@mui/material/CssBaseline';\nimport { ThemeProvider } from '@mui/material/styles';\nimport type { ReactNode } from 'react';\nimport { theme } from './theme';\nexport const Providers = ({ children }: { children: ReactNode }) => <ThemeProvider theme={theme}><CssBaseline />{children}</ThemeProvider>;\n`,
  );
  writeFileSync(
    path.join(app, 'layout.tsx'),
    `import '@fontsource-variable/atkinson-hyperlegible-mono/index.css';\nimport '@fontsource-variable/atkinson-hyperlegible-next/index.css';\nimport './globals.css';\nimport InitColorSchemeScript from '@mui/material/InitColorSchemeScript';\nimport { AppRouterCacheProvider } from '@mui/material-nextjs/v16-appRouter';\nimport type { ReactNode } from 'react';\nimport { Providers } from './providers';\nexport default function Layout({ children }: { children: ReactNode }) {\n  return <html lang="en" suppressHydrationWarning><body><InitColorSchemeScript attribute="data" /><AppRouterCacheProvider options={{ prepend: true }}><Providers>{children}</Providers></AppRouterCacheProvider></body></html>;\n}\n`,
  );
  writeFileSync(
    path.join(app, 'page.tsx'),
    `import Button from '@mui/material/Button';\nexport default function Page() {\n  return <Button>bare</Button>;\n}\n`,
  );
  return folder;
}

const answers = (port: number): Promise<boolean> =>
  fetch(`http://127.0.0.1:${port}`).then(
    () => true,
    () => false,
  );

async function serve(folder: string, port: number): Promise<ChildProcess> {
  // A server that an earlier run left behind would be measured in its place.
  if (await answers(port)) throw new Error(`port ${port} is taken by another server`);
  const server = spawn(path.join(ROOT, 'node_modules/.bin/next'), ['start', '-H', '127.0.0.1', '-p', String(port)], {
    cwd: folder,
    stdio: 'ignore',
  });
  for (let tries = 0; tries < 200; tries++) {
    if (await answers(port)) return server;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`the server of ${folder} did not answer`);
}

/** Ends a server and waits until it answers nobody. */
async function ended(server: ChildProcess | undefined): Promise<void> {
  const isOver = new Promise((resolve) => server?.once('exit', resolve));
  server?.kill('SIGTERM');
  await isOver;
}

/** Bytes of script that the first view at an address loads, uncompressed. */
async function firstLoad(browser: Browser, port: number, stage = '/'): Promise<number> {
  const page = await browser.newPage();
  let bytes = 0;
  let isOver = false;
  const pending: Promise<void>[] = [];
  page.on('response', (response) => {
    // What is fetched ahead comes later.
    if (isOver || response.request().resourceType() !== 'script') return;
    pending.push(response.body().then((body) => void (bytes += body.length)));
  });
  await page.goto(`http://127.0.0.1:${port}${stage}`, { waitUntil: 'networkidle' });
  isOver = true;
  await Promise.all(pending);
  await page.close();
  return bytes;
}

/** Long tasks of the page's thread while a drive is watched, with the yard at a multiple of life's speed. */
async function longTasks(page: Page, port: number, speed: number): Promise<readonly number[]> {
  await page.goto(`http://127.0.0.1:${port}`);
  await page.getByRole('button', { name: 'Open K1 kiln' }).click();
  await page.getByRole('button', { name: `× ${speed}`, exact: true }).click();
  await page.getByRole('link', { name: /Words/ }).click();
  await page.getByRole('button', { name: 'Watch' }).click();
  await page.getByTestId('status-sentence').waitFor();
  return page.evaluate(
    (ms) =>
      new Promise<number[]>((resolve) => {
        const seen: number[] = [];
        new PerformanceObserver((list) => list.getEntries().forEach(({ duration }) => seen.push(duration))).observe({
          type: 'longtask',
        });
        setTimeout(() => resolve(seen), ms);
      }),
    WATCH_MS,
  );
}

export async function pageBench(): Promise<void> {
  const bare = bareProject();
  const built = spawnSync(path.join(ROOT, 'node_modules/.bin/next'), ['build'], {
    cwd: bare,
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1' },
  });
  if (built.status !== 0)
    throw new Error(`the bare page was not built: ${built.stdout.toString()}${built.stderr.toString()}`);
  const servers = [await serve(ROOT, 4393), await serve(bare, 4394)];
  const browser = await chromium.launch(CHROMIUM);
  try {
    const [ours, other] = [await firstLoad(browser, 4393), await firstLoad(browser, 4394)];
    note(`first-load script: ours ${(ours / 1000).toFixed(0)} kB, bare page ${(other / 1000).toFixed(0)} kB`);
    claim('first-load script against a bare page', ours / other, { atMost: 1.4 });
    const frames = await firstLoad(browser, 4393, '/frames');
    for (const { path: stage } of [...STAGES, ...SIDE_PLACES]) {
      const bytes = await firstLoad(browser, 4393, stage);
      claim(`first-load script of ${stage} against that of /frames`, bytes / frames, { atMost: 1.2 });
    }
    for (const speed of [1, 10]) {
      const page = await browser.newPage();
      const tasks = await longTasks(page, 4393, speed);
      await page.close();
      const longest = tasks.length > 0 ? `, the longest ${Math.max(...tasks)} ms` : '';
      note(
        `long tasks in ${WATCH_MS / 1000} s of watching at ${speed} times the line's rate: ${tasks.length}${longest}`,
      );
    }
    await tracePageBench(browser, 'http://127.0.0.1:4393');
    await busyBench(browser, 'http://127.0.0.1:4393');
    await largeBench(browser, 'http://127.0.0.1:4393');
    await linesBench(browser, 'http://127.0.0.1:4393');
    await capturePageBench(browser, 'http://127.0.0.1:4393');
    await secondStartBench(browser, 'http://127.0.0.1:4393', 'http://127.0.0.1:4394', () => ended(servers[0]));
  } finally {
    await browser.close();
    for (const server of servers) server.kill('SIGTERM');
    rmSync(bare, { recursive: true, force: true });
  }
}
