import { act, fireEvent, screen } from '@testing-library/react';
import { benchAt } from '../../../tests/harness/bench';
import { WordsStage } from './words-stage';

/** The kiln fan, its line open; what is held and let go is kept. */
function atFan() {
  const own = benchAt('K1', 3);
  const acts = { hold: jest.fn(), held: jest.fn(), letGo: jest.fn() };
  Object.assign(own.bench, acts);
  own.know({ 'status-word': 0x0231, 'control-word': 0x0005 }, true);
  own.show(<WordsStage />);
  return { ...own, ...acts, button: () => screen.getByRole('button', { name: /^Hold: .*forward/ }) };
}

it('what is held is what the button says, however often the drive was read meanwhile', () => {
  const { know, hold, letGo, button } = atFan();
  act(() => know({ 'status-word': 0x0231, 'control-word': 0x000d }, true));
  const [, word] = /(0x[0-9A-F]{4}); let go/.exec(button().textContent ?? '') ?? [];
  fireEvent.keyDown(button(), { key: ' ' });
  const [drive, jog] = hold.mock.lastCall as [{ station: number }, { shown: string }];
  expect([drive.station, word !== undefined && jog.shown.includes(word)]).toEqual([3, true]);
  fireEvent.keyUp(button(), { key: ' ' });
  expect(letGo.mock.calls).toEqual([[drive]]);
});

it('another drive that comes into view while one is held lets go of the one that was held', () => {
  const { bench, hold, letGo, button } = atFan();
  fireEvent.keyDown(button(), { key: ' ' });
  const [held] = hold.mock.lastCall as [{ line: string; station: number }];
  const other = bench.state
    .getState()
    .job?.lines.flatMap(({ id, stations }) =>
      stations
        .filter(({ station }) => id !== held.line || station !== held.station)
        .map(({ station }) => ({ lineId: id, station })),
    )[0];
  act(() => bench.state.setState(other ?? {}));
  expect(letGo.mock.calls).toEqual([[held]]);
});
