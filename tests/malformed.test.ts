import * as v from 'valibot';
import { RecordSchema } from '../src/core/handover/document';
import { recordText } from '../src/core/handover/html';
import { makeRecord } from '../src/core/handover/make-record';
import { readRecord } from '../src/core/handover/read-record';
import { jobFileText } from '../src/core/job/job-file';
import { JobSchema } from '../src/core/job/job-schema';
import { readJobText } from '../src/core/job/load-job';
import { pick, seededRandom, type Random } from '../src/core/random/random';
import { readSetFile, setFileOf } from '../src/core/sets/set-file';
import { defaultWitness } from '../src/core/sets/witness';
import { loadSheet } from '../src/core/sheet/load-sheet';
import type { Sheet } from '../src/core/sheet/sheet';
import { sheetFile } from '../src/core/sheet/sheet-file';
import { SHIPPED_TRIALS } from '../src/core/trial/shipped-trials';
import { readTrialFile } from '../src/core/trial/edit-trial';
import { TrialSchema } from '../src/core/trial/trial';
import { demoJob, shippedSheets } from './harness/shipped';
import { shippedIndex } from './harness/sheets';
import { visitedFan } from './harness/visited';

const TIMES = 500;

type Node = Record<string, unknown> | unknown[];
const isNode = (value: unknown): value is Node => typeof value === 'object' && value !== null;

/** What somebody, or a bad disk, may put in the place of a value. */
const JUNK: readonly ((old: unknown, random: Random) => unknown)[] = [
  () => null,
  () => '',
  () => -1,
  () => 1e308,
  () => 0.5,
  () => true,
  () => [],
  () => ({}),
  () => '__proto__',
  () => 'x'.repeat(100_000),
  (old) => [old],
  (old) => ({ old }),
  (old) => (typeof old === 'string' ? Number(old.length) : String(old)),
  (old) => (Array.isArray(old) ? [...(old as unknown[]), ...(old as unknown[])] : old),
  () => Array.from({ length: 50 }).reduce((inner) => ({ inner }), {}),
];

/** The same file with one value somewhere in it replaced, taken out, or added to. */
function spoilt(file: unknown, random: Random): string {
  const copy = JSON.parse(JSON.stringify(file)) as Node;
  let node = copy;
  for (;;) {
    const keys = Object.keys(node);
    const key = keys[pick(random, keys.length)] ?? 'x';
    const inner = (node as Record<string, unknown>)[key];
    if (isNode(inner) && Object.keys(inner).length > 0 && random() < 0.85) {
      node = inner;
      continue;
    }
    const own = node as Record<string, unknown>;
    const way = random();
    if (way < 0.15) delete own[key];
    else if (way < 0.3) own[`${key} too`] = inner;
    else own[key] = JUNK[pick(random, JUNK.length)]!(inner, random);
    return JSON.stringify(copy);
  }
}

interface Told {
  /** What was read, where it was. */
  readonly value?: unknown;
  /** The sentences, where it was refused. */
  readonly why?: readonly string[];
}

interface Kind {
  readonly file: () => Promise<unknown>;
  readonly read: (text: string) => Told;
  /** Whether what was read is what may be kept. */
  readonly isGood: (value: unknown) => boolean;
}

const KINDS: Readonly<Record<string, Kind>> = {
  jobs: {
    file: () =>
      Promise.resolve(
        JSON.parse(
          jobFileText({ job: demoJob(), sheets: shippedSheets().filter(({ slug }) => slug === 'siskin') }),
        ) as unknown,
      ),
    read: (text) => {
      const read = readJobText(text);
      return read.ok ? { value: read.value.job } : { why: read.error.map((fault) => fault.text) };
    },
    isGood: (value) => v.is(JobSchema, value),
  },
  sheets: {
    file: () => Promise.resolve(sheetFile(shippedIndex('pipit').sheet)),
    read: (text) => {
      const read = loadSheet(JSON.parse(text) as unknown);
      return read.ok ? { value: read.value } : { why: read.error.map((fault) => fault.text) };
    },
    isGood: (value) => loadSheet(sheetFile(value as Sheet)).ok,
  },
  sets: {
    file: () => {
      const index = shippedIndex('tern');
      return Promise.resolve(
        setFileOf(index, defaultWitness(index).said, { name: 'x', at: '2026-01-01T00:00:00.000Z' }),
      );
    },
    read: (text) => {
      const read = readSetFile(text);
      return read.ok ? { value: read.value } : { why: [read.error] };
    },
    isGood: (value) => readSetFile(JSON.stringify(value)).ok,
  },
  trials: {
    file: () => Promise.resolve(SHIPPED_TRIALS[2]),
    read: (text) => {
      const read = readTrialFile(text);
      return read.ok ? { value: read.value } : { why: [read.error] };
    },
    isGood: (value) => v.is(TrialSchema, value),
  },
  records: {
    file: async () => JSON.parse(recordText(makeRecord((await visitedFan()).input()))) as unknown,
    read: (text) => {
      const read = readRecord(text);
      return read.ok ? { value: read.value } : { why: [read.error] };
    },
    isGood: (value) => v.is(RecordSchema, value),
  },
};

it.each(Object.entries(KINDS))(
  '%s that are damaged in one place are read as what they say, or refused with a sentence',
  async (_, kind) => {
    const file = await kind.file();
    const before = JSON.stringify(file);
    expect(kind.read(before).why).toBeUndefined();
    const random = seededRandom(21);
    let refused = 0;
    for (let i = 0; i < TIMES; i++) {
      const { value, why } = kind.read(spoilt(file, random));
      if (why) {
        refused++;
        expect(why.length).toBeGreaterThan(0);
        for (const text of why) expect(text).toMatch(/\w/);
      } else expect(kind.isGood(value)).toBe(true);
    }
    // Most of what is spoilt is told; the rest is another text or number that may stand there.
    expect(refused).toBeGreaterThan(TIMES / 4);
    expect(JSON.stringify(file)).toBe(before);
  },
);
