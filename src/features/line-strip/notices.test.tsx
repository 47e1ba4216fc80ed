import { act } from '@testing-library/react';
import { benchAt } from '../../../tests/harness/bench';
import type { BenchState } from '../../bench/state/bench-state';
import { Notices } from './notices';

const REFUSED = { refused: 'The line was not closed: a drive is in motion.' };
const STOPPED: Partial<BenchState> = { stops: [{ line: 'K1', cause: 'Stop', outcomes: [], over: true }] };

function notices() {
  const { bench, show } = benchAt('K1', 3);
  show(<Notices />);
  const set = (part: Partial<BenchState>): void => act(() => bench.state.setState(part));
  const shown = (): readonly (string | undefined)[] =>
    [...document.querySelectorAll<HTMLElement>('[data-testid]')].map(({ dataset }) => dataset['testid']);
  return { set, shown };
}

it('what comes stands above what is there: nothing is moved from under a hand', () => {
  const { set, shown } = notices();
  expect(shown()).toEqual([]);
  set({ changedElsewhere: true });
  set(REFUSED);
  expect(shown()).toEqual(['refused', 'job-changed']);
  set(STOPPED);
  expect(shown()).toEqual(['stop-report', 'refused', 'job-changed']);
});

it('one that was put away comes back on top', () => {
  const { set, shown } = notices();
  set({ changedElsewhere: true, ...REFUSED });
  expect(shown()).toEqual(['refused', 'job-changed']);
  set({ changedElsewhere: false });
  expect(shown()).toEqual(['refused']);
  set({ changedElsewhere: true });
  expect(shown()).toEqual(['job-changed', 'refused']);
});
