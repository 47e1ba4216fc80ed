import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { NameField } from './name-field';

function Holder({ seen }: { readonly seen: (name: string) => void }) {
  const [name, setName] = useState('adapter');
  return (
    <NameField
      label="device"
      width={100}
      value={name}
      onName={(next) => {
        setName(next);
        seen(next);
      }}
    />
  );
}

it('is emptied and typed anew; while it is empty it says so, and what is kept stays', async () => {
  const seen = jest.fn();
  render(<Holder seen={seen} />);
  const field = screen.getByLabelText('device');
  await userEvent.clear(field);
  expect(field).toHaveValue('');
  expect(field).toHaveAccessibleDescription('a name');
  expect(seen).not.toHaveBeenCalled();
  await userEvent.type(field, 'gateway 2');
  expect(field).toHaveValue('gateway 2');
  expect(seen).toHaveBeenLastCalledWith('gateway 2');
});
