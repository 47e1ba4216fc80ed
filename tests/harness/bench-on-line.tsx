import type { SerialSettings } from '../../src/core/line/settings';
import type { Parameter } from '../../src/core/sheet/parameter-section';
import { benchAt } from './bench';
import { shippedSheets } from './shipped';
import { standinLine } from './standin-line';

const N81 = { rate: 9600, dataBits: 8, parity: 'N', stopBits: 1 } as const;
const E81 = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 } as const;
const E81_FAST = { ...E81, rate: 38400 } as const;
/** What the stand-in of the fan does not have. */
export const ABSENT = ['22.13', '22.14', '22.15', '23.09'];

export interface LinePlace {
  readonly line: 'K1' | 'K2' | 'S1';
  readonly slug: 'tern' | 'dunlin' | 'pipit' | 'curlew';
  readonly protocol: 'modbus-rtu' | 'uss' | 'ascii';
  readonly station: number;
  readonly settings: SerialSettings;
}
export const FAN: LinePlace = { line: 'K1', slug: 'tern', protocol: 'modbus-rtu', station: 3, settings: E81 };
export const HOIST: LinePlace = { line: 'K2', slug: 'dunlin', protocol: 'uss', station: 4, settings: E81_FAST };
/** The lift, at the place of the fan: its own line is one of the network. */
export const LIFT: LinePlace = { ...FAN, slug: 'curlew' };
export const FENCE: LinePlace = { line: 'S1', slug: 'pipit', protocol: 'ascii', station: 5, settings: N81 };

const newestOf = (slug: string): number =>
  Math.max(...shippedSheets().flatMap((sheet) => (sheet.slug === slug ? [sheet.revision] : [])));

/** A bench whose requests go over the real master to a stand-in, and whose results come back from it, on a virtual clock. */
export async function benchOnLine(
  { line, slug, protocol, station, settings }: LinePlace,
  factory: Readonly<Record<string, number>> = {},
  more: readonly Parameter[] = [],
) {
  const own = await standinLine(
    slug,
    protocol,
    [station],
    settings,
    1,
    undefined,
    { '5.01': station, ...factory },
    ABSENT,
    more,
  );
  const { bench, know, show } = benchAt(line, station);
  know({}, true);
  const { job: whole, lineId } = bench.state.getState();
  // Alone on its line, no pause is made for others.
  const alone = whole?.lines.map((one) => ({
    ...one,
    stations: one.stations
      .filter((each) => each.station === station)
      .map((each) => (each.sheet?.slug === slug ? each : { ...each, sheet: { slug, revision: newestOf(slug) } })),
  }));
  const job = whole && alone ? { ...whole, lines: alone } : null;
  bench.state.setState({ job });
  let ticket = 100;
  const control: { before: (() => void) | null; isCut: boolean } = { before: null, isCut: false };
  Object.assign(bench, {
    send: (_: unknown, bytes: Uint8Array) => {
      const mine = ++ticket;
      control.before?.();
      // Whoever closed the page hears no answer any more.
      if (control.isCut) return mine;
      const result = own.ask(bytes);
      bench.state.setState(({ results }) => ({ results: new Map([...results, [mine, result]]) }));
      return mine;
    },
  });
  return { own, bench, show, control, job, index: own.index, drive: { line: lineId, station } };
}
