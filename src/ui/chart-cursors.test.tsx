import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { ChartCursors, cursorsIn, withCursor, type Cursors, type Curve, type Shown } from './chart-cursors';

const CURVES: readonly Curve[] = [
  { name: 'reference', unit: 'Hz', at: () => 17.5 },
  { name: 'actual', unit: 'Hz', at: (second) => (second >= 4 ? null : second >= 3 ? 14.25 : 2) },
];

function Picture({ first, onShow }: { readonly first: Cursors | null; readonly onShow?: (shown: Shown) => void }) {
  const [cursors, setCursors] = useState(first);
  const [shown, setShown] = useState<Shown>({ min: 0, max: 9 });
  return (
    <ChartCursors
      curves={CURVES}
      cursors={cursors}
      onCursors={setCursors}
      shown={shown}
      onShow={(next) => {
        setShown(next);
        onShow?.(next);
      }}
      timeText={(second) => `${second.toFixed(1)} s`}
    />
  );
}

it('tells the values at both cursors and their difference', () => {
  render(<Picture first={[1, 3.5]} />);
  const table = screen.getByRole('table', { name: 'Values at the cursors' });
  expect(table).toHaveTextContent('A 1.0 sB 3.5 sB − A, 2.5 s');
  expect(table).toHaveTextContent('actual, Hz214.2512.25');
  expect(table).toHaveTextContent('reference, Hz17.517.50');
});

it('says where nothing is known', () => {
  render(<Picture first={[2, 4.5]} />);
  expect(screen.getByRole('table')).toHaveTextContent('actual, Hz2not known');
});

it('a press moves the nearer cursor, and A stays the earlier one', () => {
  expect(cursorsIn({ min: 10, max: 40 })).toEqual([20, 30]);
  expect(withCursor([20, 30], 12)).toEqual([12, 30]);
  expect(withCursor([20, 30], 26)).toEqual([20, 26]);
  expect(withCursor([20, 30], 35)).toEqual([20, 35]);
});

it('is set and taken away by a button; each is moved by keys too, and what lies between is shown alone', async () => {
  const onShow = jest.fn();
  render(<Picture first={null} onShow={onShow} />);
  await userEvent.click(screen.getByRole('button', { name: 'Cursors' }));
  // What is measured does not move on.
  expect(onShow).toHaveBeenLastCalledWith({ min: 0, max: 9 });
  const second = screen.getByRole('slider', { name: 'cursor B' });
  expect(second).toHaveAttribute('aria-valuetext', '6.0 s');
  fireEvent.change(second, { target: { value: 7.2 } });
  await userEvent.click(screen.getByRole('button', { name: 'Show what lies between' }));
  expect(onShow).toHaveBeenLastCalledWith({ min: 3, max: expect.closeTo(7.2, 1) as number });
  await userEvent.click(screen.getByRole('button', { name: 'Cursors' }));
  expect(screen.queryByRole('slider', { name: 'cursor B' })).toBeNull();
});
