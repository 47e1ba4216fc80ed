/** @jest-environment jsdom */
import * as v from 'valibot';
import { checksOf } from '../src/core/handover/checks';
import { RecordSchema, SECTIONS, type VisitRecord } from '../src/core/handover/document';
import { pageOf, recordText } from '../src/core/handover/html';
import { makeRecord } from '../src/core/handover/make-record';
import { readRecord } from '../src/core/handover/read-record';
import { bytesToHex } from '../src/core/bytes/hex';
import { knownValue, type HandoverDrive } from '../src/core/handover/drive';
import { checkIpPlan } from '../src/core/line/check-ip-plan';
import { declarationsOf } from '../src/core/process-image/controller';
import { placeOfOwn, remarksOn } from '../src/core/process-image/own-block';
import { wordCard } from '../src/core/papers/word-card';
import { cellsText } from '../src/core/drive/cells-text';
import { wordText } from '../src/core/drive/describe';
import { wordsOfRaw } from '../src/core/sets/said';
import type { PlacedParameter } from '../src/core/sheet/index-sheet';
import { reportOf } from '../src/core/trial/report';
import { pick, seededRandom } from '../src/core/random/random';
import { recordDifferences } from '../src/core/handover/differences';
import { NO_VISIT } from '../src/core/handover/visit';
import { TraceFacts } from '../src/core/handover/trace-facts';
import { CALM } from '../src/standin/disturbance';
import { K1 } from './harness/line';
import { demoJob } from './harness/shipped';
import { standinLine } from './harness/standin-line';
import { visitedFan } from './harness/visited';

const rowsIn = ({ sections }: VisitRecord) =>
  sections.flatMap(({ blocks }) => blocks.flatMap((block) => (block.kind === 'table' ? block.rows : [])));

const knownWords = (drive: HandoverDrive, parameter: PlacedParameter): readonly number[] => {
  const known = knownValue(drive, parameter);
  return [...(known ? [known.pattern] : []), ...(parameter.default === undefined ? [] : [parameter.default])];
};

/** Numbers as they stand in a text. */
const numbersIn = (text: string): readonly string[] => text.match(/\d+(?:\.\d+)?/g) ?? [];

const found = (checks: ReturnType<typeof checksOf>, what: string) =>
  checks.filter(({ key }) => key.endsWith(` ${what}`)).map(({ found: text, mark }) => `${mark}: ${text}`);

it('a drive that nobody spoke to is said to be that, and nothing else is claimed of it', async () => {
  const fan = await visitedFan();
  const [drive] = fan.input().drives;
  expect(checksOf(drive!, 0).map(({ mark, found: text }) => [mark, text])).toEqual([
    ['open', 'no answer of it is in the trace'],
  ]);
});

it('a run word that is left in it is named, until Stop was pressed and the shaft was seen to stand', async () => {
  const fan = await visitedFan();
  const run = fan.index.commands.find(({ name }) => /forward/i.test(name));
  fan.write('11.02', 400);
  fan.write('11.01', run!.word);
  const before = checksOf(fan.input().drives[0]!, 0);
  expect(found(before, 'run word')).toEqual([
    expect.stringMatching(/^bad: control word .* asks it to run, 2026-11-20 /),
  ]);
  expect(found(before, 'stop')).toEqual(['open: Stop was not pressed']);
  fan.master.stop(3);
  fan.clock.advanceBy(60_000_000);
  const after = checksOf(fan.input().drives[0]!, 0);
  expect(found(after, 'run word')).toEqual([expect.stringMatching(/^good: control word /)]);
  expect(found(after, 'stop')).toEqual([expect.stringMatching(/^good: stopped, 2026-11-20 /)]);
});

it('what was written is followed: kept or not, restarted or not, read again or not, put back or not', async () => {
  const fan = await visitedFan();
  const of = (what: string) => found(checksOf(fan.input().drives[0]!, 0), what);
  fan.read('22.02');
  fan.write('22.02', 150);
  expect(of('kept')).toEqual([expect.stringMatching(/^bad: 22\.02 .*11\.60 keep settings was not given after it/)]);
  expect(of('read again')).toEqual([expect.stringMatching(/^open: 22\.02 .* was not read after it was written/)]);
  expect(of('put back')).toEqual([expect.stringMatching(/^open: 22\.02 .*: was 0 %, now 15 %; nobody said why/)]);
  fan.clock.advanceBy(1_000_000);
  fan.read('22.02');
  expect(of('read again')).toEqual([]);
  fan.write('11.60', fan.place('11.60').max);
  expect(of('kept')).toEqual([expect.stringMatching(/^good: 22\.02 .*: kept 2026-11-20/)]);
  fan.writings.push({
    id: 'plan',
    startedMs: 0,
    items: [
      {
        number: '22.02',
        name: 'signal 1 low end',
        phase: 'values',
        words: [150],
        reason: 'the sensor begins at 3 mA',
        result: { kind: 'equal' },
        writes: 1,
        silences: 0,
      },
    ],
  });
  expect(of('put back')).toEqual([expect.stringMatching(/^good: 22\.02 .*; the sensor begins at 3 mA$/)]);
  fan.write('22.02', 0);
  expect(of('put back')).toEqual([]);
  fan.write('5.02', 3);
  expect(of('restart')).toEqual([expect.stringMatching(/^bad: 5\.02 .*: no restart was seen after it/)]);
  fan.clock.advanceBy(1_000_000);
  fan.run('power-cycle');
  expect(of('restart')).toEqual([
    expect.stringMatching(/^person: 5\.02 .*: its supply was off and on, as somebody said, and it answered again/),
  ]);
});

it('a word whose answer was lost may be held: it is said, until an answer tells what the drive holds', async () => {
  const fan = await visitedFan();
  const run = fan.index.commands.find(({ name }) => /forward/i.test(name))!;
  const of = (what: string) => found(checksOf(fan.input().drives[0]!, 0), what);
  fan.write('11.01', fan.index.sheet.commands!.stop.words[0]!);
  fan.read('22.02');
  expect(of('run word')).toEqual([expect.stringMatching(/^good: control word 0x0004, 2026-11-20 /)]);
  fan.yard.bus.disturbance = { ...CALM, loseReply: 1 };
  fan.write('11.01', run.word);
  fan.write('22.02', 150);
  // Not the stop word before it, which was the last that was confirmed.
  expect(of('run word')).toEqual([
    expect.stringMatching(/^bad: control word 0x000D went out 2026-11-20 .* and no sure answer came: it may run$/),
  ]);
  expect(of('read again')).toEqual([
    expect.stringMatching(/^open: 22\.02 .* was sent as 15 % .*, and no sure answer came$/),
  ]);
  fan.yard.bus.disturbance = CALM;
  fan.clock.advanceBy(2_000_000);
  fan.read('22.02');
  fan.read('11.01');
  expect(of('read again')).toEqual([]);
  expect(of('run word')).toEqual([
    expect.stringMatching(/^(?:good|bad): control word 0x[0-9A-F]{4}(?: asks it to run)?, 2026-11-20 /),
  ]);
});

/** What is found at the only drive of a line, by what its exchanges told. */
function checksOnLine(
  { protocol, index, entries }: Awaited<ReturnType<typeof standinLine>>,
  slug: string,
  what: string,
): readonly string[] {
  const own = demoJob().lines.find(({ stations }) => stations.some(({ sheet }) => sheet?.slug === slug))!;
  const station = own.stations.find(({ sheet }) => sheet?.slug === slug)!;
  const reader = new TraceFacts(
    ({ station: number }) => ({ protocol, index, station: number }),
    () => [],
    () => 0,
  );
  entries.forEach((entry, sequence) => reader.take({ ...entry, session: 's', line: own.id, sequence }));
  const facts = reader.of(own.id, station.station);
  return found(
    checksOf({ line: own, station, index, protocol, facts, now: null, visits: [], writings: [], runs: [] }, 0),
    what,
  );
}

it('over USS each write says whether it is kept, and is followed by that', async () => {
  const line = await standinLine('dunlin', 'uss', [4], { rate: 38400, dataBits: 8, parity: 'E', stopBits: 1 });
  const places = line.protocol.placesOf(line.index);
  const ramp = line.index.byNumber.get('120')!;
  line.ask(places.writeWords(4, ramp, [95], () => undefined)!);
  expect(checksOnLine(line, 'dunlin', 'kept')).toEqual([
    expect.stringMatching(/^bad: 120 .* is in working memory only$/),
  ]);
  line.clock.advanceBy(10_000);
  line.ask(places.writeKept!(4, ramp, [96])!);
  expect(checksOnLine(line, 'dunlin', 'kept')).toEqual([expect.stringMatching(/^good: 120 .*: kept by its write$/)]);
});

it('a run word that went to all is one that each drive of the line may hold', async () => {
  const fan = await visitedFan();
  const run = fan.index.commands.find(({ name }) => /forward/i.test(name))!;
  const of = (what: string) => found(checksOf(fan.input().drives[0]!, 0), what);
  fan.write('11.01', fan.index.sheet.commands!.stop.words[0]!);
  fan.writeToAll('11.01', run.word);
  expect(of('run word')).toEqual([
    expect.stringMatching(/^bad: control word 0x000D went out 2026-11-20 .* and no sure answer came: it may run$/),
  ]);
  fan.clock.advanceBy(2_000_000);
  fan.write('11.01', fan.index.sheet.commands!.stop.words[0]!);
  expect(of('run word')).toEqual([expect.stringMatching(/^good: control word /)]);
});

it('a value over two registers is followed as one: what it was, what was written, what is read again', async () => {
  const line = await standinLine('curlew', 'modbus-rtu', [1], K1);
  const { index, protocol } = line;
  const places = protocol.placesOf(index);
  const wide = index.parameters.find(
    ({ cells, write, role, choices, min, max }) =>
      cells.length === 2 &&
      write === 'always' &&
      !choices &&
      role !== 'target-position' &&
      min <= 100_000 &&
      max >= 200_000,
  )!;
  const read = (): void => places.read(1, [wide]).forEach((request) => void line.ask(request));
  const write = (pattern: number): void => void line.ask(places.write(1, wide, pattern, () => undefined)!);
  const of = (what: string) => checksOnLine(line, 'curlew', what);
  write(100_000);
  line.clock.advanceBy(10_000);
  read();
  write(200_000);
  expect(of('put back')).toEqual([expect.stringMatching(/what it was is not known, now /)]);
  expect(of('read again')).toEqual([expect.stringMatching(/ was not read after it was written$/)]);
  line.clock.advanceBy(10_000);
  read();
  expect(of('read again')).toEqual([]);
});

it('a fault is told from its first sight to its end, with what was written before it was gone', async () => {
  const fan = await visitedFan();
  fan.run('loss-of-link');
  const [met, ...others] = fan.facts().faults;
  expect(others).toEqual([]);
  // Common practice, no source: the reset word is what ends a latched fault.
  const reset = fan.index.commands.find(({ name }) => /reset/.test(name))!;
  expect(met).toMatchObject({ to: expect.objectContaining({ session: 'evening' }) as object });
  expect(fan.protocol.placesOf(fan.index).written(met!.cure!)).toEqual([
    [fan.index.byRole.get('control-word')!.cells[0], reset.word],
  ]);
  expect(met!.to!.atMs).toBeGreaterThan(met!.from.atMs);
  expect(found(checksOf(fan.input().drives[0]!, 0), 'fault')).toEqual([expect.stringMatching(/^good: by status word/)]);
});

it('a password is in no record: neither its exchange as bytes, nor as what cured a fault', async () => {
  const fan = await visitedFan();
  const secret = fan.index.parameters.find((parameter) => parameter.secret === true)!;
  const word = 4711;
  fan.write(secret.number, word);
  fan.read(secret.number);
  fan.read('6.02');
  const record = makeRecord(fan.input());
  expect(fan.facts().written.get(secret.cells[0]!)?.word).toBe(word);
  const text = pageOf(record, '', 'A4', { text: '', mono: '' });
  // 4711 is 1267h.
  for (const shown of ['4711', '12 67', '0x1267']) expect(text).not.toContain(shown);
  expect(fan.facts().keys.map(({ why }) => why)).toEqual(['the first answer']);
});

describe('a whole record', () => {
  const whole = async () => {
    const fan = await visitedFan();
    for (const number of ['1.01', '1.03', '22.02', '5.01', '6.01']) fan.read(number);
    fan.write('22.02', 150);
    fan.run('loss-of-link');
    fan.run('stops');
    const said = new Map(
      fan.index.parameters
        .filter(({ cells, role }) => cells.length === 1 && role !== 'control-word')
        .map(({ number, default: raw = 0 }, i) => [
          number,
          { kind: 'value' as const, words: [(i % 7 === 3 ? raw + 1 : raw) & 0xffff], atMs: 0 },
        ]),
    );
    const now = { id: 'now', name: 'now', startedMs: Date.UTC(2026, 10, 20, 8, 30), index: fan.index, said };
    const before = { ...now, id: 'spring', name: 'spring', said: new Map([...said].slice(20)) };
    const visit = {
      by: 'E. Moss',
      remarks: { values: 'The motor is a spare <b>one</b>.' },
      ticks: { covers: { by: 'E. Moss', atMs: 0 } },
    };
    return { fan, input: fan.input(visit, now, [before]) };
  };

  it('is what its schema says, has every section, and is the same to the last byte when it is made again', async () => {
    const { input } = await whole();
    const record = makeRecord(input);
    expect(v.safeParse(RecordSchema, record).issues ?? []).toEqual([]);
    expect(record.sections.map(({ id }) => id)).toEqual([...SECTIONS]);
    const again = makeRecord((await whole()).input);
    expect(recordText(again)).toBe(recordText(record));
  });

  it('links of the wiring that say the same are told apart', async () => {
    const input = (await visitedFan()).input();
    const link = { a: { device: '', port: '' }, b: { device: '', port: '' }, medium: 'copper', lengthM: '' } as const;
    const job = { ...input.job, wiring: { root: 'laptop', ring: false, links: [link, link, link] } };
    const keys = rowsIn(makeRecord({ ...input, job })).map(({ key }) => key);
    expect(keys.filter((key) => key.startsWith('wiring  ')).length).toBe(3);
    expect(new Set(keys).size).toBe(keys.length);
  });

  it('has no line twice under one key, so that two records can be compared', async () => {
    const keys = rowsIn(makeRecord((await whole()).input)).map(({ key }) => key);
    expect(keys.filter((key, i) => keys.indexOf(key) !== i)).toEqual([]);
  });

  it('shows no number that its source does not say', async () => {
    const { fan, input } = await whole();
    const [drive] = input.drives;
    // What each source says, in all the words that the bench has for it.
    const card = JSON.stringify(wordCard(fan.index, 3, '', fan.places));
    const meanings = fan.index.parameters.flatMap((parameter) => {
      const { number, default: factory } = parameter;
      const words = factory === undefined ? null : wordsOfRaw(parameter, factory);
      return [
        ...[...(drive!.now?.said.get(number)?.kind === 'value' ? knownWords(drive!, parameter) : [])].map((word) =>
          wordText(fan.index, parameter, word),
        ),
        ...(words ? [cellsText(fan.index, parameter, words)] : []),
      ];
    });
    const blocks = (input.job.blocks ?? []).map((block) => [
      declarationsOf(block.items, placeOfOwn(block)),
      remarksOn(block),
    ]);
    const job = `${JSON.stringify(input.job)} ${JSON.stringify(checkIpPlan(input.job.ipPlan ?? []))} ${JSON.stringify(blocks)}`;
    const sheet = `${JSON.stringify(fan.index.sheet)} ${JSON.stringify(fan.index.profile)} ${card} ${meanings.join(' ')}`;
    const trace = fan.entries.map(({ bytes, cause }) => `${bytesToHex(bytes)} ${cause}`).join(' ');
    const runs = input.drives[0]!.runs.map(
      ({ index, compiled, run, remark }) => `${JSON.stringify(reportOf(index, compiled, run))} ${remark}`,
    );
    const all = `${job} ${sheet} ${trace} ${runs.join(' ')} ${JSON.stringify(input.visit)}`;
    const known = new Set(numbersIn(all));
    const rows = makeRecord(input)
      .sections.filter(({ id }) => id !== 'scaling')
      .flatMap(({ blocks }) => blocks);
    const strange = rows
      .flatMap((block) => (block.kind === 'table' ? block.rows : []))
      .flatMap(({ key, cells }) =>
        numbersIn(
          cells
            .join(' ')
            .replace(/0x[0-9A-F]+|[01]{4}( [01]{4})+|\b\d{4}-\d\d-\d\d \d\d:\d\d:\d\d|\d+\.\d\d s|[\d.]+ times/g, ''),
        )
          .filter((number) => !known.has(number))
          .map((number) => `${key}: ${number}`),
      );
    expect(strange).toEqual([]);
  });

  it('is not stale: whatever changes in a source changes the lines that are from it, and no others', async () => {
    const { fan, input } = await whole();
    const before = makeRecord(input);
    const [drive] = input.drives;
    const said = new Map([...drive!.now!.said, ['24.08', { kind: 'value' as const, words: [9], atMs: 0 }]]);
    const after = makeRecord({ ...input, drives: [{ ...drive!, now: { ...drive!.now!, said } }] });
    const place = fan.place('24.08');
    expect(recordDifferences(before, after)).toEqual([
      {
        section: 'Settings',
        table: expect.stringMatching(/not as it left the factory$/) as string,
        before: expect.arrayContaining([expect.stringContaining('24.08')]) as string[],
        after: expect.arrayContaining([wordText(fan.index, place, 9)]) as string[],
      },
      expect.objectContaining({
        section: 'Settings',
        after: expect.arrayContaining([wordText(fan.index, place, 9)]) as string[],
      }),
    ]);
    expect(recordDifferences(before, makeRecord({ ...input, madeMs: input.madeMs + 86_400_000 }))).toEqual([]);
    // A time of the drive's own is a setting like any other, also one with two decimals.
    const watch = fan.index.byRole.get('watchdog-time')!;
    const other = (word: number) =>
      makeRecord({
        ...input,
        drives: [
          {
            ...drive!,
            facts: {
              ...drive!.facts,
              words: new Map([...drive!.facts.words, [watch.cells[0]!, { ...drive!.facts.first!, word }]]),
            },
          },
        ],
      });
    expect(recordDifferences(other(25), other(50)).map(({ table }) => table)).toEqual(
      expect.arrayContaining([expect.stringMatching(/longest interval$/) as string]),
    );
  });

  it('has points of each scale that hold by hand: counts of full scale times the share, rounded as the sheet says', async () => {
    const { input } = await whole();
    const rows = rowsIn(makeRecord(input)).filter(({ key }) => key.includes('speed-reference'));
    // Tern: 12287 counts are 55 Hz, cut to whole counts; its highest speed is 50 Hz.
    expect(rows.map(({ cells: [, value = '', raw = ''] }) => [parseFloat(value), raw])).toEqual(
      [5, 25, 50].map((hz) => [hz, `${Math.floor((hz / 55) * 12287)}`]),
    );
  });

  it('is a page that needs nothing, runs nothing, and is opened again as the same record', async () => {
    const record = makeRecord((await whole()).input);
    const page = pageOf(record, 'f'.repeat(64), 'A4', { text: 'data:font/woff2;base64,AAAA', mono: '' });
    const made = new DOMParser().parseFromString(page, 'text/html');
    expect([...made.querySelectorAll('[src], link, iframe, object, embed, form')]).toEqual([]);
    expect([...made.querySelectorAll('script')].map(({ type }) => type)).toEqual(['application/json']);
    expect([...made.querySelectorAll('a')].every((link) => link.getAttribute('href')?.startsWith('#'))).toBe(true);
    expect(made.querySelector('.remark')?.textContent).toBe('The motor is a spare <b>one</b>.');
    for (const { id, title } of record.sections) expect(made.querySelector(`#${id} h2`)?.textContent).toBe(title);
    const rows = [...made.querySelectorAll('main table:not(.parts) tbody tr')].map((row) => row.textContent);
    expect(rows).toHaveLength(rowsIn(record).length);
    expect(readRecord(page)).toEqual({ ok: true, value: record });
    expect(readRecord(recordText(record))).toEqual({ ok: true, value: record });
  });

  it('what is damaged in a file of it is refused with a sentence, five hundred times', async () => {
    const text = recordText(makeRecord((await whole()).input));
    const random = seededRandom(5);
    for (let i = 0; i < 500; i++) {
      const at = pick(random, text.length);
      const bad =
        i % 2 === 0
          ? text.slice(0, at)
          : `${text.slice(0, at)}${['"', '{', ',"x":', '\u0000'][pick(random, 4)] ?? ''}${text.slice(at + 1)}`;
      const read = readRecord(bad);
      // A letter of a text may be another one; then it is a record with that text.
      if (read.ok) expect(v.safeParse(RecordSchema, read.value).success).toBe(true);
      else expect(read.error).toMatch(/^it (?:holds|is) no record: /);
    }
  });
});

it('each kind of drive has what belongs to it: no order of bytes for commands, no reference of an axis, no trial that it cannot run', async () => {
  const line = await standinLine('pipit', 'ascii', [5], { rate: 9600, dataBits: 8, parity: 'N', stopBits: 1 });
  const job = demoJob();
  const jobLine = job.lines.find(({ protocol }) => protocol === 'ascii')!;
  const { protocol, index } = line;
  for (const role of ['actual-position', 'speed-reference'] as const)
    for (const request of protocol.placesOf(index).read(5, [index.byRole.get(role)!])) line.ask(request);
  const reader = new TraceFacts(
    ({ station: number }) => ({ protocol, index, station: number }),
    () => [],
    () => 0,
  );
  line.entries.forEach((entry, sequence) => reader.take({ ...entry, session: 's', line: jobLine.id, sequence }));
  const facts = reader.of(jobLine.id, 5);
  expect(facts.answers).toBe(2);
  const drive = {
    line: jobLine,
    station: jobLine.stations[0]!,
    index,
    protocol,
    facts,
    now: null,
    visits: [],
    writings: [],
    runs: [],
  };
  const record = makeRecord({ job, drives: [drive], photos: [], visit: NO_VISIT, madeMs: 0, zoneMinutes: 0 });
  const titles = record.sections.flatMap(({ blocks }) =>
    blocks.flatMap((block) => ('title' in block ? [block.title] : [])),
  );
  expect(titles).toContain('S1 saw, 5 · fence axis: places');
  const open = rowsIn(record).filter(({ key }) => key.startsWith('open') || key.startsWith('unproved'));
  expect(open.map(({ cells: [, what] }) => what)).not.toContain('its speed reference is 0');
  const unproved = open.flatMap(({ cells: [, what = ''] }) => /^not proved: (.*)$/.exec(what)?.[1] ?? []);
  expect(unproved).toEqual(expect.arrayContaining(['First contact']));
  // It takes no speed: there is no line of speeds to lay.
  expect(unproved).not.toContain('Ramps');
});

it('photographs of a run that was done again stand with the trial, by the time of their run', async () => {
  const fan = await visitedFan();
  fan.run('first-contact');
  const input = fan.input();
  const [drive] = input.drives;
  const [last] = drive!.runs;
  const earlier = { ...last!, id: 'earlier', startedMs: last!.startedMs - 3_600_000 };
  const photo = {
    of: { of: 'run', run: 'earlier' },
    id: 'p',
    caption: 'the plate',
    atMs: 0,
    width: 4,
    height: 3,
  } as const;
  const record = makeRecord({
    ...input,
    drives: [{ ...drive!, runs: [earlier, last!] }],
    photos: [{ ...photo, jpeg: Uint8Array.of(0xff, 0xd8, 0xff) }],
  });
  const blocks = record.sections.find(({ id }) => id === 'trials')?.blocks ?? [];
  expect(blocks.flatMap((block) => (block.kind === 'picture' ? [block.title] : []))).toEqual([
    expect.stringMatching(/First contact, the run of 2026-11-20 \d\d:\d\d:\d\d: the plate$/),
  ]);
});
