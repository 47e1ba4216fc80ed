import { fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { FIRST_ROLES, type FirstFacts } from '../core/sheet/begin-sheet';
import { BeginSheetPanel, type BeginSheet } from './begin-sheet-panel';

const begun: FirstFacts[] = [];
function Held(about: Partial<BeginSheet>) {
  const [typed, setTyped] = useState<ReadonlyMap<string, string>>(new Map());
  return (
    <BeginSheetPanel
      name="21 · air flap"
      sheetName={null}
      isUss={false}
      roles={FIRST_ROLES}
      knowsWords={false}
      knowsStop={false}
      off=""
      begin={(facts) => Promise.resolve(void begun.push(facts))}
      {...about}
      text={(field) => typed.get(field) ?? ''}
      set={(field, text) => setTyped((before) => new Map([...before, [field, text]]))}
    />
  );
}
const type = (label: string, value: string) => fireEvent.change(screen.getByLabelText(label), { target: { value } });
const act = () => screen.getByRole('button', { name: /use it at/ });
afterEach(() => begun.splice(0));

it('says what each notation means on the wire, and takes no table that cannot be written', () => {
  render(<Held />);
  expect(act()).toHaveProperty('disabled', true);
  expect(screen.getByText('say where the control word or the reference is')).toBeTruthy();
  type('Control word at', '3:21');
  expect(screen.getByText(/no address that fits/)).toBeTruthy();
  type('Control word at', '40201');
  expect(screen.getByText('holding register 200 on the wire; or 40201, if it is the plain number')).toBeTruthy();
  type('Status word at', '3:21');
  expect(screen.getByText('input register 20 on the wire')).toBeTruthy();
  type('Speed reference at', '202');
  expect(screen.getByText('holding register 202 on the wire; or 201, if the manual counts from 1')).toBeTruthy();
  expect(screen.getByText(/Nothing says how this drive is stopped/)).toBeTruthy();
  fireEvent.click(act());
  expect(begun).toEqual([
    {
      profile: 'plain',
      at: {
        'control-word': { kind: 'register', table: 'holding-register', address: 200 },
        'status-word': { kind: 'register', table: 'input-register', address: 20 },
        'speed-reference': { kind: 'register', table: 'holding-register', address: 202 },
      },
      speeds: 'int16',
      full: undefined,
    },
  ]);
});

it('speeds that are floats need a unit and no scale', () => {
  render(<Held />);
  type('Actual speed at', '3:21');
  type('Control word at', '40201');
  type('The speeds are', 'float32-low');
  expect(screen.queryByLabelText('Raw number')).toBeNull();
  type('Unit', 'rpm');
  fireEvent.click(act());
  expect(begun[0]).toMatchObject({ speeds: 'float32-low', unit: 'rpm', full: undefined });
});

it('half a scale is none, and a field that cannot be read switches the act off', () => {
  render(<Held roles={[]} sheetName="Air flap" knowsWords />);
  type('Raw number', '4000h');
  expect(act()).toHaveProperty('disabled', true);
  type('Speed', '50');
  type('Unit', 'Hz');
  type('Raw number', 'x');
  expect(act()).toHaveProperty('disabled', true);
  type('Raw number', '4000h');
  fireEvent.click(act());
  expect(begun[0]?.full).toEqual({ raw: '16384', value: '50', unit: 'Hz' });
});

it('over USS nothing but the profile is asked', () => {
  render(<Held isUss />);
  expect(screen.queryByLabelText('Control word at')).toBeNull();
  fireEvent.click(act());
  expect(begun[0]?.at['status-word']).toEqual({ kind: 'process', direction: 'in', word: 0 });
});

it('what cannot be kept is said', async () => {
  render(<Held isUss begin={() => Promise.reject(new Error('the line is in motion'))} />);
  fireEvent.click(act());
  expect(await screen.findByText('the line is in motion')).toBeTruthy();
});
