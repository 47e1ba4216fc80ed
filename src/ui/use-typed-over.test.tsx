import { act, renderHook } from '@testing-library/react';
import { wholeIn } from '../core/bytes/whole';
import { useTypedOver } from './use-typed-over';

const means = (text: string): string | null => {
  const value = wholeIn(text);
  return value === null ? null : String(value);
};
const entry = (shown: string) =>
  renderHook((props: { shown: string }) => useTypedOver(props.shown, means), { initialProps: { shown } });

it('shows what the bytes say, and half a number while it is typed', () => {
  const { result } = entry('10');
  expect(result.current[0]).toBe('10');
  act(() => result.current[1]('0x'));
  expect(result.current[0]).toBe('0x');
});

it('says when it shows something else than the bytes: half a number, or one that they did not take', () => {
  const { result, rerender } = entry('10');
  expect(result.current[2]).toBe(true);
  act(() => result.current[1]('70000'));
  expect(result.current.slice(0, 3)).toEqual(['70000', expect.any(Function), false]);
  act(() => result.current[1](''));
  expect(result.current[2]).toBe(false);
  rerender({ shown: '12' });
  expect([result.current[0], result.current[2]]).toEqual(['12', true]);
});

it('keeps the notation that was typed when the bytes follow it', () => {
  const { result, rerender } = entry('10');
  act(() => result.current[1]('0xFF'));
  rerender({ shown: '255' });
  expect(result.current[0]).toBe('0xFF');
});

it('never contradicts the bytes: after an undo or a paste it shows them again', () => {
  const { result, rerender } = entry('10');
  act(() => result.current[1]('6001'));
  rerender({ shown: '6001' });
  rerender({ shown: '80' });
  expect(result.current[0]).toBe('80');
});
