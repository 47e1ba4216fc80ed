import { act, render, screen } from '@testing-library/react';
import { Suspense, use } from 'react';
import { Later, useLater } from './later';

const Shown = ({ value }: { readonly value: number }) => <p>{`${value}, later ${useLater(value, 0)}`}</p>;

it('shows a value after what it came from, and the last one of many', () => {
  const { rerender } = render(<Shown value={1} />);
  expect(screen.getByText('1, later 1')).toBeInTheDocument();
  for (const value of [2, 3, 4]) rerender(<Shown value={value} />);
  expect(screen.getByText('4, later 4')).toBeInTheDocument();
});

const NEVER = new Promise<never>(() => undefined);
const Waits = () => use(NEVER);

it('does not wait for ever for what is done by the way', async () => {
  jest.useFakeTimers();
  await act(async () => {
    render(
      <Suspense fallback="it is awaited">
        here already
        <Later>
          <Waits />
        </Later>
      </Suspense>,
    );
    await Promise.resolve();
  });
  expect(screen.getByText('here already')).toBeInTheDocument();
  await act(async () => jest.advanceTimersByTimeAsync(1000));
  expect(screen.getByText('it is awaited')).toBeInTheDocument();
  jest.useRealTimers();
});
