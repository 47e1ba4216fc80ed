import tern from '../sheets/tern.json';
import type { SerialSettings } from '../src/core/line/settings';
import { encodeRtu } from '../src/core/modbus/encode';
import { RTU } from '../src/core/modbus/framing';
import { seededRandom } from '../src/core/random/random';
import { indexSheet, type SheetIndex } from '../src/core/sheet/index-sheet';
import { loadSheet } from '../src/core/sheet/load-sheet';
import { shelfOf } from '../src/core/sheet/shelf';
import { VirtualClock } from '../src/core/time/clock';
import { packBlock, type TraceBlock } from '../src/core/trace/block';
import type { TraceEntry } from '../src/core/trace/entry';
import { RECORD_MOST, sizeOf, withOlder } from '../src/core/trace/record';
import { FIRST_STATE, takeBatch, type BenchState } from '../src/bench/state/bench-state';
import type { EntryDraft } from '../src/link/exchanger';
import { learnedFrom } from '../src/link/learned';
import type { ExchangeResult } from '../src/link/request';
import type { FinishedExchange } from '../src/messages/line';
import { LineMaster } from '../src/link/line-master';
import { StandinPort } from '../src/link/standin-port';
import { ModbusControl } from '../src/link/modbus-control';
import { modbusKind } from '../src/link/line-kind';
import { YardLine } from '../src/standin/yard';
import { claim, note } from './measure';

const SETTINGS: SerialSettings = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 };
const STATION = 3;
const HOUR_US = 3_600_000_000;
const BLOCK_ENTRIES = 2000;

/** One drive that is polled as fast as the line allows, and a counter instead of a trace where nobody listens. */
async function polledLine(
  listens: { entry?: (entry: EntryDraft) => void; exchange?: (result: ExchangeResult) => void } = {},
) {
  const loaded = loadSheet(tern);
  if (!loaded.ok) throw new Error('the sheet is broken');
  const index = indexSheet(loaded.value);
  const clock = new VirtualClock();
  const yard = new YardLine(
    clock,
    seededRandom(1),
    SETTINGS,
    [{ station: STATION, index, kept: { '2.01': 2, '2.02': 2, '5.01': STATION } }],
    () => undefined,
  );
  const counts = { answered: 0, other: 0 };
  const master = new LineMaster(
    clock,
    new StandinPort(yard.bus, clock, SETTINGS),
    modbusKind(RTU),
    [new ModbusControl(STATION, index, RTU)],
    {
      entry: (entry) => listens.entry?.(entry),
      exchange: (result) => {
        counts[result.outcome === 'answered' ? 'answered' : 'other']++;
        listens.exchange?.(result);
      },
      changed: () => undefined,
      procedure: () => undefined,
      stop: () => undefined,
      closed: () => undefined,
    },
  );
  await master.open();
  const read = encodeRtu({ unit: STATION, fc: 3, address: 0x0182, quantity: 4 }, 'request');
  if (!read.ok) throw new Error('the request is broken');
  master.setPoll([{ station: STATION, bytes: read.value, everyUs: 0 }]);
  return { clock, counts, index };
}

/**
 * The ideal cycle by hand, in microseconds: 8 characters of request, 3.5 of silence until the drive knows that it ended, the drive's thinking
 * (2 to 6 ms, evenly spread, so 3999.5 on average), 13 characters of reply, 3.5 of silence. A character has 11 bits at 19200 bit/s.
 */
const CHARACTER_US = 11e6 / 19200;
const IDEAL_CYCLE_US = (8 + 3.5 + 13 + 3.5) * CHARACTER_US + 3999.5;

export async function pollingBench(): Promise<void> {
  const { clock, counts } = await polledLine();
  clock.advanceBy(HOUR_US / 6);
  const cycleUs = HOUR_US / 6 / counts.answered;
  note(
    `a poll takes ${cycleUs.toFixed(1)} µs on the virtual clock, ${IDEAL_CYCLE_US.toFixed(1)} by hand, ${counts.other} other outcomes`,
  );
  claim('polling cycle over the ideal one', cycleUs / IDEAL_CYCLE_US, { atMost: 1.01 });
}

const LINE = 'kiln';
const BATCH_US = 100_000;

/** What the page holds when its record is as long as it may be. */
function fullState(index: SheetIndex): BenchState {
  const block = (number: number): TraceBlock =>
    packBlock(
      Array.from({ length: BLOCK_ENTRIES }, (_, i): TraceEntry => ({
        session: 'earlier',
        sequence: number * BLOCK_ENTRIES + i,
        line: LINE,
        station: STATION,
        atUs: 1000 * (number * BLOCK_ENTRIES + i),
        direction: i % 2 === 0 ? 'sent' : 'received',
        bytes: new Uint8Array(i % 2 === 0 ? 8 : 13),
        lineFaults: [],
        exchange: i >> 1,
        outcome: i % 2 === 0 ? 'none' : 'answered',
        cause: 'poll',
      })),
    );
  const blocks = Array.from({ length: RECORD_MOST / BLOCK_ENTRIES }, (_, number) => block(number));
  return {
    ...FIRST_STATE,
    sheets: shelfOf([index.sheet]),
    session: 'now',
    lineId: LINE,
    station: STATION,
    record: withOlder(FIRST_STATE.record, blocks),
  };
}

/** A virtual hour of a line, or a day, and of the page that watches it with a record that is full already. */
export async function heapBench(isDay: boolean): Promise<void> {
  const collect = globalThis.gc;
  if (!collect) throw new Error('run with --expose-gc');
  let entries: TraceEntry[] = [];
  let exchanges: FinishedExchange[] = [];
  let sequence = 0;
  const { clock, counts, index } = await polledLine({
    entry: (entry) => entries.push({ ...entry, session: 'now', sequence: sequence++, line: LINE }),
    exchange: (result) => exchanges.push({ line: LINE, result, learned: learnedFrom(result, null) }),
  });
  let state = fullState(index);
  let number = 0;
  const watch = (us: number): void => {
    for (const untilUs = clock.now() + us; clock.now() < untilUs;) {
      clock.advanceBy(BATCH_US);
      const { yardSpeed, realTime, ipSweep, turning, keepTrouble } = state;
      const same = {
        lines: [],
        stops: [],
        runs: [],
        earlier: null,
        yardSpeed,
        realTime,
        ipSweep,
        turning,
        keepTrouble,
      };
      const keptUpTo = sequence - 1;
      state = takeBatch(state, {
        kind: 'batch',
        number: number++,
        nowUs: clock.now(),
        entries,
        exchanges,
        keptUpTo,
        ...same,
      });
      entries = [];
      exchanges = [];
    }
  };
  const used = (): number => {
    collect();
    const { heapUsed, arrayBuffers } = process.memoryUsage();
    return heapUsed + arrayBuffers;
  };
  const [firstHours, hours, most] = isDay ? [1, 24, 0.05] : [0.5, 1, 0.02];
  watch(firstHours * HOUR_US);
  const first = used();
  watch((hours - firstHours) * HOUR_US);
  const whole = used();
  note(
    `${hours} h of the virtual clock: ${counts.answered} exchanges, ${sizeOf(state.record)} entries held, ${(first / 1e6).toFixed(1)} MB after ${firstHours} h, ${(whole / 1e6).toFixed(1)} MB at the end`,
  );
  claim(`growth of memory between ${firstHours} h and ${hours} h of watching, share`, whole / first - 1, {
    atMost: most,
  });
}
