import { render, screen } from '@testing-library/react';
import type { Trend } from '../../core/trace/trend';
import { CursorText, withCursor } from './trend-cursors';

const trend: Trend = {
  reference: [{ x: 0, y: 17.5 }],
  actual: [
    { x: 1, y: 2 },
    { x: 3, y: 14.25 },
    { x: 4, y: null },
  ],
  bits: [],
  sent: [],
  endS: 9,
};

it('tells the values at both cursors and their difference, whichever was set first', () => {
  render(<CursorText trend={trend} cursors={[3.5, 1]} unit="Hz" startMs={0} />);
  const table = screen.getByRole('table', { name: 'Values at the cursors' });
  expect(table).toHaveTextContent('B − A, 2.5 s');
  expect(table).toHaveTextContent('actual, Hz214.2512.25');
  expect(table).toHaveTextContent('reference, Hz17.517.50');
});

it('says where nothing is known; a third press moves the first cursor', () => {
  render(<CursorText trend={trend} cursors={[4.5]} unit="Hz" startMs={0} />);
  expect(screen.getByRole('table')).toHaveTextContent('actual, Hznot known');
  expect(withCursor(withCursor(withCursor([], 1), 2), 3)).toEqual([2, 3]);
});
