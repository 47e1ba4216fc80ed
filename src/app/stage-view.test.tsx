import { act, screen } from '@testing-library/react';
import { LineStrip } from '../features/line-strip/line-strip';
import { benchAt } from '../../tests/harness/bench';
import type { BenchState } from '../bench/state/bench-state';
import { StageView } from './stage-view';

// The local server is away; stand-ins of its own are asked of it.
beforeAll(() => Object.assign(globalThis, { fetch: () => Promise.reject(new Error('away')) }));

const ENDS: readonly BenchState['phase'][] = [{ kind: 'ready' }, { kind: 'failed', reason: 'the server is away' }];

it.each(ENDS)('a stage waits for the job, which is said, and stands there when that is $kind', (end) => {
  const { bench, show } = benchAt('K1', 3, { phase: { kind: 'starting' } });
  show(
    <>
      <LineStrip />
      <StageView>
        <p>the stage</p>
      </StageView>
    </>,
  );
  expect(screen.getByText('Opening the job …')).toBeVisible();
  expect(screen.getByText('the job is being opened')).toBeVisible();
  // Nothing is said of either end yet that the job may say otherwise.
  expect(screen.queryByText(/no link|stand-in|no station|not asked/)).toBeNull();
  expect(screen.getByRole('button', { name: /^Stop/ })).toBeEnabled();
  expect(screen.queryByText('the stage')).toBeNull();
  act(() => bench.state.setState({ phase: end }));
  expect(screen.getByText('the stage')).toBeVisible();
  expect(screen.queryByText('the job is being opened')).toBeNull();
  expect(screen.getByText('stand-in yard')).toBeVisible();
  expect(screen.getByRole('status', { name: 'Drive' })).toHaveTextContent('not asked');
});
