/** @jest-environment node */
import { settingsText, type SerialSettings } from '../src/core/line/settings';
import { alikeTo, settingsToTry } from '../src/core/sweep/sweep-plan';
import { RTU } from '../src/core/modbus/framing';
import { seededRandom } from '../src/core/random/random';
import { VirtualClock } from '../src/core/time/clock';
import { LineMaster } from '../src/link/line-master';
import { StandinPort } from '../src/link/standin-port';
import { PROVES_LINK } from '../src/link/sweep-run';
import { ModbusControl } from '../src/link/modbus-control';
import { modbusKind } from '../src/link/line-kind';
import { RtuStation, type SerialDrive } from '../src/standin/rtu-station';
import { SerialBus } from '../src/standin/serial-bus';
import { K1, rtu } from './harness/line';

const RATES = [1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200];
const PARITIES = ['N', 'E', 'O'] as const;
const STOPS = [1, 2] as const;

/** A drive that listens with any settings and knows one register. */
const driveAt = (settings: SerialSettings): SerialDrive => ({
  link: () => ({ station: 3, settings }),
  isUp: () => true,
  heard: () => undefined,
  heardBreak: () => undefined,
  read: () => 1,
  write: () => 0,
});

async function sweepFor(drive: SerialSettings) {
  const clock = new VirtualClock();
  const bus = new SerialBus(clock, seededRandom(1));
  new RtuStation(bus, clock, seededRandom(2), driveAt(drive));
  const master = new LineMaster(
    clock,
    new StandinPort(bus, clock, K1),
    modbusKind(RTU),
    [new ModbusControl(3, null, RTU)],
    {
      entry: () => undefined,
      exchange: () => undefined,
      changed: () => undefined,
      procedure: () => undefined,
      stop: () => undefined,
      closed: () => undefined,
    },
  );
  await master.open();
  const steps = settingsToTry(K1, null).map(({ settings }) => ({
    station: 3,
    bytes: rtu('03 03 0000 0001'),
    settings,
  }));
  master.startSweep({ kind: 'settings', steps, from: 0, timeoutUs: 60_000, own: K1, untilFound: true });
  clock.advanceBy(60e6);
  const state = master.snapshot().sweep!;
  const found = state.found.find(({ outcome }) => PROVES_LINK.has(outcome))?.settings ?? null;
  // The line has its own settings back.
  const after = master.snapshot().sweep!.running;
  return { found, tries: state.done, running: after };
}

it('finds settings that work for every rate, parity and stop bit, names what looks the same, and counts its tries', async () => {
  const rows: string[] = [];
  for (const rate of RATES)
    for (const parity of PARITIES)
      for (const stopBits of STOPS) {
        const drive: SerialSettings = { rate, dataBits: 8, parity, stopBits };
        const { found, tries, running } = await sweepFor(drive);
        if (!found) throw new Error(`${settingsText(drive)} was not found in ${tries} tries`);
        const named = [settingsText(found), ...alikeTo(found)];
        expect(named).toContain(settingsText(drive));
        expect(running).toBe(false);
        expect(tries).toBeLessThanOrEqual(24);
        rows.push(
          `${settingsText(drive).padEnd(11)} found as ${settingsText(found).padEnd(11)} after ${tries} tries, looks like ${alikeTo(found).join(', ')}`,
        );
      }
  process.stdout.write(`${rows.join('\n')}\n`);
  expect(rows).toHaveLength(48);
});

it('a sweep that is stopped goes on from where it was, and Stop ends it', async () => {
  const clock = new VirtualClock();
  const bus = new SerialBus(clock, seededRandom(1));
  new RtuStation(bus, clock, seededRandom(2), driveAt(K1));
  const master = new LineMaster(clock, new StandinPort(bus, clock, K1), modbusKind(RTU), [], {
    entry: () => undefined,
    exchange: () => undefined,
    changed: () => undefined,
    procedure: () => undefined,
    stop: () => undefined,
    closed: () => undefined,
  });
  await master.open();
  const steps = Array.from({ length: 20 }, (_, i) => ({
    station: i + 1,
    bytes: rtu(`${(i + 1).toString(16).padStart(2, '0')} 03 0000 0001`),
  }));
  const plan = { kind: 'stations', steps, timeoutUs: 60_000, own: K1, untilFound: false } as const;
  master.startSweep({ ...plan, from: 0 });
  clock.advanceBy(1e6);
  master.endSweep();
  const stopped = master.snapshot().sweep!;
  expect(stopped.running).toBe(false);
  expect(stopped.done).toBeGreaterThan(3);
  expect(stopped.found.map(({ station }) => station)).toEqual([3]);
  clock.advanceBy(1e6);
  master.startSweep({ ...plan, from: stopped.done });
  clock.advanceBy(400_000);
  master.stop(3);
  expect(master.snapshot().sweep).toMatchObject({ running: false });
  clock.advanceBy(5e6);
  master.startSweep({ ...plan, from: 5 });
  clock.advanceBy(10e6);
  expect(master.snapshot().sweep).toMatchObject({ running: false, done: 20, total: 20 });
});
