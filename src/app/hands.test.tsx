import { fireEvent } from '@testing-library/react';
import { watchHands } from './hands';

beforeEach(() => jest.useFakeTimers({ now: 0 }));
afterEach(() => jest.useRealTimers());

/** When `rest` ended, in milliseconds from its begin. */
async function restMs(touchEveryMs: number, touches: number): Promise<number> {
  const hands = watchHands();
  let endedMs = -1;
  void hands.rest(1000, 8000).then(() => (endedMs = performance.now()));
  for (let touch = 0; touch < touches; touch++) {
    await jest.advanceTimersByTimeAsync(touchEveryMs);
    fireEvent.keyDown(document.body, { key: 'a' });
  }
  await jest.advanceTimersByTimeAsync(20_000);
  hands.leave();
  return endedMs;
}

it.each([
  ['a page that nobody touches', 400, 0, 1000],
  ['a page that was touched four times', 400, 4, 2600],
  ['a page that is touched without end', 400, 50, 8000],
])('%s is at rest in time', async (_, everyMs, touches, expected) => {
  expect(await restMs(everyMs, touches)).toBe(expected);
});

it('hands that are not watched any more hold nothing up', async () => {
  const hands = watchHands();
  hands.leave();
  await jest.advanceTimersByTimeAsync(900);
  fireEvent.pointerDown(document.body);
  let isOver = false;
  void hands.rest(1000, 8000).then(() => (isOver = true));
  await jest.advanceTimersByTimeAsync(100);
  expect(isOver).toBe(true);
});
