import { hexToBytes } from '../../src/core/bytes/hex';
import type { SerialSettings } from '../../src/core/line/settings';
import { RTU } from '../../src/core/modbus/framing';
import { sealRtu } from '../../src/core/modbus/rtu';
import { seededRandom } from '../../src/core/random/random';
import { VirtualClock } from '../../src/core/time/clock';
import type { RunState } from '../../src/core/procedure/run-state';
import type { EntryDraft } from '../../src/link/exchanger';
import { LineMaster } from '../../src/link/line-master';
import type { ExchangeResult } from '../../src/link/request';
import { StandinPort } from '../../src/link/standin-port';
import { ModbusControl } from '../../src/link/modbus-control';
import { modbusKind } from '../../src/link/line-kind';
import type { StationStop } from '../../src/link/stop-run';
import { Inverter } from '../../src/standin/inverter';
import { YardLine } from '../../src/standin/yard';
import { ternIndex } from './sheets';

export const K1: SerialSettings = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 };
const NETWORK = { '2.01': 2, '2.02': 2 };

/** Bytes from hex, with the check of an RTU frame put behind them. */
export function rtu(hex: string): Uint8Array {
  const open = hexToBytes(`${hex} 00 00`);
  if (!open.ok) throw new Error(open.error.text);
  return sealRtu(open.value);
}

/** Line K1 with both drives on a virtual clock, and everything that the master told. */
export async function k1({
  seed = 1,
  open = true,
  end = K1,
}: { seed?: number; open?: boolean; end?: SerialSettings } = {}) {
  const clock = new VirtualClock();
  const index = ternIndex();
  const kept: Record<number, Readonly<Record<string, number>>> = {};
  const plans = [3, 7].map((station) => ({ station, index, kept: { ...NETWORK, '5.01': station } }));
  const yard = new YardLine(clock, seededRandom(seed), K1, plans, (station, values) => (kept[station] = values));
  const entries: EntryDraft[] = [];
  const results: ExchangeResult[] = [];
  const runs: RunState[] = [];
  const stops: { outcomes: readonly StationStop[]; over: boolean }[] = [];
  const closed: string[] = [];
  const master = new LineMaster(
    clock,
    new StandinPort(yard.bus, clock, end),
    modbusKind(RTU),
    [3, 7].map((station) => new ModbusControl(station, index, RTU)),
    {
      entry: (entry) => entries.push(entry),
      exchange: (result) => results.push(result),
      changed: () => undefined,
      procedure: (run) => runs.push(run),
      stop: (outcomes, over) => stops.push({ outcomes, over }),
      closed: ({ text }) => closed.push(text),
    },
  );
  if (open) await master.open();
  const drive = (station: number) => {
    const found = yard.drives.get(station);
    if (!(found instanceof Inverter)) throw new Error(`no inverter ${station}`);
    return found;
  };
  return {
    clock,
    yard,
    master,
    entries,
    results,
    runs,
    stops,
    closed,
    kept,
    index,
    drive,
    /** Sends one frame by the user and lets a second pass. */
    ask(hex: string, station = parseInt(hex.slice(0, 2), 16), ms = 300): ExchangeResult | undefined {
      const before = results.length;
      master.send(station, rtu(hex), 'test', 1);
      clock.advanceBy(ms * 1000);
      return results.slice(before).find(({ request }) => request.priority === 'user');
    },
    ms: (ms: number) => clock.advanceBy(ms * 1000),
  };
}
