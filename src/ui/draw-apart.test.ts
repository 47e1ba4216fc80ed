import type { Chart, UpdateMode } from 'chart.js';
import { drawApart } from './draw-apart';

/** A chart that counts how often it is laid out and drawn, as the library does both; `isThere`: it was laid out before. */
function chartOf(isThere = true) {
  const said = { laidOut: 0, drawn: 0, told: 0 };
  const options = { drawn: () => void said.told++ };
  const chart = {
    chartArea: isThere ? {} : undefined,
    update: (mode?: UpdateMode): void => {
      if (drawApart.beforeUpdate?.(own, { mode: mode as UpdateMode, cancelable: true }, options) === false) return;
      said.laidOut++;
      drawApart.afterUpdate?.(own, { mode: mode as UpdateMode }, options);
      if (drawApart.beforeRender?.(own, { cancelable: true }, options) !== false) chart.draw();
    },
    draw: () => void said.drawn++,
  };
  const own = chart as unknown as Chart<'line'>;
  const render = (): unknown => drawApart.beforeRender?.(own, { cancelable: true }, options);
  const destroy = (): void => drawApart.beforeDestroy?.(own, {}, options);
  return { chart, said, render, destroy };
}

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

it('lays out in a task of its own and draws in the next, once however often it was asked for, and says so', () => {
  const { chart, said } = chartOf();
  chart.update();
  chart.update();
  expect(said).toEqual({ laidOut: 0, drawn: 0, told: 0 });
  jest.advanceTimersToNextTimer();
  expect(said).toEqual({ laidOut: 1, drawn: 0, told: 0 });
  jest.advanceTimersToNextTimer();
  expect(said).toEqual({ laidOut: 1, drawn: 1, told: 1 });
  chart.update();
  jest.runAllTimers();
  expect(said).toEqual({ laidOut: 2, drawn: 2, told: 2 });
});

it('is drawn in its time though it is asked for again: the first to ask sets it', () => {
  const { chart, said } = chartOf();
  chart.update();
  const putOff = jest.spyOn(globalThis, 'clearTimeout');
  chart.update();
  expect([putOff.mock.calls.length, jest.getTimerCount()]).toEqual([0, 1]);
  jest.runAllTimers();
  expect(said.drawn).toBe(1);
  putOff.mockRestore();
});

it('does not say that what was asked for is drawn where a hand only moves over the chart', () => {
  const { chart, said, render } = chartOf();
  render();
  jest.runAllTimers();
  expect(said).toEqual({ laidOut: 0, drawn: 1, told: 0 });
  chart.update();
  // Asked for before it is laid out, and drawn after.
  render();
  jest.runAllTimers();
  expect(said.told).toBe(1);
});

it('is laid out at once the first time, and where it follows a hand that drags', () => {
  const { chart, said } = chartOf(false);
  chart.update();
  expect(said.laidOut).toBe(1);
  const there = chartOf();
  there.chart.update('none');
  expect(there.said.laidOut).toBe(1);
});

it('goes on apart where laying out once failed', () => {
  const { chart, said } = chartOf();
  const lay = jest.spyOn(drawApart, 'beforeRender' as never).mockImplementationOnce(() => {
    throw new Error('no room');
  });
  chart.update();
  expect(() => jest.runAllTimers()).toThrow('no room');
  lay.mockRestore();
  said.laidOut = 0;
  chart.update();
  expect(said.laidOut).toBe(0);
  jest.runAllTimers();
  expect(said).toMatchObject({ laidOut: 1, drawn: 1 });
});

it('a chart that is gone by then is neither laid out nor drawn', () => {
  const gone = chartOf();
  gone.chart.update();
  gone.destroy();
  const laidOut = chartOf();
  laidOut.chart.update();
  jest.advanceTimersToNextTimer();
  laidOut.destroy();
  jest.runAllTimers();
  expect([gone.said, laidOut.said]).toEqual([
    { laidOut: 0, drawn: 0, told: 0 },
    { laidOut: 1, drawn: 0, told: 0 },
  ]);
});
