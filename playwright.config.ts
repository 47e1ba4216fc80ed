import { execFileSync } from 'node:child_process';
import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './tests/harness/chromium';

/** The usual port or, beside a demo or other tests, the next free one; workers read it from the first that asked. */
process.env.BUJO_TEST_PORT ??= execFileSync(process.execPath, ['scripts/lib/ports.mjs', '4390'], {
  encoding: 'utf8',
}).trim();
const PORT = process.env.BUJO_TEST_PORT;

/** Stories in which drives, watches and clocks run in real time, or that share the stand-ins of the server: one by one. */
const TIMED = /\/(?:bridge|failing|line|own-server|rates|recovery|registers|trials|words)\.spec\.ts$/;

/** Of the others, those that are told last, when both processors are free for them: as many as leave the rest to be done beside the timed ones. */
const LAST = /\/(?:scaling|sheets|story|trend)\.spec\.ts$/;

/**
 * Against the production build.
 * Stories wait on what is shown. The time-outs only end one that hangs, on a computer that others share too.
 */
export default defineConfig({
  testDir: 'tests/browser',
  outputDir: 'test-results',
  fullyParallel: false,
  workers: 1,
  // The first two beside each other, and the last two at a time, in scripts/test.mjs.
  projects: [
    { name: 'timed', testMatch: TIMED },
    { name: 'calm', testIgnore: [TIMED, LAST], fullyParallel: true },
    { name: 'last', testMatch: LAST, fullyParallel: true },
  ],
  // Only where the computer itself was withheld: tests/browser/told-again.ts.
  retries: 2,
  timeout: 240_000,
  expect: { timeout: 60_000 },
  reportSlowTests: { max: 10, threshold: 0 },
  reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_NAME ? [['list'], ['json']] : [['list']],
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
  },
  webServer: {
    command: `node_modules/.bin/next start -H 127.0.0.1 -p ${PORT}`,
    url: `http://127.0.0.1:${PORT}`,
    env: { BUJO_YARD: '1' },
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 2000 },
  },
});
