import { fireEvent, render } from '@testing-library/react';
import { useKeys, type KeyMap } from './use-keys';

function Page({ keys, dialog = false }: { readonly keys: KeyMap; readonly dialog?: boolean }) {
  useKeys(keys);
  return (
    <>
      <input aria-label="entry" />
      {dialog && <div role="dialog" />}
    </>
  );
}

const press = (key: string, rest: KeyboardEventInit = {}): void => void fireEvent.keyDown(window, { key, ...rest });

it('a held key acts once, so a word is sent once', () => {
  const send = jest.fn();
  render(<Page keys={{ 'Ctrl+Enter': send }} />);
  press('Enter', { ctrlKey: true });
  press('Enter', { ctrlKey: true, repeat: true });
  expect(send).toHaveBeenCalledTimes(1);
});

it('nothing is sent from behind a dialog, but Stop works', () => {
  const [send, stop] = [jest.fn(), jest.fn()];
  render(<Page keys={{ 'Ctrl+Enter': send, 'Ctrl+.': stop }} dialog />);
  press('Enter', { ctrlKey: true });
  press('.', { ctrlKey: true });
  expect([send.mock.calls.length, stop.mock.calls.length]).toEqual([0, 1]);
});

it('bare keys rest while somebody types', () => {
  const fold = jest.fn();
  const { getByLabelText } = render(<Page keys={{ t: fold }} />);
  fireEvent.keyDown(getByLabelText('entry'), { key: 't' });
  expect(fold).not.toHaveBeenCalled();
  press('t');
  expect(fold).toHaveBeenCalledTimes(1);
});
