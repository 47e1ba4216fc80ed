import { fireEvent, render, screen } from '@testing-library/react';
import { ActButton, whyOff } from './act-button';

it('says why it is off, to eyes and to readers alike, and does nothing then', () => {
  const press = jest.fn();
  const { rerender } = render(
    <ActButton off="the line is closed" onClick={press}>
      Send
    </ActButton>,
  );
  const button = screen.getByRole('button', { name: 'Send' });
  expect(button).toBeDisabled();
  expect(button).toHaveAccessibleDescription('the line is closed');
  fireEvent.click(button);
  expect(press).not.toHaveBeenCalled();
  rerender(
    <ActButton off="" onClick={press}>
      Send
    </ActButton>,
  );
  fireEvent.click(button);
  expect(press).toHaveBeenCalledTimes(1);
  expect(screen.queryByText('the line is closed')).toBeNull();
});

it('the first reason that holds is told', () => {
  expect(whyOff([false, 'a'], [true, 'b'], [true, 'c'])).toBe('b');
  expect(whyOff([false, 'a'])).toBe('');
});
