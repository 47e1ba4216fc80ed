import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';

/** What is not fetched ahead, and why. */
const NOT_AHEAD: Readonly<Record<string, string>> = {
  'src/yard/network-yard': 'of the server',
  'docs/schema/record.schema.json': 'of a worker',
  'docs/schema/job.schema.json': 'of a worker',
  'docs/schema/sheet.schema.json': 'of a worker',
  'docs/schema/set.schema.json': 'of a worker',
  'read-excel-file/web-worker': 'of a worker',
  'pdfjs-dist': 'a megabyte and a half with its worker, for one press; the service worker keeps it',
};

const FETCHED = ['src/app/fetch-ahead.ts', 'src/app/stage-view.tsx'];

/** What a file imports when it is needed, by its place in the project. */
const asked = (file: string): readonly string[] =>
  [...readFileSync(file, 'utf8').matchAll(/\bimport\(\s*'([^']+)'\s*\)/g)].map(([, name = '']) =>
    name.startsWith('.') ? path.join(path.dirname(file), name) : name,
  );

it('whatever a page imports when it is needed is fetched while the server is there', () => {
  const files = readdirSync('src', { recursive: true, encoding: 'utf8' })
    .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file))
    .map((file) => path.join('src', file));
  const ahead = new Set(FETCHED.flatMap(asked));
  const late = files.flatMap(asked).filter((name) => !ahead.has(name));
  expect(ahead.size).toBeGreaterThan(20);
  expect([...new Set(late)].sort()).toEqual(Object.keys(NOT_AHEAD).sort());
});
