import { settingsText, type SerialSettings } from '../line/settings';
import {
  alikeTo,
  everythingToTry,
  hostRange,
  hostSweepSeconds,
  serialSweepUs,
  settingsToTry,
  stationRange,
} from './sweep-plan';

const OWN: SerialSettings = { rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 };
const PLAIN: SerialSettings = { rate: 9600, dataBits: 8, parity: 'N', stopBits: 1 };

it('tries what is likely first, and nothing twice that would look the same', () => {
  const tries = settingsToTry(OWN, PLAIN).map(({ settings }) => settingsText(settings));
  expect(tries.slice(0, 4)).toEqual(['19200 8E1', '9600 8N1', '9600 8E1', '38400 8E1']);
  expect(new Set(tries.map((text) => text.slice(0, -1))).size).toBe(tries.length);
  // 8 rates in 3 parities of 8 data bits.
  expect(tries).toHaveLength(24);
  expect(alikeTo(OWN)).toEqual(['19200 8E2']);
});

it('says how long it takes at most', () => {
  // 8 bytes of 11 bits at 9600 and two time-outs of 60 ms; the second try half the bytes' time.
  const us = serialSweepUs([{ ...OWN, rate: 9600 }, OWN], 8, 60_000);
  expect(us).toBeCloseTo(8 * 1145.83 + 8 * 572.92 + 4 * 60_000, -1);
  expect(hostSweepSeconds(254)).toBe(256);
});

it.each([
  [1, 247, 247, ''],
  [3, 3, 1, ''],
  [0, 5, 0, 'station 0 is everyone'],
  [1, 248, 0, 'station 248: 1 to 247'],
  [9, 5, 0, 'before it begins at 9'],
  [1.5, 5, 0, 'station 1.5'],
  [-1, 5, 0, 'station -1'],
])('stations %d to %d', (first, last, count, text) => {
  const range = stationRange(first, last);
  expect(range.ok ? range.value.length : 0).toBe(count);
  expect(range.ok ? '' : range.error).toContain(text);
});

it.each([
  ['172.22.7.0/24', 254, '172.22.7.1', '172.22.7.254'],
  ['172.22.7.77 255.255.255.248', 6, '172.22.7.73', '172.22.7.78'],
  ['10.0.0.4/31', 2, '10.0.0.4', '10.0.0.5'],
  ['127.0.0.1', 1, '127.0.0.1', '127.0.0.1'],
  ['127.0.0.1 - 127.0.0.8', 8, '127.0.0.1', '127.0.0.8'],
  ['169.254.1.0/24', 254, '169.254.1.1', '169.254.1.254'],
])('hosts of %s', (text, count, first, last) => {
  const hosts = hostRange(text);
  expect(hosts.ok && [hosts.value.length, hosts.value[0], hosts.value.at(-1)]).toEqual([count, first, last]);
});

it.each([
  ['300.1.2.3', 'not 0 to 255'],
  ['172.22.1.0/33', '/33'],
  ['10.0.0.0/8', 'a sweep takes 1022 at most'],
  ['8.8.4.0/24', 'not on this machine'],
  ['10.0.0.9-10.0.0.3', 'before it begins'],
  ['drives', 'no IPv4 address'],
  ['', 'no IPv4 address'],
])('“%s” is told as no range', (text, why) => {
  const hosts = hostRange(text);
  expect(hosts.ok ? '' : hosts.error).toContain(why);
});

it('tries rate, form and station together, each pair once, the likeliest first', () => {
  const settings = settingsToTry({ rate: 19200, dataBits: 8, parity: 'E', stopBits: 1 }, null);
  const tries = everythingToTry(settings, { least: 1, most: 247 }, 17);
  expect(tries[0]).toEqual({ settings: settings[0]?.settings, station: 17 });
  expect(tries.findIndex(({ station }) => station === 1)).toBeLessThan(8);
  expect(new Set(tries.map((one) => JSON.stringify(one))).size).toBe(tries.length);
  // All settings for each of the likely stations, and none outside of what the protocol has.
  expect(tries.length % settings.length).toBe(0);
  expect(tries.every(({ station }) => station >= 1 && station <= 247)).toBe(true);
  expect(everythingToTry(settings, { least: 0, most: 31 }, null).some(({ station }) => station === 0)).toBe(true);
});
