import { ternIndex, shippedIndex } from '../../../tests/harness/sheets';
import { INTENTS, WANTED } from '../motor/intents';
import { saidText } from './said';
import { planFaults, type Plan } from './plan';
import { proposalsOf } from './from-plate';

const PLATE = { powerKw: 4, voltageV: 400, currentA: 8.2, frequencyHz: 50, speedRpm: 1445, powerFactor: 0.82 };
const none = new Map();

it('a fan’s plate becomes a plan with the working beside each value', () => {
  const index = ternIndex();
  const found = proposalsOf(index, PLATE, 'fan', none);
  const said = found.map(
    ({ role, parameter, words, reason }) =>
      `${role}: ${parameter && words ? saidText(index, parameter, { kind: 'value', words, atMs: null }, none) : '–'} (${reason})`,
  );
  expect(said).toEqual(
    expect.arrayContaining([
      'rated-power: 400 = 4 kW (the plate: 4 kW)',
      'rated-current: 82 = 8.2 A (the plate: 8.2 A)',
      'motor-poles: 4 (120 × 50 Hz / 1445 rpm = 4.152, so 4 poles)',
      'rated-speed: – (the sheet has no such setting)',
      expect.stringMatching(/^ramp-time: 200 = 20 s \(20 s: a fan’s wheel is heavy/),
      expect.stringMatching(/^minimum-speed: .* = 10 Hz \(0\.2 × 50 Hz = 10 Hz/),
      expect.stringMatching(/^command-source: 2 = network/),
      expect.stringMatching(/^power-return: 0 = off/),
      expect.stringMatching(/^stop-way: 1 = let run out/),
    ]),
  );
});

it.each(INTENTS.map(({ id }) => id))('what a %s asks for is no plan that the shipped drives would refuse', (intent) => {
  for (const slug of ['tern', 'wren', 'curlew', 'dunlin']) {
    const index = shippedIndex(slug);
    const plan: Plan = new Map(
      proposalsOf(index, PLATE, intent, none).flatMap(({ parameter, words, reason }) =>
        parameter && words ? [[parameter.number, { words, reason }]] : [],
      ),
    );
    expect(plan.size).toBeGreaterThan(3);
    expect(planFaults(index, plan, none).filter(({ isBad }) => isBad)).toEqual([]);
  }
});

it('whatever a drive is for, it does not start by itself when power returns', () => {
  for (const wanted of Object.values(WANTED))
    expect(wanted.find(({ role }) => role === 'power-return')?.wish).toMatchObject({ called: 'off' });
});

it('a share of a speed that the plate does not say is not made up', () => {
  const found = proposalsOf(ternIndex(), { ...PLATE, frequencyHz: null }, 'pump', none);
  expect(found.find(({ role }) => role === 'maximum-speed')).toMatchObject({
    words: null,
    reason: expect.stringMatching(/^the plate does not say what full speed is in Hz/) as string,
  });
});
