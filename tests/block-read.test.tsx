import { fireEvent, screen } from '@testing-library/react';
import { benchOnLine, FAN } from './harness/bench-on-line';
import { CALM } from '../src/standin/disturbance';
import { BlockPart } from '../src/features/registers/block-part';

const LABEL = /^A block that was copied/;

it('a block is read where it stands, by a press; a refusal is said, and what is typed afterwards stays', async () => {
  const { show, own, index } = await benchOnLine(FAN);
  show(<BlockPart />);
  fireEvent.change(screen.getByLabelText('Block'), { target: { value: 'telegram-1-in' } });
  const read = (): HTMLElement => screen.getByRole('button', { name: /^Read it from/ });
  expect(read()).toHaveAccessibleDescription('give the register at which it stands');
  const place = index.byRole.get('status-word')?.place;
  if (place?.kind !== 'register') throw new Error('the fan’s status word is in no register');
  fireEvent.change(screen.getByLabelText('It stands at register'), { target: { value: `${place.address}` } });
  expect(screen.getByLabelText(LABEL)).toHaveValue('');
  fireEvent.click(read());
  // Station, function, count of bytes, then the registers as they crossed the line.
  const reply = own.results.at(-1)?.reply ?? new Uint8Array(0);
  expect([...reply.subarray(0, 3)]).toEqual([FAN.station, 3, 4]);
  const bytes = [...reply.subarray(3, 7)];
  expect(screen.getByLabelText(LABEL)).toHaveValue(
    bytes.map((byte) => byte.toString(16).padStart(2, '0').toUpperCase()).join(' '),
  );
  fireEvent.change(screen.getByLabelText(LABEL), { target: { value: '01 02 03 04' } });
  expect(screen.getByLabelText(LABEL)).toHaveValue('01 02 03 04');

  // Nor does another block, of another size, that is looked at now.
  fireEvent.change(screen.getByLabelText('Block'), { target: { value: 'cia402-1-in' } });
  expect(screen.getByLabelText(LABEL)).toHaveValue('01 02 03 04');
  fireEvent.change(screen.getByLabelText('Block'), { target: { value: 'telegram-1-in' } });
  expect(screen.getByLabelText(LABEL)).toHaveValue('01 02 03 04');

  // A reply that is lost is said; the next press reads.
  own.yard.disturb({ ...CALM, open: 'everywhere' });
  fireEvent.click(read());
  expect(screen.getByText(/^no value: /)).toBeInTheDocument();
  expect(screen.getByLabelText(LABEL)).toHaveValue('01 02 03 04');
  own.yard.disturb(CALM);
  fireEvent.click(read());
  expect(screen.getByText('read: its bytes stand below')).toBeInTheDocument();
  fireEvent.change(screen.getByLabelText(LABEL), { target: { value: '01 02 03 04' } });

  fireEvent.change(screen.getByLabelText('It stands at register'), { target: { value: '60000' } });
  fireEvent.click(read());
  expect(screen.getByText('refused, exception 2')).toBeInTheDocument();
  expect(screen.getByLabelText(LABEL)).toHaveValue('01 02 03 04');

  fireEvent.change(screen.getByLabelText('It stands at register'), { target: { value: '65535' } });
  expect(read()).toHaveAccessibleDescription('it would end behind the last register');
  fireEvent.change(screen.getByLabelText('It stands at register'), { target: { value: 'far' } });
  expect(read()).toBeDisabled();
});
