import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { NumberEntry, OptionalNumberEntry } from './number-entry';

const kept: (number | undefined)[] = [];

function Bit() {
  const [bit, setBit] = useState(3);
  const keep = (value: number): void => {
    kept.push(value);
    setBit(value);
  };
  return <NumberEntry label="Bit" width={60} least={0} most={31} value={bit} onChange={keep} />;
}

function Least() {
  const [least, setLeast] = useState<number | undefined>(5);
  const keep = (value: number | undefined): void => {
    kept.push(value);
    setLeast(value);
  };
  return <OptionalNumberEntry label="Least" width={60} value={least} onChange={keep} />;
}

const entry = (): HTMLElement => screen.getByRole('textbox');

beforeEach(() => kept.splice(0));

it('keeps a number that has to be there, and names what is typed instead of it', async () => {
  render(<Bit />);
  await userEvent.clear(entry());
  expect(entry()).toBeInvalid();
  expect(kept).toEqual([]);
  await userEvent.type(entry(), '12');
  expect(entry()).toBeValid();
  await userEvent.type(entry(), 'x');
  expect(entry()).toHaveValue('12x');
  expect(screen.getByText('0 to 31')).toBeVisible();
  expect(kept).toEqual([1, 12]);
});

it('takes no number beyond its limits', async () => {
  render(<Bit />);
  await userEvent.clear(entry());
  await userEvent.type(entry(), '31');
  await userEvent.type(entry(), '0');
  expect(entry()).toHaveValue('310');
  expect(entry()).toBeInvalid();
  expect(kept).toEqual([3, 31]);
});

it('takes an empty entry for none where there may be none, and a minus sign for the beginning of one', async () => {
  render(<Least />);
  await userEvent.clear(entry());
  expect(kept).toEqual([undefined]);
  await userEvent.type(entry(), '-');
  expect(screen.getByText('a whole number')).toBeVisible();
  await userEvent.type(entry(), '40');
  expect(entry()).toHaveValue('-40');
  expect(kept).toEqual([undefined, -4, -40]);
});
