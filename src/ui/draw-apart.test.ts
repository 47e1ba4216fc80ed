import type { Chart } from 'chart.js';
import { drawApart } from './draw-apart';

/** A chart that counts how often it is drawn. */
function chartOf() {
  const chart = { drawn: 0, draw: () => void chart.drawn++ };
  const own = chart as unknown as Chart<'line'>;
  const render = (): boolean | void => drawApart.beforeRender?.(own, { cancelable: true }, {});
  const destroy = (): void => drawApart.beforeDestroy?.(own, {}, {});
  return { chart, render, destroy };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

it('draws in a task of its own, once however often it was asked before that', () => {
  const { chart, render } = chartOf();
  expect([render(), render(), chart.drawn]).toEqual([false, false, 0]);
  jest.runAllTimers();
  expect(chart.drawn).toBe(1);
  render();
  jest.runAllTimers();
  expect(chart.drawn).toBe(2);
});

it('is drawn in its time though it is asked for again: the first to ask sets it', () => {
  const { chart, render } = chartOf();
  render();
  const putOff = jest.spyOn(globalThis, 'clearTimeout');
  render();
  expect([putOff.mock.calls.length, jest.getTimerCount()]).toEqual([0, 1]);
  jest.runAllTimers();
  expect(chart.drawn).toBe(1);
  putOff.mockRestore();
});

it('a chart that is gone by then is not drawn', () => {
  const { chart, render, destroy } = chartOf();
  render();
  destroy();
  jest.runAllTimers();
  expect(chart.drawn).toBe(0);
});
