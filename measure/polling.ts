import tern from '../sheets/tern.json';
import type { SerialSettings } from '../src/core/line/settings';
import { encodeRtu } from '../src/core/modbus/encode';
import { RTU } from '../src/core/modbus/framing';
import { seededRandom } from '../src/core/random/random';
import { indexSheet } from '../src/core/sheet/index-sheet';
import { loadSheet } from '../src/core/sheet/load-sheet';
import { VirtualClock } from '../src/core/time/clock';
import { LineMaster } from '../src/link/line-master';
import { StandinPort } from '../src/link/standin-port';
import { ModbusControl } from '../src/link/modbus-control';
import { modbusKind } from '../src/link/line-kind';
import { YardLine } from '../src/standin/yard';
import { claim, note } from './measure';

const SETTINGS: SerialSettings = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 };
const STATION = 3;
const HOUR_US = 3_600_000_000;

/** One drive that is polled as fast as the line allows, and a counter instead of a trace. */
async function polledLine() {
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
      entry: () => undefined,
      exchange: ({ outcome }) => (outcome === 'answered' ? counts.answered++ : counts.other++),
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
  return { clock, counts };
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

export async function heapBench(): Promise<void> {
  const collect = globalThis.gc;
  if (!collect) throw new Error('run with --expose-gc');
  const { clock, counts } = await polledLine();
  const used = (): number => {
    collect();
    return process.memoryUsage().heapUsed;
  };
  clock.advanceBy(HOUR_US / 2);
  const half = used();
  clock.advanceBy(HOUR_US / 2);
  const whole = used();
  note(
    `a virtual hour: ${counts.answered} exchanges, ${(half / 1e6).toFixed(1)} MB after half of it, ${(whole / 1e6).toFixed(1)} MB at its end`,
  );
  claim('growth of the heap in the second half hour, share', whole / half - 1, { atMost: 0.02 });
}
