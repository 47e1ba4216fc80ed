import type { SerialSettings } from '../../src/core/line/settings';
import { seededRandom } from '../../src/core/random/random';
import { indexSheet, type SheetIndex } from '../../src/core/sheet/index-sheet';
import { VirtualClock } from '../../src/core/time/clock';
import type { Parameter } from '../../src/core/sheet/parameter-section';
import type { RunState } from '../../src/core/procedure/run-state';
import type { EntryDraft } from '../../src/link/exchanger';
import { LineMaster } from '../../src/link/line-master';
import type { LinePlan } from '../../src/messages/line';
import type { ExchangeResult } from '../../src/link/request';
import { lineKindOf } from '../../src/link/line-kind';
import { StandinPort } from '../../src/link/standin-port';
import type { StationStop } from '../../src/link/stop-run';
import { YardLine } from '../../src/standin/yard';
import { shippedSheets } from './shipped';

export function shippedIndex(slug: string): SheetIndex {
  const sheet = shippedSheets().find((one) => one.slug === slug);
  if (!sheet) throw new Error(`no sheet ${slug}`);
  return indexSheet(sheet);
}

/** A line of stand-ins that speak what their sheet says, on a virtual clock, with everything that the master told. */
export async function standinLine(
  slug: string,
  protocol: LinePlan['protocol'],
  stations: readonly number[],
  settings: SerialSettings,
  seed = 1,
  /** What this end is set to, where that is not what the drives are. */
  end = settings,
  /** What the drives keep without power. */
  factory: Readonly<Record<string, number>> = {},
  /** What the drives do not have. */
  absent: readonly string[] = [],
  /** What they have besides. */
  more: readonly Parameter[] = [],
) {
  const clock = new VirtualClock();
  const shipped = shippedIndex(slug);
  const index =
    more.length === 0
      ? shipped
      : indexSheet({ ...shipped.sheet, parameters: [...(shipped.sheet.parameters ?? []), ...more] });
  const kept: Record<number, Readonly<Record<string, number>>> = {};
  const parameters = (index.sheet.parameters ?? []).filter(({ number }) => !absent.includes(number));
  const own = absent.length === 0 ? index : indexSheet({ ...index.sheet, parameters });
  const plans = stations.map((station) => ({ station, index: own, kept: factory }));
  const yard = new YardLine(clock, seededRandom(seed), settings, plans, (station, values) => (kept[station] = values));
  const lineKind = lineKindOf(protocol, [index]);
  if (!lineKind) throw new Error('nothing to speak');
  const entries: EntryDraft[] = [];
  const results: ExchangeResult[] = [];
  const runs: RunState[] = [];
  const stops: { outcomes: readonly StationStop[]; over: boolean }[] = [];
  const master = new LineMaster(
    clock,
    new StandinPort(yard.bus, clock, end),
    lineKind,
    stations.map((station) => lineKind.controlOf(station, index)),
    {
      entry: (entry) => entries.push(entry),
      exchange: (result) => results.push(result),
      changed: () => undefined,
      procedure: (run) => runs.push(run),
      stop: (outcomes, over) => stops.push({ outcomes, over }),
      closed: () => undefined,
    },
  );
  await master.open();
  return {
    clock,
    index,
    yard,
    master,
    entries,
    results,
    runs,
    stops,
    kept,
    protocol: lineKind.protocol,
    ask(bytes: Uint8Array, ms = 400): ExchangeResult {
      const before = results.length;
      master.send(lineKind.protocol.stationOf(bytes) ?? 0, bytes, 'test', 1);
      clock.advanceBy(ms * 1000);
      const result = results.slice(before).find(({ request }) => request.priority === 'user');
      if (!result) throw new Error('no result');
      return result;
    },
  };
}
