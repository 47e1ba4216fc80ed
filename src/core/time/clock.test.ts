import { VirtualClock } from './clock';

function diary() {
  const clock = new VirtualClock();
  const lines: string[] = [];
  const at = (timeUs: number, name: string, then?: () => void) =>
    clock.at(timeUs, () => {
      lines.push(`${clock.now()} ${name}`);
      then?.();
    });
  return { clock, lines, at };
}

it('steps from due time to due time, also to what a callback asks for', () => {
  const { clock, lines, at } = diary();
  at(20, 'b', () => at(25, 'c'));
  at(10, 'a');
  clock.advanceTo(100);
  expect(lines).toEqual(['10 a', '20 b', '25 c']);
  expect(clock.now()).toBe(100);
});

it('runs equal times in the order in which they were asked for', () => {
  const { clock, lines, at } = diary();
  for (const name of ['a', 'b', 'c', 'd', 'e']) at(5, name);
  clock.advanceTo(5);
  expect(lines.map((line) => line[2])).toEqual(['a', 'b', 'c', 'd', 'e']);
});

it('takes the past as now and forgets what was cancelled', () => {
  const { clock, lines, at } = diary();
  clock.advanceTo(50);
  const gone = at(60, 'gone');
  at(10, 'late');
  clock.cancel(gone);
  expect(clock.nextDueUs()).toBe(50);
  clock.advanceBy(100);
  expect(lines).toEqual(['50 late']);
});

it('keeps order over many random times', () => {
  const { clock, lines, at } = diary();
  for (let i = 0; i < 2000; i++) at((i * 7919) % 997, String(i));
  clock.advanceTo(1000);
  const times = lines.map((line) => parseInt(line, 10));
  expect(times).toEqual([...times].sort((a, b) => a - b));
  expect(times).toHaveLength(2000);
});
