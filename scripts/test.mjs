// Installs what is missing, then lint, types, unit and browser tests. One closing line counts everything.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { freePortFrom } from './lib/ports.mjs';
import { bin, build, endWith, install, needChromium, needNode, root, run, runBehind, Trouble } from './lib/prepare.mjs';

/** Compilers and tests make much that is soon forgotten: with more room for it, a tenth less of the processors' time goes into collecting it. */
if (process.allowedNodeEnvironmentFlags.has('--max-semi-space-size'))
  process.env.NODE_OPTIONS = `${process.env.NODE_OPTIONS ?? ''} --max-semi-space-size=64`.trim();

const reports = path.join(root, '.cache', 'reports');
const JEST = path.join(reports, 'jest.json');

const read = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null);

/** Checks that pass or fail as a whole; each counts as one. They stand by what runs beside them, so that both processors have something to do. */
const FIRST = [['route types', bin('next'), ['typegen']]];
/** The build leaves one of two processors to these. */
const BESIDE_BUILD = [
  ['format', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['import directions', bin('depcruise'), ['src', '--config', '.dependency-cruiser.cjs', '--output-type', 'err']],
  [
    'import directions of folders',
    bin('depcruise'),
    ['src', '--config', '.dependency-cruiser-folders.cjs', '--output-type', 'err'],
  ],
];
const BESIDE_UNIT = [['types', bin('tsc'), ['--noEmit']]];
/** It takes longest; a tenth of the processors beside unit tests and stories, and what those leave, is enough for it: it is done before they are. */
const BEHIND_TESTS = [['lint', bin('eslint'), ['.', '--max-warnings', '0']]];

/**
 * Stories in turns, in each of which both processors have something to do: those in which drives and clocks run in real time, one by one, beside
 * most of the others; then the rest of these, two at a time. Each has a server of its own, at the first free port from the one that is named.
 */
const STORIES = [
  [
    { project: 'timed', workers: '1', from: 4390 },
    { project: 'calm', workers: '1', from: 4490 },
  ],
  [{ project: 'last', workers: '2', from: 4390 }],
];

const totals = { passed: 0, failed: 0 };
const count = (passed, failed) => {
  totals.passed += passed;
  totals.failed += failed;
};

async function all(checks, how = run) {
  for (const [name, command, args] of checks) {
    console.log(`\n== ${name}`);
    const good = (await how(command, args)) === 0;
    if (!good) console.log(`\n== ${name} failed`);
    count(good ? 1 : 0, good ? 0 : 1);
  }
}

/** A runner that ends badly without counting a failure has failed all the same. */
function countRunner(code, passed, failed) {
  count(passed, failed === 0 && code !== 0 ? 1 : failed);
}

async function unit() {
  console.log('\n== unit tests');
  const code = await run(bin('jest'), ['--json', `--outputFile=${JEST}`, '--silent=false']);
  const report = read(JEST);
  countRunner(code, report?.numPassedTests ?? 0, report?.numFailedTests ?? 0);
}

async function stories({ project, workers, from }) {
  const report = path.join(reports, `${project}.json`);
  rmSync(report, { force: true });
  const code = await run(
    bin('playwright'),
    ['test', `--project=${project}`, `--workers=${workers}`, `--output=test-results/${project}`],
    { PLAYWRIGHT_JSON_OUTPUT_NAME: report, BUJO_TEST_PORT: `${await freePortFrom(from)}` },
  );
  const stats = read(report)?.stats;
  const again = stats?.flaky ?? 0;
  if (again > 0) console.log(`${again} told again, since the computer was withheld from them, and good then`);
  countRunner(code, (stats?.expected ?? 0) + again, stats?.unexpected ?? 0);
}

async function browser() {
  console.log('\n== browser tests');
  for (const turn of STORIES) await Promise.all(turn.map(stories));
}

async function tests() {
  await Promise.all([unit(), all(BESIDE_UNIT)]);
  await browser();
}

try {
  needNode();
  await install();
  needChromium();
  mkdirSync(reports, { recursive: true });
  rmSync(JEST, { force: true });
  await all(FIRST);
  await Promise.all([build(), all(BESIDE_BUILD)]);
  await Promise.all([tests(), all(BEHIND_TESTS, runBehind)]);
  console.log(`\n${totals.passed} passed, ${totals.failed} failed`);
  if (totals.failed > 0) throw new Trouble('Some checks failed; they have said why above.');
} catch (error) {
  endWith(error);
}
