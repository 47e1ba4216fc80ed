import { wordsOfPattern } from '../src/core/values/pattern';
import { cycleBlocks, cycleRequests, type CycleWay } from '../src/core/process-image/cycle-blocks';
import { blocksInTurn } from '../src/core/process-image/life-sign';
import { cycleProcedure, INPUT } from '../src/core/procedure/cycle-procedure';
import { RTU } from '../src/core/modbus/framing';
import { wordMayTurn } from '../src/core/drive/turning';
import { patternIn } from '../src/core/drive/seen';
import { CALM } from '../src/standin/disturbance';
import type { ParameterRole } from '../src/core/sheet/parameter-section';
import { indexSheet } from '../src/core/sheet/index-sheet';
import { listProcedure } from '../src/core/procedure/list-procedures';
import type { RegisterBank } from '../src/standin/rtu-server';
import { K1, rtu } from './harness/line';
import { shippedIndex, standinLine } from './harness/standin-line';

const PLACES = {
  tern: { protocol: 'modbus-rtu', station: 3, factory: { '2.01': 2, '2.02': 2, '5.01': 3 }, end: K1 },
  curlew: { protocol: 'modbus-rtu', station: 1, factory: { '100': 1 }, end: K1 },
  dunlin: { protocol: 'uss', station: 4, factory: {}, end: { rate: 38400, dataBits: 8, parity: 'E', stopBits: 1 } },
  'dunlin-telegram-3': {
    protocol: 'uss',
    station: 4,
    factory: {},
    end: { rate: 38400, dataBits: 8, parity: 'E', stopBits: 1 },
  },
} as const;
type Slug = keyof typeof PLACES;

/** A controller that is played at a stand-in, over the real master on a virtual clock. */
async function played(
  slug: Slug,
  way: CycleWay = 'two',
  everyMs = 100,
  lostMost = 2,
  /** Which of the drive's blocks. */
  which = 0,
  life: { readonly own: ParameterRole; readonly back: ParameterRole; readonly cycles: number } | null = null,
) {
  const { protocol, station, factory, end } = PLACES[slug];
  const line = await standinLine(slug, protocol, [station], end, 1, end, factory);
  const made = cycleBlocks(line.index);
  if (!made.ok) throw new Error(made.error);
  const blocks = made.value[which]!;
  const drive = line.yard.drives.get(station)!;
  /** The block with these words by role, 0 elsewhere but what the drive has. */
  const block = (words: Readonly<Record<string, number>>): readonly number[] =>
    blocks.out.map(({ cell, parameter }) => {
      if (!parameter) return 0;
      const pattern = (parameter.role && words[parameter.role]) ?? parameter.default ?? 0;
      const own = wordsOfPattern(pattern, parameter.cells.length, parameter.order);
      return own[parameter.cells.indexOf(cell)] ?? own[0]!;
    });
  const begin = (words: Readonly<Record<string, number>>, id = 'cycle'): void => {
    const at = blocks.out.findIndex(({ parameter }) => parameter?.role === life?.own);
    const inTurn = blocksInTurn(block(words), life && { at, sign: { kind: 'count', lowest: 12, bits: 4, least: 1 } });
    const requests = cycleRequests(blocks, station, inTurn, way, RTU, line.index.sheet.uss?.pkwWords);
    if (!requests.ok) throw new Error(requests.error);
    const [cell] = (life && line.index.byRole.get(life.back)?.cells) ?? [];
    line.master.startProcedure(
      cycleProcedure(station, 'the controller', requests.value, {
        everyMs,
        lostMost,
        turns: wordMayTurn(line.index, words['control-word'] ?? 0),
        life: cell && life ? { cell, cycles: life.cycles } : null,
      }),
      id,
    );
  };
  const last = () => line.runs[line.runs.length - 1]!;
  const input = (role: 'actual-speed' | 'status-word'): number | undefined => {
    const told = new Map(last().kept[INPUT]);
    return patternIn(line.index.byRole.get(role)!, (cell) => told.get(cell));
  };
  const word = (name: RegExp): number => line.index.commands.find((command) => name.test(command.name))!.word;
  const sent = (since = 0) => line.entries.slice(since).filter(({ direction }) => direction === 'sent');
  return { ...line, blocks, station, drive, begin, last, input, word, sent };
}

/** Words that run each drive, one after the other, as its profile wants them. */
const WALK: Readonly<Record<'tern' | 'dunlin', readonly RegExp[]>> = {
  tern: [/make ready/, /run forward/],
  dunlin: [/OFF1|stand/i, /run|on$/i],
};

it('blocks are the registers around control and status word that the sheet knows, or the words of the process data', () => {
  const tern = cycleBlocks(shippedIndex('tern'));
  expect(tern).toMatchObject({
    ok: true,
    value: [{ kind: 'registers', outFirst: 705, inFirst: 385, inTable: 'holding-register' }],
  });
  expect(tern.ok && tern.value[0]!.out.map(({ parameter }) => parameter?.number)).toEqual(['11.01', '11.02', '11.03']);
  expect(tern.ok && tern.value[0]!.in.map(({ parameter }) => parameter?.number)).toEqual([
    '6.01',
    '6.02',
    '6.03',
    '6.04',
    '6.05',
  ]);
  const dunlin = cycleBlocks(shippedIndex('dunlin'));
  expect(dunlin).toMatchObject({ ok: true, value: [{ kind: 'process-data' }] });
  expect(cycleBlocks(shippedIndex('pipit'))).toMatchObject({ ok: false });
});

it.each<['tern' | 'dunlin' | 'dunlin-telegram-3', CycleWay, number]>([
  ['tern', 'two', 4000],
  ['tern', 'one', 4000],
  ['dunlin', 'two', 4000],
  ['dunlin-telegram-3', 'two', 0x1000_0001],
])(
  '%s, %s: the drive follows the block, its input comes back, and the mean cycle is kept within 1 %%',
  async (slug, way, reference) => {
    const own = await played(slug, way);
    const { profile } = own.index;
    // The words that lead to running, from the profile itself: the block is changed word by word, as a controller's program does it.
    const words = slug === 'tern' ? WALK.tern.map((name) => own.word(name)) : [0x047e, 0x047f];
    own.begin({ 'control-word': words[0]!, 'speed-reference': reference }, 'first');
    own.clock.advanceBy(2_000_000);
    own.begin({ 'control-word': words[1]!, 'speed-reference': reference }, 'second');
    own.clock.advanceBy(20_000_000);
    expect(profile).not.toBeNull();
    expect(own.drive.isTurning()).toBe(true);
    expect(own.last()).toMatchObject({ id: 'second', phase: 'running' });
    expect(own.input('actual-speed')).toBeGreaterThan(0);
    const { cycle } = own.last();
    expect(cycle!.lost).toBe(0);
    expect(cycle!.missed).toBe(0);
    expect(Math.abs(cycle!.sumUs / cycle!.intervals / 100_000 - 1)).toBeLessThan(0.01);
    expect(cycle!.worstUs).toBeGreaterThanOrEqual(cycle!.leastUs);
    // The cycle alone repeats the run word: nothing else calms the drive's watch.
    expect(own.sent().filter(({ cause }) => cause === 'keep-alive')).toEqual([]);
    expect(own.master.snapshot()).toMatchObject({ cycled: own.station, keepAlives: [] });
  },
);

it('a cycle that takes longer than its beat leaves beats out, and says how many and how long the worst was', async () => {
  const own = await played('tern', 'two', 20);
  own.begin({ 'control-word': own.word(/stop on the ramp/) });
  own.clock.advanceBy(4_000_000);
  const { cycle } = own.last();
  expect(cycle!.missed).toBeGreaterThan(0);
  // Two exchanges at 19200 bit/s take more than 20 ms: every other beat is left out.
  expect(cycle!.leastUs).toBeGreaterThanOrEqual(20_000);
  expect((cycle!.intervals + cycle!.missed) * 20_000).toBeGreaterThan(3_900_000);
});

describe('a run word in the block obeys the rules of motion', () => {
  const running = async () => {
    const own = await played('tern');
    own.begin({ 'control-word': own.word(/make ready/), 'speed-reference': 4000 }, 'first');
    own.clock.advanceBy(1_000_000);
    own.begin({ 'control-word': own.word(/run forward/), 'speed-reference': 4000 }, 'run');
    own.clock.advanceBy(3_000_000);
    expect(own.drive.isTurning()).toBe(true);
    return own;
  };
  const runWordsSince = (own: Awaited<ReturnType<typeof running>>, since: number) =>
    own.sent(since).filter(({ bytes }) =>
      own.protocol
        .placesOf(own.index)
        .written(bytes)
        .some(
          ([cell, word]) => cell === own.index.byRole.get('control-word')!.cells[0] && word === own.word(/run forward/),
        ),
    );

  it('Stop ends it and the shaft stands', async () => {
    const own = await running();
    const since = own.entries.length;
    own.master.stop(3);
    own.clock.advanceBy(30_000_000);
    expect(own.last()).toMatchObject({ phase: 'over', end: 'stop' });
    expect(own.drive.isTurning()).toBe(false);
    expect(runWordsSince(own, since)).toEqual([]);
  });

  it('ended by hand, as a controller that is put to stop, it stops the shaft by the sheet’s stop words', async () => {
    const own = await running();
    own.master.tellProcedure('run', { kind: 'end' });
    own.clock.advanceBy(30_000_000);
    expect(own.drive.isTurning()).toBe(false);
    expect(own.stops.at(-1)).toMatchObject({ over: true, outcomes: [{ station: 3, outcome: 'stopped' }] });
    expect(own.master.snapshot()).toMatchObject({ driven: [], cycled: null });
  });

  it('answers that stay away end it after as many as it may lose, and what comes of Stop is told', async () => {
    const own = await running();
    const since = own.entries.length;
    own.yard.disturb({ ...CALM, open: 'everywhere' });
    own.clock.advanceBy(5_000_000);
    expect(own.last()).toMatchObject({
      phase: 'over',
      end: 'surprise',
      why: '3 cycles in a row came without an answer',
    });
    expect(own.last().cycle).toMatchObject({ lost: 3, lostInARow: 3 });
    own.yard.disturb(CALM);
    own.clock.advanceBy(60_000_000);
    // The line is back: nothing of the cycle comes back with it.
    expect(runWordsSince(own, since).length).toBeLessThanOrEqual(3);
    expect(own.drive.isTurning()).toBe(false);
  });

  it('a word that is sent by hand takes the drive over, and the cycle is over', async () => {
    const own = await running();
    const request = own.protocol
      .placesOf(own.index)
      .write(3, own.index.byRole.get('control-word')!, own.word(/stop on the ramp/), () => undefined)!;
    own.ask(request);
    own.clock.advanceBy(30_000_000);
    expect(own.last()).toMatchObject({ phase: 'over', end: 'replaced', why: 'a word was sent to the drive by hand' });
    expect(own.drive.isTurning()).toBe(false);
  });

  it('a fault of the drive ends it: who clears it at the drive does not set it going', async () => {
    const own = await running();
    // Nothing is heard by the drive for longer than its watch waits.
    own.master.tellProcedure('run', { kind: 'pause' });
    own.clock.advanceBy(8_000_000);
    const since = own.entries.length;
    own.master.tellProcedure('run', { kind: 'resume' });
    own.clock.advanceBy(10_000_000);
    expect(own.last()).toMatchObject({ phase: 'over', end: 'surprise', why: 'the drive reports a fault' });
    expect(runWordsSince(own, since).length).toBeLessThanOrEqual(1);
    expect(own.drive.isTurning()).toBe(false);
  });

  it('a closed line, and one that sleeps, end it, and nothing resumes', async () => {
    const own = await running();
    own.master.fellAsleep(5);
    own.master.awoke();
    const since = own.entries.length;
    own.clock.advanceBy(10_000_000);
    expect(own.last()).toMatchObject({ phase: 'over', end: 'asleep' });
    expect(runWordsSince(own, since)).toEqual([]);
    await own.master.close();
    expect(own.master.snapshot()).toMatchObject({ open: false, cycled: null });
  });

  it('a drive that was off for a moment is not set going again by a cycle that may lose many', async () => {
    const own = await played('tern', 'two', 200, 10);
    own.begin({ 'control-word': own.word(/make ready/), 'speed-reference': 4000 }, 'first');
    own.clock.advanceBy(1_000_000);
    own.begin({ 'control-word': own.word(/run forward/), 'speed-reference': 4000 }, 'run');
    own.clock.advanceBy(3_000_000);
    const since = own.entries.length;
    own.drive.powerOff();
    own.clock.advanceBy(1_500_000);
    own.drive.powerCycle();
    own.clock.advanceBy(30_000_000);
    expect(own.last()).toMatchObject({
      phase: 'over',
      end: 'surprise',
      why: expect.stringMatching(/^no answer for 1\.\d s: the drive may have been off/) as string,
    });
    expect(own.drive.isTurning()).toBe(false);
    // No round began later than a second after the last answer; its request took its time on the wire.
    const last = runWordsSince(own, since).at(-1)!;
    expect(last.atUs).toBeLessThan(own.last().cycle!.goodUs! + 1_030_000);
  });

  it('another procedure on the line, or the cycle of another drive, stops the shaft first and is refused meanwhile', async () => {
    const own = await running();
    own.master.startProcedure(
      listProcedure([{ station: 3, bytes: rtu('03 03 0182 0001'), name: 'a read' }], 20, false),
      'list',
    );
    expect(own.runs.find(({ id, phase }) => id === 'run' && phase === 'over')).toMatchObject({
      end: 'surprise',
      why: 'another procedure was begun',
    });
    expect(own.last()).toMatchObject({ id: 'list', phase: 'over', end: 'stop' });
    own.clock.advanceBy(30_000_000);
    expect(own.drive.isTurning()).toBe(false);
    expect(own.stops.at(-1)).toMatchObject({ over: true, outcomes: [{ outcome: 'stopped' }] });
    // One Stop, however it came: by the answer that ends it, or by a word to a run that is over.
    own.master.tellProcedure('run', { kind: 'pause' });
    expect(own.entries.filter(({ outcome }) => outcome === 'stop-pressed')).toHaveLength(1);
    own.master.startProcedure(
      listProcedure([{ station: 3, bytes: rtu('03 03 0182 0001'), name: 'a read' }], 20, false),
      'again',
    );
    own.clock.advanceBy(1_000_000);
    expect(own.last()).toMatchObject({ id: 'again', end: 'done' });
  });
});

it('no block carries what is given once, what is taken at standstill only, or what wears memory', () => {
  const wren = cycleBlocks(shippedIndex('wren'));
  // Its mode is taken at standstill only: a run word beside it would be refused at every beat.
  expect(wren.ok && wren.value[0]!.out.map(({ parameter }) => parameter?.name)).toEqual([
    'control word',
    'target speed',
  ]);
  const { sheet } = shippedIndex('tern');
  const without = (sheet.parameters ?? []).filter(({ role }) => role !== 'keep');
  const tern = cycleBlocks(indexSheet({ ...sheet, parameters: without }));
  // Without an order to keep, its ramp time would be kept at each write: the reference behind it is not reached then.
  expect(tern.ok && tern.value[0]!.out.map(({ parameter }) => parameter?.name)).toEqual(['control word']);
});

describe('over the lists that Curlew gathers', () => {
  const LISTS = 1;
  // CiA 402 (IEC 61800-7-201): shutdown, switch on, enable operation.
  const WALK_402 = [0x06, 0x07, 0x0f];
  const MOVING = 0x7f;
  const running = async (cycles = 10) => {
    const own = await played('curlew', 'two', 50, 2, LISTS, { own: 'life-sign', back: 'life-sign-back', cycles });
    WALK_402.forEach((word, i) => {
      own.begin({ 'control-word': word, mode: 2 }, `walk ${i}`);
      own.clock.advanceBy(500_000);
    });
    own.begin({ 'control-word': MOVING, mode: 2, 'speed-reference': 4096 }, 'run');
    own.clock.advanceBy(3_000_000);
    return own;
  };

  it('the drive runs by its list, its values come back in the other, and the bench knows that it set it in motion', async () => {
    const own = await running();
    expect(own.blocks).toMatchObject({ outFirst: 3000, inFirst: 3020 });
    expect(own.drive.isTurning()).toBe(true);
    expect(own.input('actual-speed')).toBe(4096);
    expect(own.master.snapshot()).toMatchObject({ driven: [1], cycled: 1, keepAlives: [] });
    const since = own.entries.length;
    own.master.stop(1);
    own.clock.advanceBy(10_000_000);
    expect(own.last()).toMatchObject({ phase: 'over', end: 'stop' });
    expect(own.drive.isTurning()).toBe(false);
    // Not one write of the list after it.
    expect(own.sent(since).filter(({ bytes }) => bytes[1] === 0x10)).toEqual([]);
  });

  it('the sign of life counts 1 to 15 and begins again, and comes back', async () => {
    const own = await running();
    const signs = own
      .sent()
      .filter(({ bytes }) => bytes[1] === 0x10)
      .map(({ bytes }) => bytes[bytes.length - 4]! >> 4);
    const ofRun = signs.slice(-30);
    expect([...ofRun.slice(0, 15)].sort((a, b) => a - b)).toEqual(Array.from({ length: 15 }, (_, i) => i + 1));
    expect(ofRun.slice(15)).toEqual(ofRun.slice(0, 15));
    const back = own.index.byRole.get('life-sign-back')!.cells[0]!;
    const { changedUs, inputUs } = own.last().cycle!;
    expect(new Map(changedUs).get(back)).toBe(inputUs);
  });

  it('a drive whose sign of life stands is given up after so many cycles, and stopped', async () => {
    const own = await running(4);
    expect(own.last()).toMatchObject({ id: 'run', phase: 'running' });
    // The drive answers still, and nothing in it goes on: what it gives back stays the same.
    const bank = own.drive as unknown as RegisterBank;
    const write = bank.write.bind(bank);
    const spy = jest
      .spyOn(bank, 'write')
      .mockImplementation((address, words, table) => (address === 3000 ? 0 : write(address, words, table)));
    own.clock.advanceBy(2_000_000);
    const over = own.runs.find(({ id, phase }) => id === 'run' && phase === 'over')!;
    expect(over).toMatchObject({ end: 'surprise', why: 'the drive’s sign of life has been the same for 0.2 s' });
    own.clock.advanceBy(20_000_000);
    spy.mockRestore();
    expect(own.drive.isTurning()).toBe(false);
    expect(own.stops.at(-1)).toMatchObject({ over: true, outcomes: [{ outcome: 'stopped' }] });
  });

  it('lists that are not in use are refused, and the cycle says that no answers come', async () => {
    const { factory } = PLACES.curlew;
    const line = await standinLine('curlew', 'modbus-rtu', [1], K1, 1, K1, { ...factory, '100': 0 });
    line.ask(rtu('01 03 0BCC 0007'));
    line.ask(rtu('01 10 0BB8 0001 02 0006'));
    line.clock.advanceBy(1_000_000);
    expect(line.results.map(({ said }) => said?.exception)).toEqual([2, 2]);
    // What the lists gather is reached where it is at home.
    line.ask(rtu('01 03 0829 0001'));
    line.clock.advanceBy(1_000_000);
    expect(line.results.at(-1)?.outcome).toBe('answered');
  });

  it.each([
    ['written', { '101': 150 }, 32],
    ['read', { '102': 150 }, 33],
  ] as const)('a list that is not %s in time is a fault of the drive, which says which', async (way, times, code) => {
    // Its own watch over the connection is off: only the lists are watched.
    const line = await standinLine('curlew', 'modbus-rtu', [1], K1, 1, K1, { '100': 1, '23': 0, ...times });
    const drive = line.yard.drives.get(1)!;
    const write = (word: string) => line.ask(rtu(`01 10 0BB8 0003 06 ${word} 0400 0002`));
    const read = () => line.ask(rtu('01 03 0BCC 0001'));
    for (const word of ['0006', '0007', '000F', '007F']) write(word);
    for (let i = 0; i < 6; i++) {
      read();
      write('007F');
    }
    expect(drive.isTurning()).toBe(true);
    for (let i = 0; i < 8; i++)
      if (way === 'written') read();
      else write('007F');
    expect(drive.isTurning()).toBe(false);
    expect(line.ask(rtu('01 03 0828 0001'))?.said?.values).toEqual([code]);
  });
});
