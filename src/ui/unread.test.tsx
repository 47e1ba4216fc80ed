import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { TypedField } from './fields';
import { UnreadForm, useUnread } from './unread';

/** A form of fields that take whole numbers only, one of which can go away. */
function Form({ labels, onAct }: { readonly labels: readonly string[]; readonly onAct: () => void }) {
  const unread = useUnread();
  return (
    <>
      <UnreadForm unread={unread}>
        {labels.map((label) => (
          <Whole key={label} label={label} />
        ))}
      </UnreadForm>
      <button disabled={unread.why !== ''} onClick={onAct}>
        Send
      </button>
      <p data-testid="why">{unread.why}</p>
    </>
  );
}

function Whole({ label }: { readonly label: string }) {
  const [text, setText] = useState('1');
  return (
    <TypedField label={label} value={text} onChange={setText} error={/^\d+$/.test(text) ? '' : 'a whole number'} />
  );
}

const type = (label: string, value: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
};
const why = (): string | null => screen.getByTestId('why').textContent;

it('an act is off, with its reason, as long as any field shows something else than what would go out', () => {
  const onAct = jest.fn();
  const { rerender } = render(<Form labels={['Address', 'Value']} onAct={onAct} />);
  expect(screen.getByRole('button')).toBeEnabled();
  type('Value', '15 Hz');
  expect(why()).toBe('Not sent while “Value” shows something else than what would go out.');
  fireEvent.click(screen.getByRole('button'));
  expect(onAct).not.toHaveBeenCalled();
  type('Address', 'x');
  expect(why()).toBe('Not sent while “Value” and “Address” show something else than what would go out.');
  type('Value', '15');
  expect(why()).toBe('Not sent while “Address” shows something else than what would go out.');
  rerender(<Form labels={['Value']} onAct={onAct} />);
  expect(why()).toBe('');
  fireEvent.click(screen.getByRole('button'));
  expect(onAct).toHaveBeenCalledTimes(1);
});
