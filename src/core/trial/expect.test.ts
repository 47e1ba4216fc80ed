import { shippedIndex } from '../../../tests/harness/standin-line';
import { framingOf } from '../modbus/framing';
import { registerLink } from '../places/register-link';
import { compileTrial } from './compile';
import { lineOf } from './seen-line';
import { bandAt, bandOf, leftBand, type Band } from './expect';
import { lineThrough } from './measure';
import { SHIPPED_TRIALS } from './shipped-trials';
import type { Trial } from './trial';

const TERN = shippedIndex('tern');
const shipped = (id: string): Trial => SHIPPED_TRIALS.find((one) => one.id === id)!;
const compiledTrial = (trial: Trial) =>
  compileTrial(trial, {
    index: TERN,
    places: registerLink(TERN, framingOf('modbus-rtu')),
    station: 3,
    name: 'fan',
    here: ['ready'],
    known: () => undefined,
  });
const compiled = (id: string) => compiledTrial(shipped(id));
const at = ({ points }: Band, x: number) => points.findLast((point) => point.x <= x)!;

it('expects the ramp that is set: full scale of 55 Hz in 6.2 s, so 80 % of it after 4.96 s', () => {
  const band = bandOf(TERN, compiled('ramps'), 6.2, null)!;
  expect(band.unit).toBe('Hz');
  const top = band.points.reduce((most, { low, high }) => Math.max(most, (low + high) / 2), 0);
  expect(top).toBeCloseTo(44, 6);
  const { x: reached } = band.points.find(({ low, high }) => (low + high) / 2 > 43.99)!;
  const { x: begun } = band.points.find(({ low, high }) => (low + high) / 2 > 0.01)!;
  expect(reached - begun).toBeGreaterThan(4.6);
  expect(reached - begun).toBeLessThan(5.2);
  // At its end the shaft stands.
  const end = band.points[band.points.length - 1]!;
  expect((end.low + end.high) / 2).toBeCloseTo(0, 6);
});

it('a ramp time that a step of the trial writes is the one that is expected from then on', () => {
  const trial = shipped('ramps');
  const longer = {
    ...trial,
    steps: [{ id: 'slow', kind: 'write', what: { role: 'ramp-time' }, to: '12.4 s' } as const, ...trial.steps],
  };
  const band = bandOf(TERN, compiledTrial(longer), 6.2, null)!;
  const { x: reached } = band.points.find(({ low, high }) => (low + high) / 2 > 43.99)!;
  const { x: begun } = band.points.find(({ low, high }) => (low + high) / 2 > 0.01)!;
  // 80 % of full scale, of which a tenth of a second may be missing at either end.
  expect(reached - begun).toBeGreaterThan(0.8 * 12.4 - 0.4);
  expect(reached - begun).toBeLessThan(0.8 * 12.4 + 0.2);
});

it('after the link is lost anything down to standstill is expected, and nothing but standstill once it was seen to stand', () => {
  const trial = compiled('loss-of-link');
  const band = bandOf(TERN, trial, 6.2, null)!;
  const begin = (id: string) => band.begins[trial.steps.findIndex(({ step }) => step.id === id)]!;
  expect(at(band, begin('lose') + 1)).toMatchObject({ low: expect.any(Number) as number });
  expect(at(band, begin('lose') + 1).low).toBeLessThan(0);
  expect(at(band, begin('lose') + 1).high).toBeGreaterThan(16);
  expect(at(band, begin('wait') + 1).high).toBeCloseTo(55 * 0.05, 6);
});

it('says where the line left the band: by two samples in a row, not by one', () => {
  const band: Band = {
    of: 'speed',
    unit: 'Hz',
    begins: [0],
    points: [0, 1, 2, 3].map((x) => ({ x, low: 10 * x, high: 10 * x + 5 })),
  };
  expect(
    leftBand(
      band,
      lineOf([
        { x: 0.5, y: 4 },
        { x: 1.5, y: 14 },
      ]),
    ),
  ).toBeNull();
  expect(
    leftBand(
      band,
      lineOf([
        { x: 0.5, y: 4 },
        { x: 1.5, y: 90 },
        { x: 2.5, y: 27 },
      ]),
    ),
  ).toBeNull();
  expect(
    leftBand(
      band,
      lineOf([
        { x: 1.2, y: 90 },
        { x: 1.5, y: 91 },
      ]),
    ),
  ).toMatchObject({ x: 1.2, y: 90, low: 10, high: 25 });
  expect(leftBand(band, lineOf([]))).toBeNull();
});

it('a band is read between its points as it is drawn', () => {
  const band: Band = {
    of: 'speed',
    unit: 'Hz',
    begins: [],
    points: [
      { x: 1, low: 0, high: 4 },
      { x: 3, low: 10, high: 20 },
      { x: 3, low: 30, high: 40 },
      { x: 5, low: 30, high: 44 },
    ],
  };
  expect([0.5, 1, 2, 3, 4, 5, 5.5].map((x) => bandAt(band, x))).toEqual([
    null,
    { low: 0, high: 4 },
    { low: 5, high: 12 },
    { low: 30, high: 40 },
    { low: 30, high: 42 },
    { low: 30, high: 44 },
    null,
  ]);
  expect(bandAt({ ...band, points: [] }, 1)).toBeNull();
});

it.each([0, -1, NaN])('draws nothing by a ramp of %d s', (ramp) => {
  expect(bandOf(TERN, compiled('ramps'), ramp, null)).toBeNull();
});

// Least squares by hand: x 1, 2, 3 and y 2, 4, 7 give a slope of 5/2 and a beginning of -2/3; any text book of statistics has the formula.
it('lays the line of least squares', () => {
  const line = lineThrough([
    [1, 2],
    [2, 4],
    [3, 7],
  ])!;
  expect(line.slope).toBeCloseTo(2.5, 12);
  expect(line.offset).toBeCloseTo(-2 / 3, 12);
  expect(line.residues.map((one) => one.toFixed(4))).toEqual(['0.1667', '-0.3333', '0.1667']);
  expect(
    lineThrough([
      [1, 1],
      [1, 2],
    ]),
  ).toBeNull();
  expect(lineThrough([])).toBeNull();
});
