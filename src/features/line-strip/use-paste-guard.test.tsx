import { fireEvent, render } from '@testing-library/react';
import { benchAt } from '../../../tests/harness/bench';
import { BenchProvider } from '../../bench/bench-context';
import { usePasteGuard } from './use-paste-guard';

function Page() {
  usePasteGuard();
  return (
    <>
      <input />
      <textarea />
    </>
  );
}

it('a whole log pasted into a field of one row is refused with a sentence; a field of several rows looks after itself', () => {
  const { bench } = benchAt('K1', 3);
  const { container } = render(
    <BenchProvider bench={bench}>
      <Page />
    </BenchProvider>,
  );
  const [input, area] = [container.querySelector('input'), container.querySelector('textarea')] as [Element, Element];
  const paste = (into: Element, size: number): boolean =>
    fireEvent.paste(into, { clipboardData: { getData: () => 'x'.repeat(size) } });
  expect(paste(input, 2000)).toBe(true);
  expect(bench.state.getState().refused).toBe('');
  expect(paste(area, 100_000)).toBe(true);
  expect(paste(input, 100_000)).toBe(false);
  expect(bench.state.getState().refused).toBe(
    '100000 characters were not pasted: a field of one row takes 2000 at most.',
  );
});
