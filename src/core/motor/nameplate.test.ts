import { BARE_PLATE, readPlate, type Nameplate } from './nameplate';

const plate = (more: Partial<Nameplate>): Nameplate => ({ ...BARE_PLATE, ...more });

// Chapman, Electric Machinery Fundamentals, 4th ed., example 7-1, from memory: 10 hp, four poles, 60 Hz, slip 5 %: 1800 and 1710 r/min, 41.7 N·m.
it('agrees with a text book on poles, speeds, slip and torque', () => {
  const read = readPlate(plate({ powerKw: 7.46, frequencyHz: 60, speedRpm: 1710 }));
  expect(read.poles?.value).toBe(4);
  expect(read.synchronousRpm?.value).toBe(1800);
  expect(read.slip?.value).toBeCloseTo(0.05, 10);
  expect(read.torqueNm?.value).toBeCloseTo(41.7, 1);
  expect(read.doubts).toEqual([]);
});

// The same book, example 7-2, from memory: 480 V, 60 A, power factor 0.85: 42.4 kW taken, 37.3 kW (50 hp) given, 88 %.
it('agrees with a text book on the efficiency', () => {
  const read = readPlate(plate({ powerKw: 37.3, voltageV: 480, currentA: 60, powerFactor: 0.85 }));
  expect(read.efficiency?.value).toBeCloseTo(0.88, 2);
  expect(read.efficiency?.working).toBe('37.3 kW / (√3 × 480 V × 60 A × 0.85) = 37.3 / 42.4 = 88 %');
});

// 120 f / p for 2 to 12 poles (IEC 60034-1 names the synchronous speed so), at usual rated speeds; common practice, no source.
it.each([
  [50, 2880, 2],
  [50, 1445, 4],
  [50, 960, 6],
  [50, 720, 8],
  [60, 3500, 2],
  [60, 1765, 4],
  [60, 1170, 6],
  [60, 580, 12],
])('at %i Hz, %i rpm is a motor of %i poles', (frequencyHz, speedRpm, poles) => {
  expect(readPlate(plate({ frequencyHz, speedRpm })).poles?.value).toBe(poles);
});

const GOOD = { powerKw: 4, voltageV: 400, currentA: 8.2, powerFactor: 0.82 };

it.each<[string, Partial<Nameplate>, RegExp]>([
  ['a good plate', GOOD, /^$/],
  ['the current in delta beside the voltage in star', { ...GOOD, currentA: 8.2 / Math.sqrt(3) }, /other connection/],
  ['a power in hp', { ...GOOD, powerKw: 4 / 0.7457 }, /in hp/],
  ['a slipped point', { ...GOOD, currentA: 82 }, /decimal point/],
  ['a power factor above one', { ...GOOD, powerFactor: 8.2 }, /is none/],
  ['a speed of 60 Hz at 50 Hz', { frequencyHz: 60, speedRpm: 1440 }, /misread; at 50 Hz it would be 4 %/],
  ['the synchronous speed', { frequencyHz: 50, speedRpm: 1500 }, /synchronous motor, or a misread speed/],
  ['no speed at all', { frequencyHz: 50, speedRpm: 9000 }, /no speed of an induction motor/],
])('%s', (_, read, doubt) => {
  expect(readPlate(plate(read)).doubts.join('; ')).toMatch(doubt);
});

it('says nothing of what is not on the plate', () => {
  expect(readPlate(plate({}))).toEqual({
    poles: null,
    synchronousRpm: null,
    slip: null,
    efficiency: null,
    torqueNm: null,
    doubts: [],
  });
});
