import { madeUpIndex, MadeUpDrive } from '../../../tests/harness/sets';
import { pick, seededRandom, type Random } from '../random/random';
import { readSetCsv, csvOfSet } from './set-csv';
import { readSetFile, saidByFile, setFileOf } from './set-file';
import {
  afterGroup,
  beginReading,
  groupsOf,
  holesOf,
  nextGroup,
  resumed,
  SILENCES_TO_PAUSE,
  type SetReading,
} from './set-reading';
import { afterAct, beforeWrite, isUndone, nextAct, writingAgain, type SetWriting } from './set-writing';
import type { Plan } from './plan';
import { writeOrder } from './write-order';

const SEEDS = Array.from({ length: 60 }, (_, i) => i + 1);

function drive(random: Random, loss: number) {
  const index = madeUpIndex(random, 10 + pick(random, 80));
  const holes = new Set(index.parameters.flatMap(({ number }) => (random() < 0.08 ? [number] : [])));
  const made = new MadeUpDrive(index, holes, () => (random() < loss ? (random() < 0.5 ? 'request' : 'reply') : null));
  for (const parameter of index.parameters)
    made.hold(
      parameter,
      parameter.cells.map(() => pick(random, 3)),
    );
  return { index, holes, made };
}

function readAll(reading: SetReading, made: MadeUpDrive): { readonly reading: SetReading; readonly pauses: number } {
  let [now, pauses, turns] = [reading, 0, 0];
  for (let group = nextGroup(now); group; group = nextGroup(now)) {
    expect(++turns).toBeLessThan(5000);
    now = afterGroup(made.index, now, made.read(group));
    if (now.silences >= SILENCES_TO_PAUSE) {
      pauses++;
      now = { ...now, silences: 0 };
    }
  }
  return { reading: now, pauses };
}

it.each(SEEDS)('a reading tells exactly what the drive holds, names every hole, and ends (seed %i)', (seed) => {
  const random = seededRandom(seed);
  const { index, holes, made } = drive(random, seed % 3 === 0 ? 0.2 : 0);
  let { reading } = readAll(beginReading(index, index.parameters), made);
  // What stayed silent is asked again until the line lets it through.
  for (let i = 0; i < 50 && [...reading.said.values()].some(({ kind }) => kind === 'silent'); i++)
    ({ reading } = readAll(resumed(reading), made));
  expect(reading.said.size).toBe(index.parameters.length);
  for (const parameter of index.parameters) {
    const said = reading.said.get(parameter.number);
    if (holes.has(parameter.number)) expect(said).toMatchObject({ kind: 'refused' });
    else expect(said).toMatchObject({ kind: 'value', words: made.wordsOf(parameter) });
  }
  // With the holes known, no block is refused again but the holes themselves.
  const again = readAll(beginReading(index, index.parameters, holesOf(reading.said)), made).reading;
  if (seed % 3 !== 0) expect(again.requests).toBe(groupsOf(index, index.parameters, holes).length);
});

it('a drive that never answers ends a reading by pausing it, and then by giving up', () => {
  const index = madeUpIndex(seededRandom(7), 40);
  const { reading, pauses } = readAll(
    beginReading(index, index.parameters),
    new MadeUpDrive(index, new Set(), () => 'request'),
  );
  expect(pauses).toBeGreaterThan(0);
  expect([...reading.said.values()].every(({ kind }) => kind === 'silent')).toBe(true);
});

/** A plan of random values, some of which the drive will limit or refuse. */
function planFor(random: Random, made: MadeUpDrive): Plan {
  return new Map(
    made.index.parameters
      .filter(() => random() < 0.4)
      .map((parameter) => [
        parameter.number,
        {
          words: parameter.cells.map((_, i) => (i === parameter.cells.length - 1 ? pick(random, 6000) : 0)),
          reason: 'typed',
        },
      ]),
  );
}

const begin = (made: MadeUpDrive, plan: Plan): SetWriting => ({
  silences: 0,
  items: writeOrder(made.index, plan, new Map()).map(({ number, phase }) => ({
    number,
    name: number,
    phase,
    words: plan.get(number)?.words ?? [],
    reason: 'typed',
    result: { kind: 'waiting' },
    writes: 0,
    silences: 0,
  })),
});

/** Runs a writing; at `cut` exchanges the page is gone between the request and its answer, and only what was kept is left. */
function write(made: MadeUpDrive, from: SetWriting, cut: number): SetWriting {
  let [now, exchanges] = [from, 0];
  for (let act = nextAct(now); act; act = nextAct(now)) {
    expect(++exchanges).toBeLessThan(5000);
    if (act.kind === 'write') now = beforeWrite(now, act);
    const reply = made.answer(act);
    if (exchanges === cut) return now;
    now = afterAct(now, act, reply);
  }
  return now;
}

it.each(SEEDS)(
  'a plan that was written is held or named, nothing else changed, wherever it was broken off (seed %i)',
  (seed) => {
    const random = seededRandom(1000 + seed);
    const loss = seed % 2 === 0 ? 0.15 : 0;
    const { made, holes } = drive(random, loss);
    const before = new Map(made.index.parameters.map((parameter) => [parameter.number, made.wordsOf(parameter)]));
    const plan = planFor(random, made);
    const cut = seed % 5 === 0 ? 0 : 1 + pick(random, 30);
    const broken = write(made, begin(made, plan), cut);
    // Nothing that the broken one tells is untrue.
    for (const { number, result } of broken.items) {
      const held = made.wordsOf(made.index.byNumber.get(number)!);
      if (result.kind === 'equal') expect(held).toEqual(plan.get(number)?.words);
      if (result.kind === 'waiting' && loss === 0) expect(held).toEqual(before.get(number));
    }
    const ended = write(made, broken, 0);
    expect(ended.items.some(({ result }) => isUndone(result))).toBe(false);
    for (const parameter of made.index.parameters) {
      const { number } = parameter;
      const held = made.wordsOf(parameter);
      const item = ended.items.find((one) => one.number === number);
      if (!item) expect(held).toEqual(before.get(number));
      else if (item.result.kind === 'equal') expect(held).toEqual(item.words);
      else if (item.result.kind === 'kept-as') expect(held).toEqual(item.result.words);
      else if (item.result.kind === 'refused' && loss === 0) expect(held).toEqual(before.get(number));
      if (holes.has(number) && item && loss === 0) expect(item.result.kind).toBe('refused');
    }
    // Nothing goes out twice but the one whose answer the cut took, after it was read.
    const lost = broken.items.find(({ result }) => result.kind === 'sent')?.number;
    const twice = made.writes.filter((number, i) => made.writes.indexOf(number) !== i);
    if (loss === 0) expect(twice.filter((number) => number !== lost)).toEqual([]);
    expect(twice.filter((number) => number === lost).length).toBeLessThanOrEqual(1);
  },
);

it('a silent drive ends a writing, and what became of each value is told', () => {
  const { made } = drive(seededRandom(5), 1);
  const plan = planFor(seededRandom(6), made);
  const ended = write(made, begin(made, plan), 0);
  expect(new Set(ended.items.map(({ result }) => result.kind))).toEqual(new Set(['not-reached']));
  expect(writingAgain(ended).items.every(({ result }) => result.kind === 'sent' || result.kind === 'waiting')).toBe(
    true,
  );
});

it.each(SEEDS.slice(0, 20))(
  'a set comes back from its file and from a spreadsheet’s CSV, with point and with comma (seed %i)',
  (seed) => {
    const { made } = drive(seededRandom(2000 + seed), 0);
    const { reading } = readAll(beginReading(made.index, made.index.parameters), made);
    const file = setFileOf(made.index, reading.said, { name: 'visit', at: '2026-11-20T09:00:00Z' });
    const read = readSetFile(JSON.stringify(file));
    if (!read.ok) throw new Error(read.error);
    const plain = (said: SetReading['said']) =>
      [...said].flatMap(([number, one]) => (one.kind === 'value' ? [[number, one.words] as const] : []));
    expect(new Map(plain(saidByFile(read.value)))).toEqual(new Map(plain(reading.said)));
    for (const mark of ['point', 'comma'] as const) {
      const csv = readSetCsv(made.index, csvOfSet(made.index, reading.said, mark));
      if (!csv.ok) throw new Error(csv.error);
      expect(csv.value.unread).toEqual([]);
      expect(new Map(plain(csv.value.said))).toEqual(new Map(plain(reading.said)));
    }
  },
);
