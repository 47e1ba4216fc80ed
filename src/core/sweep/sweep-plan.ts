import { characterUs, settingsText, type SerialSettings } from '../line/settings';
import { USUAL_FORMS, USUAL_RATES } from '../line/what-sender';
import { parseIpv4, parsePrefix, ipv4Text } from '../line/ipv4';
import { checkTarget } from '../line/target';
import { done, failed, type Result } from '../result';

/** How likely settings are on an unknown line, best first (common practice, no source). */
export interface RankedSettings {
  readonly settings: SerialSettings;
  readonly why: string;
}

/**
 * Settings to try, ranked: those of the sheet, this end's form at other rates, then the usual forms at the usual rates. Stop bits are tried
 * once a form, for a receiver that checks one cannot tell them apart; what would look the same is named with the find.
 */
export function settingsToTry(
  own: SerialSettings,
  factory: SerialSettings | null,
  rates: readonly number[] = USUAL_RATES,
): readonly RankedSettings[] {
  const form = ({ dataBits, parity, stopBits }: Omit<SerialSettings, 'rate'>) => ({ dataBits, parity, stopBits });
  const ranked: RankedSettings[] = [
    { settings: own, why: 'as this end is set' },
    ...(factory ? [{ settings: factory, why: 'as the sheet says the drive leaves the factory' }] : []),
    ...rates.map((rate) => ({ settings: { rate, ...form(own) }, why: 'this end’s form at another rate' })),
    ...(factory
      ? rates.map((rate) => ({ settings: { rate, ...form(factory) }, why: 'the sheet’s form at another rate' }))
      : []),
    ...USUAL_FORMS.filter(({ dataBits }) => dataBits === 8).flatMap((usual) =>
      rates.map((rate) => ({ settings: { rate, ...usual }, why: 'usual elsewhere' })),
    ),
  ];
  const seen = new Set<string>();
  return ranked.filter(({ settings }) => {
    const key = sameToReceiver(settings);
    return !seen.has(key) && seen.add(key);
  });
}

/** Stations that are met most, best first: as it leaves the factory, the first few, the last one (common practice, no source). */
const LIKELY_STATIONS: readonly number[] = [1, 2, 3, 4, 5, 10, 247, 6, 7, 8, 9, 11, 20, 0];

/** One try of rate, form and station together. */
export interface EverythingTry {
  readonly settings: SerialSettings;
  readonly station: number;
}

/**
 * Settings and stations tried together, the likeliest pairs first: a pair is as likely as both of its parts, so that ranks are added. `sheet` is the
 * station that a sheet names.
 */
export function everythingToTry(
  settings: readonly RankedSettings[],
  allowed: { readonly least: number; readonly most: number },
  sheet: number | null,
): readonly EverythingTry[] {
  const stations = [...new Set([...(sheet === null ? [] : [sheet]), ...LIKELY_STATIONS])].filter(
    (station) => station >= allowed.least && station <= allowed.most,
  );
  return settings
    .flatMap((one, i) =>
      stations.map((station, k) => ({ settings: one.settings, station, rank: i + STATION_WEIGHT * k })),
    )
    .sort((a, b) => a.rank - b.rank)
    .map(({ settings: own, station }) => ({ settings: own, station }));
}

/** The next likely station is about as unlikely as so many further settings. */
const STATION_WEIGHT = 4;

/** Settings that a receiver takes for each other have one key: it checks a single stop bit. */
const sameToReceiver = ({ rate, dataBits, parity }: SerialSettings): string => `${rate} ${dataBits}${parity}`;

/** The settings that would have looked the same as those that were found, as text. */
export const alikeTo = (settings: SerialSettings): readonly string[] =>
  ([1, 2] as const)
    .filter((stopBits) => stopBits !== settings.stopBits)
    .map((stopBits) => settingsText({ ...settings, stopBits }));

/** Longest that a sweep over serial tries can take, in microseconds: each one request, its time-out, and as much silence again. */
export const serialSweepUs = (tries: readonly SerialSettings[], requestBytes: number, timeoutUs: number): number =>
  tries.reduce((sum, settings) => sum + requestBytes * characterUs(settings) + 2 * timeoutUs, 0);

/** Stations from `first` to `last`, as typed numbers; the error is a sentence for the field. */
export function stationRange(first: number, last: number, most = 247, least = 1): Result<readonly number[], string> {
  const bad = [first, last].find((number) => !Number.isInteger(number) || number < least || number > most);
  if (bad !== undefined)
    return failed(
      bad === 0
        ? 'station 0 is everyone at once and answers nothing; sweeps begin at 1'
        : `station ${bad}: ${least} to ${most} are stations`,
    );
  if (last < first) return failed(`the range ends at ${last}, before it begins at ${first}`);
  return done(Array.from({ length: last - first + 1 }, (_, i) => first + i));
}

/** A sweep tries no more hosts than this: a /22. */
const MOST_HOSTS = 1022;

/** Hosts of a subnet typed as `172.22.7.0/24` or with a mask, or of a range `172.22.7.10-172.22.7.40`. */
export function hostRange(text: string): Result<readonly string[], string> {
  const range = /^\s*([\d.]+)\s*(?:-|–|to)\s*([\d.]+)\s*$/.exec(text);
  if (range) return between(range[1] ?? '', range[2] ?? '');
  const net = /^\s*([\d.]+)\s*(?:\/|\s)\s*([\d./]+)\s*$/.exec(text);
  if (!net) {
    const single = parseIpv4(text);
    return single.ok ? allowed([single.value]) : failed(`${single.error.text}; or a subnet such as 172.22.7.0/24`);
  }
  const [address, prefix] = [parseIpv4(net[1] ?? ''), parsePrefix(net[2] ?? '')];
  if (!address.ok) return failed(address.error.text);
  if (!prefix.ok) return failed(prefix.error.text);
  const size = 2 ** (32 - prefix.value);
  const network = address.value - (address.value % size);
  const [first, count] = size <= 2 ? [network, size] : [network + 1, size - 2];
  if (count > MOST_HOSTS) return failed(`/${prefix.value} has ${count} hosts; a sweep takes ${MOST_HOSTS} at most`);
  return allowed(Array.from({ length: count }, (_, i) => first + i));
}

function between(from: string, to: string): Result<readonly string[], string> {
  const [first, last] = [parseIpv4(from), parseIpv4(to)];
  if (!first.ok) return failed(first.error.text);
  if (!last.ok) return failed(last.error.text);
  const count = last.value - first.value + 1;
  if (count < 1) return failed(`the range ends at ${to}, before it begins at ${from}`);
  if (count > MOST_HOSTS) return failed(`${count} hosts; a sweep takes ${MOST_HOSTS} at most`);
  return allowed(Array.from({ length: count }, (_, i) => first.value + i));
}

function allowed(hosts: readonly number[]): Result<readonly string[], string> {
  const texts = hosts.map(ipv4Text);
  for (const host of [texts[0], texts[texts.length - 1]]) {
    const target = checkTarget(host ?? '', 502);
    if (!target.ok) return failed(target.error);
  }
  return done(texts);
}

/** Longest that an IP sweep can take, in seconds: hosts that say nothing cost the whole time to connect. */
export const hostSweepSeconds = (hosts: number, connectMs = 4_000, atOnce = 4): number =>
  (Math.ceil(hosts / atOnce) * connectMs) / 1000;
