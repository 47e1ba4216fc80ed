import { pick, seededRandom } from '../../core/random/random';
import { withoutPlanned, withPlanned } from '../../core/sets/plan';
import { changePlan, planOf, redoPlan, registersStore, setRunning, undoPlan } from './registers-store';

it.each([1, 2, 3, 4, 5])('undo of all steps of a plan gives its start, and redo of all its end (seed %i)', (seed) => {
  const random = seededRandom(seed);
  const key = `drive ${seed}`;
  const start = planOf(key).present;
  let steps = 0;
  for (let i = 0; i < 60; i++) {
    const number = `${pick(random, 12)}`;
    const before = planOf(key).present;
    changePlan(key, (plan) =>
      random() < 0.3 && plan.has(number)
        ? withoutPlanned(plan, number)
        : withPlanned(plan, number, { words: [pick(random, 100)], reason: 'typed' }),
    );
    if (planOf(key).present !== before) steps++;
  }
  const end = planOf(key).present;
  for (let i = 0; i < steps; i++) undoPlan(key);
  expect(planOf(key).present).toBe(start);
  // One step more changes nothing.
  undoPlan(key);
  expect(planOf(key).present).toBe(start);
  for (let i = 0; i < steps; i++) redoPlan(key);
  expect([...planOf(key).present]).toEqual([...end]);
});

it('a step that changes nothing is none', () => {
  changePlan('same', (plan) => plan);
  expect(planOf('same').past).toEqual([]);
});

it('the plans and the runs of two drives stay apart, and a run that ended says why', () => {
  changePlan('a', (plan) => withPlanned(plan, '1', { words: [1], reason: 'typed' }));
  expect(planOf('b').present.size).toBe(0);
  setRunning('a', { kind: 'read', id: 'x', sinceUs: 0, knownThen: 0, isPausing: false });
  setRunning('b', { kind: 'write', id: 'y', sinceUs: 0, knownThen: 0, isPausing: false });
  setRunning('a', null, 'paused');
  expect([...registersStore.getState().running.keys()]).toEqual(['b']);
  expect(registersStore.getState().said.get('a')).toBe('paused');
});
