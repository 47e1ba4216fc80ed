import {
  cycleFor,
  exchangeStretches,
  idealCycle,
  stationsThatFit,
  totalUs,
  ussLongestUs,
  watchdogSafeUs,
  type ExchangeSize,
  type LineTiming,
} from './budget';
import { characterUs, type SerialSettings } from './settings';

const at = (rate: number): SerialSettings => ({ rate, dataBits: 8, parity: 'E', stopBits: 1 });
const rtuLine = (rate: number): LineTiming => ({ kind: 'modbus-rtu', settings: at(rate) });
/** Read of four registers: 8 bytes out, 13 back. */
const READ_FOUR: ExchangeSize = { requestBytes: 8, replyBytes: 13, replyDelayUs: 5_000 };

// Worked by hand from Modbus over Serial Line V1.02: 11 bits a character, 3.5 characters or 1.75 ms of silence.
it.each([
  [9600, 8 * 1145.833, 13 * 1145.833, 4010.417],
  [19200, 8 * 572.917, 13 * 572.917, 2005.208],
  [38400, 8 * 286.458, 13 * 286.458, 1750],
  [115200, 8 * 95.486, 13 * 95.486, 1750],
])('an exchange at %i bit/s', (rate, request, reply, gap) => {
  const stretches = exchangeStretches(rtuLine(rate), READ_FOUR);
  expect(stretches.map(({ kind }) => kind)).toEqual(['request', 'reply-delay', 'reply', 'gap']);
  expect(stretches.map(({ us }) => Math.round(us))).toEqual([request, 5000, reply, gap].map(Math.round));
});

it('the silence after the request counts where the drive is faster than it', () => {
  const [, delay] = exchangeStretches(rtuLine(9600), { ...READ_FOUR, replyDelayUs: 1_000 });
  expect(delay?.us).toBeCloseTo(4010.4, 0);
  expect(delay?.working).toContain('is longer');
});

// From memory of the published USS description.
it('USS: character 1.146 ms at 9600, start gap of two characters, telegram at most 1.5 times its compact time', () => {
  expect(characterUs(at(9600)) / 1000).toBeCloseTo(1.146, 3);
  const stretches = exchangeStretches({ kind: 'uss', settings: at(9600) }, { ...READ_FOUR, replyDelayUs: 20_000 });
  expect(stretches[3]).toMatchObject({ kind: 'gap', us: 2 * characterUs(at(9600)) });
  expect(ussLongestUs(at(9600), 14)).toBeCloseTo(1.5 * 14 * 1145.833, 0);
});

it('a cycle is the sum of its exchanges, and the busy share leaves silences out', () => {
  const item = { ...READ_FOUR, times: 1 };
  const one = totalUs(exchangeStretches(rtuLine(19200), READ_FOUR));
  const cycle = idealCycle(rtuLine(19200), [
    { ...item, station: 3 },
    { ...item, station: 7, times: 2 },
  ]);
  expect(cycle.us).toBeCloseTo(3 * one, 6);
  expect(cycle.busy).toBeCloseTo((21 * characterUs(at(19200))) / one, 9);
  expect(cycle.perStation.map(({ station }) => station)).toEqual([3, 7]);
  expect(idealCycle(rtuLine(19200), [])).toEqual({ us: 0, busy: 0, perStation: [] });
});

it('how many stations fit a cycle, and the reverse', () => {
  const each = totalUs(exchangeStretches(rtuLine(19200), READ_FOUR));
  expect(stationsThatFit(rtuLine(19200), [READ_FOUR], 100_000)).toBe(Math.floor(100_000 / each));
  expect(cycleFor(rtuLine(19200), [READ_FOUR], 5)).toBeCloseTo(5 * each, 6);
  expect(stationsThatFit(rtuLine(19200), [READ_FOUR], cycleFor(rtuLine(19200), [READ_FOUR], 5))).toBe(5);
  expect(stationsThatFit({ kind: 'modbus-tcp', roundTripUs: 2_000 }, [READ_FOUR], 100_000)).toBe(50);
});

it('the watchdog-safe interval lets two commands in a row get lost', () => {
  // 3.2 s less one exchange of 20 ms and two lost ones of 2 x 60 ms, over three intervals.
  expect(watchdogSafeUs(3_200_000, 20_000, 60_000)).toBeCloseTo((3_200_000 - 20_000 - 240_000) / 3, 6);
  expect(watchdogSafeUs(200_000, 20_000, 60_000)).toBeNull();
});
