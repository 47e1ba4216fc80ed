import { CALM } from '../src/standin/disturbance';
import { rtu } from './harness/line';
import { ABSENT, benchOnLine, FAN, HOIST, type LinePlace } from './harness/bench-on-line';
import { stationKey } from '../src/bench/state/bench-state';
import { planFaults, type Plan } from '../src/core/sets/plan';
import { patternOfCells } from '../src/core/drive/seen';
import { wordsOfRaw, type SaidOf } from '../src/core/sets/said';
import { readTyped } from '../src/core/sets/typed-value';
import { cellsText } from '../src/core/drive/cells-text';
import type { Parameter } from '../src/core/sheet/parameter-section';
import type { SheetIndex } from '../src/core/sheet/index-sheet';
import { changePlan, planOf, registersStore } from '../src/bench/registers/registers-store';
import { pause } from '../src/bench/registers/run-at';
import { goOnReading, nowId, readAll, readSome } from '../src/bench/registers/run-reading';
import { goOnWriting, writePlan, writeToAll } from '../src/features/registers/run-writing';
import type { SetRow, WritingRow } from '../src/store/database';

/** The runs of Registers on a line of stand-ins: what is sent goes over the real master, answers come in the real time of the line. */
async function registersAt(place: LinePlace, factory: Record<string, number> = {}, more: readonly Parameter[] = []) {
  const line = await benchOnLine(place, factory, more);
  const { bench, job, drive } = line;
  const key = stationKey(drive.line, drive.station);
  const id = nowId(job?.id ?? '', key);
  const kept: { sets: SetRow[]; writings: WritingRow[] } = { sets: [], writings: [] };
  Object.assign(bench, {
    sets: {
      set: (of: string) => Promise.resolve([...kept.sets].reverse().find((row) => row.id === of)),
      writing: (of: string) => Promise.resolve([...kept.writings].reverse().find((row) => row.id === of)),
      keepSet: (row: SetRow) => Promise.resolve(void kept.sets.push(row)),
      keepWriting: (row: WritingRow) => Promise.resolve(void kept.writings.push(row)),
    },
  });
  registersStore.setState({
    job: job?.id ?? '',
    sets: new Map(),
    writings: new Map(),
    running: new Map(),
    said: new Map(),
    plans: new Map(),
  });
  return {
    ...line,
    key,
    kept,
    said: (): SaidOf => registersStore.getState().sets.get(id)?.reading.said ?? new Map(),
    row: (): SetRow => registersStore.getState().sets.get(id)!,
    why: (): string => registersStore.getState().said.get(key) ?? '',
    writing: (): WritingRow => [...registersStore.getState().writings.values()].pop()!,
    /** Until nothing runs any more. */
    done: async (): Promise<void> => {
      for (let i = 0; registersStore.getState().running.size > 0; i++) {
        if (i > 20_000) throw new Error('it does not end');
        await new Promise((resolve) => setImmediate(resolve));
      }
    },
  };
}

const rawOf = (index: SheetIndex, said: SaidOf, number: string): number | string => {
  const [parameter, one] = [index.byNumber.get(number), said.get(number)];
  return parameter && one?.kind === 'value'
    ? (patternOfCells(parameter, one.words) ?? 'wide')
    : (one?.kind ?? 'nothing');
};

const planOfRaw = (index: SheetIndex, raw: Record<string, number>): Plan =>
  new Map(
    Object.entries(raw).map(([number, value]) => {
      const parameter = index.byNumber.get(number);
      return [number, { words: (parameter && wordsOfRaw(parameter, value)) ?? [], reason: 'typed' }];
    }),
  );

it('reads all values of a drive over Modbus, and names what it refused', async () => {
  const { bench, drive, index, done, said, row, kept } = await registersAt(FAN, { '11.02': 77 });
  void readAll(bench, drive, index);
  await done();
  expect(said().size).toBe(index.parameters.length);
  expect(ABSENT.map((number) => said().get(number)?.kind)).toEqual(['refused', 'refused', 'refused', 'refused']);
  expect(rawOf(index, said(), '11.02')).toBe(77);
  expect(rawOf(index, said(), '31.07')).toBe(181_402);
  // Whole blocks, not a request a value: 203 values in a quarter of that.
  expect(row().reading.requests).toBeLessThan(55);
  // What is kept is the whole of it.
  expect(kept.sets[kept.sets.length - 1]?.reading.waiting).toEqual([]);
  // Again, with the holes known: no block is refused on the way.
  const first = row().reading.requests;
  void readAll(bench, drive, index);
  await done();
  expect(row().reading.requests).toBeLessThan(first);
});

it('reads all values of a drive over USS, one telegram each', async () => {
  const { bench, drive, index, done, said } = await registersAt(HOIST);
  void readAll(bench, drive, index);
  await done();
  expect(said().size).toBe(index.parameters.length);
  const kinds = [...said()].filter(([, { kind }]) => kind !== 'value').map(([number]) => number);
  // Process data come with every telegram and are no parameters to be asked for; all others were told.
  expect(kinds.filter((number) => !number.startsWith('PZD'))).toEqual([]);
  expect(rawOf(index, said(), '120')).toBe(index.byNumber.get('120')?.default);
  // Every element of an array among them.
  expect(rawOf(index, said(), '220.2')).toBe(index.byNumber.get('220')?.default);
});

it('over USS a plan goes into working memory, or is stored at once; either is proved, and only what is stored outlives the power', async () => {
  const { bench, drive, index, done, said, own, writing } = await registersAt(HOIST);
  await writePlan(bench, drive, 'the hoist', index, planOfRaw(index, { '120': 95, '140.1': 900 }), said());
  await done();
  expect(writing().writing.items.map(({ result }) => result.kind)).toEqual(['equal', 'equal']);
  await writePlan(bench, drive, 'the hoist', index, planOfRaw(index, { '121': 33, '140.2': 901 }), said(), 'kept');
  await done();
  expect(writing().writing.items.map(({ result }) => result.kind)).toEqual(['equal', 'equal']);
  own.yard.drives.get(4)?.powerCycle();
  own.clock.advanceBy(2_000_000);
  void readSome(bench, drive, index, new Set(['120', '121', '140.1', '140.2']));
  await done();
  const now = ['120', '121', '140.1', '140.2'].map((number) => rawOf(index, said(), number));
  expect(now).toEqual([index.byNumber.get('120')?.default, 33, index.byNumber.get('140')?.default, 901]);
});

it('a plan that is to be kept stays so: through a lost reply, a page that went away, and to the other drives', async () => {
  const { bench, drive, index, done, said, own, writing, control, kept } = await registersAt(HOIST);
  let sent = 0;
  // The reply to the first write is lost; at the fourth request the page is gone.
  control.before = () => {
    own.yard.bus.disturbance = ++sent === 1 ? { ...CALM, loseReply: 1 } : CALM;
    if (sent === 4) bench.state.setState({ lines: new Map() });
  };
  const { lines } = bench.state.getState();
  const plan = planOfRaw(index, { '121': 33, '140.2': 901, '140.3': 902 });
  await writePlan(bench, drive, 'the hoist', index, plan, said(), 'kept');
  await done();
  expect(writing().writing.items.every(({ result }) => result.kind === 'equal')).toBe(false);
  control.before = null;
  own.yard.bus.disturbance = CALM;
  bench.state.setState({ lines });
  await goOnWriting(bench, drive, index, writing());
  await done();
  expect(writing().writing.items.map(({ result }) => result.kind)).toEqual(['equal', 'equal', 'equal']);
  await writeToAll(
    bench,
    [{ drive, name: 'another', index, plan: planOfRaw(index, { '140.1': 900 }), known: said() }],
    'kept',
  );
  await done();
  expect(new Set(kept.writings.map(({ memory }) => memory))).toEqual(new Set(['kept']));
  own.yard.drives.get(4)?.powerCycle();
  own.clock.advanceBy(2_000_000);
  const numbers = ['121', '140.1', '140.2', '140.3'];
  void readSome(bench, drive, index, new Set(numbers));
  await done();
  expect(numbers.map((number) => rawOf(index, said(), number))).toEqual([33, 900, 901, 902]);
});

it('a part of the values is read alone, and the others stay as they were', async () => {
  const { bench, drive, index, done, said, row } = await registersAt(FAN);
  void readAll(bench, drive, index);
  await done();
  const before = said();
  void writePlan(bench, drive, 'the fan', index, planOfRaw(index, { '11.02': 90 }), before);
  await done();
  void readSome(bench, drive, index, new Set(['11.02', '11.05']));
  await done();
  expect(row().reading.of).toBe(index.parameters.length);
  expect(rawOf(index, said(), '11.02')).toBe(90);
  expect([...said()].filter(([number, one]) => before.get(number) !== one).map(([number]) => number)).toEqual([
    '11.02',
    '11.05',
  ]);
});

it('pauses, says so, and goes on where it was', async () => {
  const { bench, drive, index, done, said, row, key, control, why } = await registersAt(FAN);
  let sent = 0;
  control.before = () => {
    if (++sent === 5) pause(key);
  };
  void readAll(bench, drive, index);
  await done();
  expect(why()).toBe('paused');
  const known = said().size;
  expect(known).toBeGreaterThan(0);
  expect(known).toBeLessThan(index.parameters.length);
  void goOnReading(bench, drive, index, row());
  await done();
  expect(said().size).toBe(index.parameters.length);
});

it('a part that is read meanwhile leaves a reading that was broken off as it was: it still goes on', async () => {
  const { bench, drive, index, done, said, row, key, control } = await registersAt(FAN);
  let sent = 0;
  control.before = () => {
    if (++sent === 5) pause(key);
  };
  void readAll(bench, drive, index);
  await done();
  const left = row().reading.waiting.flat();
  control.before = null;
  const [first = ''] = left;
  void readSome(bench, drive, index, new Set([first, '11.02']));
  await done();
  expect(row().reading.waiting.flat()).toEqual(left.filter((number) => number !== first && number !== '11.02'));
  void goOnReading(bench, drive, index, row());
  await done();
  expect(said().size).toBe(index.parameters.length);
});

it('nothing begins while something else runs at the drive, and while another tab is at it', async () => {
  const { bench, drive, index, done, said, why, control } = await registersAt(FAN);
  let second: Promise<string> | null = null;
  control.before = () => {
    second ??= readAll(bench, drive, index);
  };
  void readAll(bench, drive, index);
  await done();
  await expect(second).resolves.toBe('something else is under way');
  expect(said().size).toBe(index.parameters.length);
  control.before = null;
  const held = { request: (_: string, __: object, work: (lock: null) => unknown) => work(null) };
  Object.defineProperty(globalThis, 'navigator', { value: { locks: held }, configurable: true });
  await readAll(bench, drive, index);
  Reflect.deleteProperty(globalThis, 'navigator');
  expect(why()).toBe('another tab reads or writes this drive now');
  // It ends: the other tab is done.
  await expect(readAll(bench, drive, index)).resolves.toBe('');
});

// 0x000D makes the fan run, 0x0004 stops it; whoever commands it by its keypad confirms both and does neither.
it('another one is not put in command while the drive holds a word that asks it to run, however old what was seen is', async () => {
  const { bench, drive, index, said, writing, own, done } = await registersAt(FAN, { '2.01': 0 });
  own.ask(rtu('03 06 02C1 000D'));
  const plan = planOfRaw(index, { '11.02': 90, '2.01': 2 });
  await writePlan(bench, drive, 'the fan', index, plan, said());
  const result = () => Object.fromEntries(writing().writing.items.map((item) => [item.number, item.result]));
  expect(result()).toMatchObject({
    '11.02': { kind: 'equal' },
    '2.01': {
      kind: 'not-reached',
      why: expect.stringMatching(/^not sent: the control word that it holds, 0x000D/) as string,
    },
  });
  expect(own.yard.drives.get(3)?.isTurning()).toBe(false);
  // It ends: a stop word was sent, and just what was held back is tried again.
  own.ask(rtu('03 06 02C1 0004'));
  const before = own.entries.length;
  void goOnWriting(bench, drive, index, writing());
  await done();
  expect(result()['2.01']).toMatchObject({ kind: 'equal' });
  const written = own.entries
    .slice(before)
    .filter(({ direction, bytes, cause }) => direction === 'sent' && bytes[1] === 6 && cause === 'test');
  expect(written.map(({ bytes }) => bytes[3])).toEqual([0x81]);
  expect(own.yard.drives.get(3)?.isTurning()).toBe(false);
});

it('a control word that cannot be read holds it back too, and a sent one lets it go', async () => {
  const { bench, drive, index, said, writing, own, control, done } = await registersAt(FAN, { '2.01': 0 });
  // The line loses every answer to the read of 11.01.
  let lost = 0;
  control.before = () => {
    lost++;
    own.yard.bus.disturbance = { ...CALM, loseReply: lost === 1 ? 1 : 0 };
  };
  await writePlan(bench, drive, 'the fan', index, planOfRaw(index, { '2.01': 2 }), said());
  expect(writing().writing.items[0]?.result).toMatchObject({
    kind: 'not-reached',
    why: expect.stringMatching(/is not known: send a stop word in Words first$/) as string,
  });
  void goOnWriting(bench, drive, index, writing());
  await done();
  expect(writing().writing.items[0]?.result).toMatchObject({ kind: 'equal' });
});

it('what is taken at standstill only waits while the shaft is seen to turn', async () => {
  const { bench, drive, index, said, writing, own, done, key } = await registersAt(FAN, { '2.01': 2, '2.02': 2 });
  const status = index.byRole.get('status-word')?.cells[0];
  const seen = (word: number): void =>
    bench.state.setState({
      views: new Map([
        [
          key,
          {
            values: new Map(status ? [[status, { word, atUs: 0 }]] : []),
            misses: 0,
            lastAnswerUs: 0,
            before: new Map(),
          },
        ],
      ]),
    });
  own.ask(rtu('03 06 02C1 000D'));
  own.ask(rtu('03 06 02C3 0F45'));
  seen(own.ask(rtu('03 03 0182 0001')).said?.values?.[0] ?? 0);
  await writePlan(bench, drive, 'the fan', index, planOfRaw(index, { '11.04': 700 }), said());
  expect(writing().writing.items[0]?.result).toMatchObject({
    kind: 'not-reached',
    why: 'not sent: it is taken at standstill only, and the shaft turns',
  });
  own.ask(rtu('03 06 02C1 0004'), 20_000);
  seen(own.ask(rtu('03 03 0182 0001')).said?.values?.[0] ?? 0);
  void goOnWriting(bench, drive, index, writing());
  await done();
  expect(writing().writing.items[0]?.result).toMatchObject({ kind: 'equal' });
});

it('Stop ends a reading between two requests, and a closed line does', async () => {
  const { bench, drive, index, done, said, control, why } = await registersAt(FAN);
  let sent = 0;
  control.before = () => {
    if (++sent === 4) bench.state.setState({ stops: [{ line: drive.line, cause: 'Stop', outcomes: [], over: false }] });
  };
  void readAll(bench, drive, index);
  await done();
  expect(why()).toBe('Stop ended it');
  expect(said().size).toBeLessThan(index.parameters.length);
  control.before = () => bench.state.setState({ lines: new Map() });
  void readAll(bench, drive, index);
  await done();
  expect(why()).toBe('the line is closed');
});

it('writes a plan in its order, reads each back, and takes what is proved out of the plan', async () => {
  const { bench, drive, index, done, said, writing, key } = await registersAt(FAN);
  void readAll(bench, drive, index);
  await done();
  // The key opens the regulator; the switching rate is limited, a timer rounded; 22.13 is not fitted.
  const plan = planOfRaw(index, { '26.02': 250, '30.05': 2718, '29.09': 99, '27.01': 13, '22.13': 1, '11.02': 90 });
  changePlan(key, () => plan);
  expect(planFaults(index, plan, said()).filter(({ isBad }) => isBad)).toEqual([]);
  void writePlan(bench, drive, 'the fan', index, plan, said());
  await done();
  const result = Object.fromEntries(writing().writing.items.map((item) => [item.number, item.result]));
  expect(writing().writing.items[0]?.number).toBe('30.05');
  expect(result).toMatchObject({
    '30.05': { kind: 'equal' },
    '26.02': { kind: 'equal' },
    '11.02': { kind: 'equal' },
    '29.09': { kind: 'kept-as', words: [16] },
    '27.01': { kind: 'kept-as', words: [15] },
    '22.13': { kind: 'refused' },
  });
  expect([...planOf(key).present.keys()].sort()).toEqual(['22.13', '27.01', '29.09']);
  // What was read back is what the drive holds now.
  expect(rawOf(index, said(), '11.02')).toBe(90);
});

it('what resets others is followed by them, and the drive shows what it reset', async () => {
  const { bench, drive, index, done, said } = await registersAt(FAN, { '29.01': 500 });
  void writePlan(bench, drive, 'the fan', index, planOfRaw(index, { '29.02': 33, '30.06': 1 }), said());
  await done();
  void readSome(bench, drive, index, new Set(['29.01', '29.02']));
  await done();
  // 29.01 went back to the factory's 80; 29.02 was written after the preset.
  expect([rawOf(index, said(), '29.01'), rawOf(index, said(), '29.02')]).toEqual([80, 33]);
});

it('a plan for several drives goes to one after another, and ends where one of them ends', async () => {
  const { bench, drive, index, said, writing, control, done } = await registersAt(FAN);
  const target = (name: string, raw: Record<string, number>) => ({
    drive,
    name,
    index,
    plan: planOfRaw(index, raw),
    known: said(),
  });
  const first = { '11.02': 90, '29.01': 91 };
  await writeToAll(bench, [target('first', first), target('second', first)]);
  const names = () => [...registersStore.getState().writings.values()].map(({ name }) => name);
  expect(names()).toEqual(['first', 'second']);
  expect(writing().writing.items.every(({ result }) => result.kind === 'equal')).toBe(true);
  registersStore.setState({ writings: new Map() });
  let sent = 0;
  control.before = () => {
    if (++sent === 2) bench.state.setState({ lines: new Map() });
  };
  const next = { '11.02': 70, '29.01': 71 };
  await writeToAll(bench, [target('third', next), target('fourth', next)]);
  await done();
  expect(names()).toEqual(['third']);
});

it.each(Array.from({ length: 14 }, (_, i) => i + 1))(
  'a page that is gone at exchange %i of a writing tells nothing untrue, and goes on without writing twice what arrived',
  async (cut) => {
    const { bench, drive, index, said, kept, control, writing, done, own } = await registersAt(FAN);
    const raw = { '11.02': 91, '29.01': 92, '28.01': 70, '28.02': 93, '30.03': 1234, '29.06': 41 };
    let sent = 0;
    control.before = () => {
      control.isCut ||= ++sent === cut;
    };
    void writePlan(bench, drive, 'the fan', index, planOfRaw(index, raw), said());
    for (let i = 0; i < 2000 && !control.isCut && registersStore.getState().running.size > 0; i++)
      await new Promise((resolve) => setImmediate(resolve));
    // The new page has only what was kept.
    const left = kept.writings[kept.writings.length - 1]!;
    for (const { number, result, words } of left.writing.items) {
      const parameter = index.byNumber.get(number)!;
      const held = own.ask(readOf(index, number)).said?.values ?? [];
      if (result.kind === 'equal') expect(held).toEqual(words);
      if (result.kind === 'waiting') expect(held).toEqual(wordsOfRaw(parameter, parameter.default ?? 0));
    }
    Object.assign(control, { before: null, isCut: false });
    registersStore.setState({ running: new Map(), writings: new Map([[left.id, left]]) });
    const before = own.entries.length;
    void goOnWriting(bench, drive, index, left);
    await done();
    expect(writing().writing.items.every(({ result }) => result.kind === 'equal')).toBe(true);
    const again = own.entries
      .slice(before)
      .filter(({ direction, bytes }) => direction === 'sent' && bytes[1] === 6).length;
    const proved = left.writing.items.filter(({ result }) => result.kind === 'equal').length;
    expect(again).toBeLessThanOrEqual(left.writing.items.length - proved);
  },
);

/** A read of one value's register, as any master would send it. */
const readOf = (index: SheetIndex, number: string): Uint8Array => {
  const place = index.byNumber.get(number)?.place;
  const address = place?.kind === 'register' ? place.address : 0;
  const bytes = [3, 3, address >> 8, address & 0xff, 0, 1];
  let crc = 0xffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let i = 0; i < 8; i++) crc = crc & 1 ? (crc >> 1) ^ 0xa001 : crc >> 1;
  }
  return Uint8Array.from([...bytes, crc & 0xff, crc >> 8]);
};

it('values that no number of 32 bits holds are planned, written in one request each, and read back', async () => {
  const at = (address: number) => [{ kind: 'register' as const, table: 'holding-register' as const, address }];
  const wide = (number: string, address: number, rest: Partial<Parameter>): Parameter => ({
    number,
    name: `wide ${number}`,
    type: 'uint64',
    write: 'always',
    kept: true,
    at: at(address),
    ...rest,
  });
  const more = [
    wide('90.01', 40_001, { type: 'uint64', order: 'GHEFCDAB' }),
    wide('90.02', 40_011, { type: 'text', size: 5, order: 'BA' }),
    wide('90.03', 40_021, { type: 'float64', unit: 'm' }),
    wide('90.04', 40_031, { type: 'bytes', size: 2 }),
    wide('90.05', 40_041, { type: 'int64', unit: 'kWh', scale: { kind: 'resolution', value: '0.1' } }),
    wide('90.06', 40_051, { type: 'time-fields' }),
    wide('90.07', 40_061, { type: 'time-of-day' }),
    wide('90.08', 40_071, { type: 'date-bcd', order: 'CDAB' }),
    wide('90.09', 40_081, { type: 'date-bits' }),
  ];
  const { bench, drive, index, done, writing, own, said } = await registersAt(FAN, {}, more);
  // 2^53 + 1 is the first whole number that a double does not hold.
  const typed = {
    '90.01': '9007199254740993',
    '90.02': 'KILN 7',
    '90.03': '0.1 m',
    '90.04': 'C0 FF EE 01',
    '90.05': '900719925474099.3 kWh',
    '90.06': '2026-01-03 07:40:59',
    '90.07': '2026-01-03 07:40:59',
    '90.08': '2026-01-03',
    '90.09': '2026-01-03',
  };
  const plan = new Map(
    Object.entries(typed).map(([number, text]) => {
      const read = readTyped(index, index.byNumber.get(number)!, text, () => undefined);
      if (!read.ok) throw new Error(read.error);
      return [number, { words: read.value, reason: 'typed' }];
    }),
  );
  expect(planFaults(index, plan, new Map(), new Map())).toEqual([]);
  void writePlan(bench, drive, 'fan', index, plan, new Map());
  await done();
  expect(writing().writing.items.map(({ number, result, writes }) => [number, result.kind, writes])).toEqual(
    more.map(({ number }) => [number, 'equal', 1]),
  );
  void readSome(bench, drive, index, new Set(more.map(({ number }) => number)));
  await done();
  const shown = more.map(({ number }) => {
    const [parameter, one] = [index.byNumber.get(number)!, said().get(number)];
    return one?.kind === 'value' ? cellsText(index, parameter, one.words) : one?.kind;
  });
  expect(shown).toEqual([
    '9007199254740993',
    '“KILN 7”',
    '0.1 m',
    'c0 ff ee 01',
    '9007199254740993 = 900719925474099.3 kWh',
    '2026-01-03 07:40:59',
    '2026-01-03 07:40:59',
    '2026-01-03',
    '2026-01-03',
  ]);
  // Function 16 with as many registers as the value has, function 6 for the one of a single register: none of them is written in halves.
  const written = own.entries.flatMap(({ bytes, direction }) =>
    direction === 'sent' && bytes[1] === 16 ? [bytes[5]] : [],
  );
  expect(written).toEqual([4, 5, 4, 2, 4, 6, 3, 2]);
});
