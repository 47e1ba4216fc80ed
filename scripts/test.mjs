// Installs what is missing, then lint, types, unit and browser tests. One closing line counts everything.
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { bin, build, endWith, install, needChromium, needNode, root, run, Trouble } from './lib/prepare.mjs';

const reports = path.join(root, '.cache', 'reports');
const JEST = path.join(reports, 'jest.json');
const BROWSER = path.join(reports, 'browser.json');

const read = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null);

/** Checks that pass or fail as a whole; each counts as one. Lint takes longest and runs beside all others and the unit tests. */
const LINT = [['lint', bin('eslint'), ['.', '--max-warnings', '0']]];
const CHECKS = [
  ['format', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['route types', bin('next'), ['typegen']],
  ['types', bin('tsc'), ['--noEmit']],
  ['import directions', bin('depcruise'), ['src', '--config', '.dependency-cruiser.cjs', '--output-type', 'err']],
  [
    'import directions of folders',
    bin('depcruise'),
    ['src', '--config', '.dependency-cruiser-folders.cjs', '--output-type', 'err'],
  ],
];
/** Stories of pages side by side, a core each; then those in which drives and clocks run in real time, one by one. */
const STORIES = [
  ['calm', '2'],
  ['timed', '1'],
];

const totals = { passed: 0, failed: 0 };
const count = (passed, failed) => {
  totals.passed += passed;
  totals.failed += failed;
};

async function all(checks) {
  for (const [name, command, args] of checks) {
    console.log(`\n== ${name}`);
    const good = (await run(command, args)) === 0;
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

async function browser() {
  console.log('\n== browser tests');
  await build();
  for (const [project, workers] of STORIES) {
    rmSync(BROWSER, { force: true });
    const code = await run(bin('playwright'), ['test', `--project=${project}`, `--workers=${workers}`], {
      PLAYWRIGHT_JSON_OUTPUT_NAME: BROWSER,
    });
    const stats = read(BROWSER)?.stats;
    const again = stats?.flaky ?? 0;
    if (again > 0) console.log(`${again} told again, since the computer was withheld from them, and good then`);
    countRunner(code, (stats?.expected ?? 0) + again, stats?.unexpected ?? 0);
  }
}

try {
  needNode();
  await install();
  needChromium();
  mkdirSync(reports, { recursive: true });
  rmSync(JEST, { force: true });
  await Promise.all([all(LINT), all(CHECKS).then(unit)]);
  await browser();
  console.log(`\n${totals.passed} passed, ${totals.failed} failed`);
  if (totals.failed > 0) throw new Trouble('Some checks failed; they have said why above.');
} catch (error) {
  endWith(error);
}
