import { Pace } from './pace';

it('waits for nothing before the first drawing, and hardly after a quick one', () => {
  const pace = new Pace();
  expect(pace.restMs(0)).toBe(0);
  pace.begin(100);
  pace.end(110);
  expect(pace.restMs(110)).toBe(50);
  expect(pace.restMs(160)).toBe(0);
});

it('leaves five parts of the thread to others after a slow drawing, and ends however slow it was', () => {
  const pace = new Pace();
  pace.begin(1000);
  pace.end(1150);
  expect(pace.restMs(1150)).toBe(5 * 150);
  pace.begin(5000);
  pace.end(6500);
  expect(pace.restMs(6500)).toBe(500);
  pace.begin(10_000);
  pace.end(90_000);
  expect(pace.restMs(90_000)).toBe(0);
});

it('counts nothing that was not begun, and another thing to draw waits for nothing', () => {
  const pace = new Pace();
  pace.begin(0);
  pace.end(100);
  pace.end(400);
  expect(pace.restMs(400)).toBe(200);
  pace.forget();
  expect(pace.restMs(400)).toBe(0);
  pace.end(500);
  expect(pace.restMs(500)).toBe(0);
});
