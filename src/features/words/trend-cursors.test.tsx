import { fireEvent, render, screen } from '@testing-library/react';
import type { Trend } from '../../core/trace/trend';
import { CursorSlider, cursorsIn, CursorText, withCursor } from './trend-cursors';

const trend: Trend = {
  reference: [{ x: 0, y: 17.5 }],
  actual: [
    { x: 1, y: 2 },
    { x: 3, y: 14.25 },
    { x: 4, y: null },
  ],
  current: [
    { x: 1, y: 0 },
    { x: 2, y: 1.5 },
  ],
  bits: [],
  sent: [],
  endS: 9,
};

it('tells the values at both cursors and their difference', () => {
  render(<CursorText trend={trend} cursors={[1, 3.5]} unit="Hz" currentUnit="A" startMs={0} />);
  const table = screen.getByRole('table', { name: 'Values at the cursors' });
  expect(table).toHaveTextContent('B − A, 2.5 s');
  expect(table).toHaveTextContent('actual, Hz214.2512.25');
  expect(table).toHaveTextContent('reference, Hz17.517.50');
  expect(table).toHaveTextContent('current, A01.51.5');
});

it('says where nothing is known', () => {
  render(<CursorText trend={trend} cursors={[2, 4.5]} unit="Hz" currentUnit="A" startMs={0} />);
  expect(screen.getByRole('table')).toHaveTextContent('actual, Hz2not known');
});

it('a press moves the nearer cursor, and A stays the earlier one', () => {
  expect(cursorsIn(10, 40)).toEqual([20, 30]);
  expect(withCursor([20, 30], 12)).toEqual([12, 30]);
  expect(withCursor([20, 30], 26)).toEqual([20, 26]);
  expect(withCursor([20, 30], 35)).toEqual([20, 35]);
});

it('each cursor is moved by keys too, and says its time', () => {
  const moved = jest.fn();
  render(<CursorSlider cursors={[20, 30]} onChange={moved} min={10} max={40} startMs={0} />);
  const second = screen.getByRole('slider', { name: 'cursor B' });
  expect(second).toHaveAttribute('aria-valuetext', expect.stringContaining('00:30'));
  fireEvent.change(second, { target: { value: 35.2 } });
  expect(moved).toHaveBeenCalledWith([20, expect.closeTo(35.2, 1)]);
});
