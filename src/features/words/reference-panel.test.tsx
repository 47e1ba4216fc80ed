import { act, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { ternIndex } from '../../../tests/harness/sheets';
import type { Parameter } from '../../core/sheet/parameter-section';
import { shelfOf } from '../../core/sheet/shelf';
import { bytesToHex } from '../../core/bytes/hex';
import { WordsStage } from './words-stage';

/** The fan as if its reference, speed and current had another form, each from register 800, 810 and 820 on. */
function withForm(form: Pick<Parameter, 'type' | 'order' | 'scale'>, more: readonly Parameter[] = []) {
  const { sheet } = ternIndex();
  const at: Partial<Record<string, number>> = { 'speed-reference': 800, 'actual-speed': 810, current: 820 };
  const parameters = (sheet.parameters ?? []).map((own): Parameter => {
    const address = at[own.role ?? ''];
    return address === undefined
      ? own
      : {
          number: own.number,
          name: own.name,
          role: own.role,
          unit: 'Hz',
          ...form,
          at: [{ kind: 'register', table: 'holding-register', address }],
        };
  });
  return benchAt('K1', 3, { sheets: shelfOf([{ ...sheet, parameters: [...parameters, ...more] }]) });
}

// IEEE 754-2019, binary32 and binary64: 17.5 is 418C0000 and 4031800000000000. Counts by hand: 17.5 Hz / 0.01 Hz = 1750 = 0x6D6.
it.each([
  ['float32', {}, '0x418C0000', '03 20 00 02 04 41 8c 00 00'],
  ['float64', {}, '0x4031800000000000', '03 20 00 04 08 40 31 80 00 00 00 00 00'],
  ['float64', { order: 'GHEFCDAB' }, '0x4031800000000000', '03 20 00 04 08 00 00 00 00 80 00 40 31'],
  [
    'int64',
    { scale: { kind: 'resolution', value: '0.01' } },
    '0x00000000000006D6',
    '03 20 00 04 08 00 00 00 00 00 00 06 d6',
  ],
  [
    'int32',
    { order: 'CDAB', scale: { kind: 'resolution', value: '0.01' } },
    '0x000006D6',
    '03 20 00 02 04 06 d6 00 00',
  ],
] as const)('a reference as %s %j is worked out and sent in one request', async (type, form, hex, sent) => {
  const { bench, know, show } = withForm({ type, ...form });
  know({ 'control-word': 4, 'status-word': 1 }, true);
  show(<WordsStage />);
  await userEvent.type(screen.getByLabelText(/^wanted, Hz/), '17.5');
  await userEvent.click(screen.getByRole('button', { name: new RegExp(`^Send ${hex} to`) }));
  expect(within(screen.getByTestId('working')).getByText('the drive gets 17.5 Hz')).toBeInTheDocument();
  const [, bytes] = (bench.send as jest.Mock).mock.calls[0] as [unknown, Uint8Array];
  // Station 3, function 16, the registers; the check closes it.
  expect(bytesToHex(bytes.subarray(0, -2), ' ')).toBe(`03 10 ${sent}`);
});

it('a speed and a current of 64 bits are told in their unit', () => {
  const { know, show } = withForm({ type: 'int64', scale: { kind: 'resolution', value: '0.01' } });
  know({ 'control-word': 4, 'status-word': 1, 'actual-speed': 1750, 'speed-reference': 1600, current: 250 }, true);
  show(<WordsStage />);
  expect(screen.getByTestId('status-sentence')).toHaveTextContent('1750 = 17.5 Hz');
  expect(screen.getByTestId('current')).toHaveTextContent('250 = 2.5 Hz');
  expect(screen.getByText(/last seen 1600 = 16 Hz/)).toBeInTheDocument();
});

/** A setting that says how many decimals the reference has. */
const DECIMALS: Parameter = {
  number: '9.99',
  name: 'decimals of speeds',
  type: 'uint16',
  at: [{ kind: 'register', table: 'holding-register', address: 900 }],
};
const BY_DECIMALS: Pick<Parameter, 'type' | 'scale'> = {
  type: 'uint16',
  scale: { kind: 'by', parameter: '9.99', cases: [{ value: 2, one: '0.01' }] },
};

it('a reference whose scale another setting sets: Read once asks for that setting, and then it is sent', async () => {
  const { bench, know, show } = withForm(BY_DECIMALS, [DECIMALS]);
  know({ 'control-word': 4, 'status-word': 1 }, true);
  show(<WordsStage />);
  await userEvent.type(screen.getByLabelText(/^wanted/), '17.5');
  expect(screen.getByText(/what one count is, is set by 9\.99: press Read once/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Read once' }));
  const asked = (bench.send as jest.Mock).mock.calls.map(([, bytes]) => bytesToHex(bytes as Uint8Array, ' '));
  // Register 900 is 0384.
  expect(asked.some((text) => text.startsWith('03 03 03 84 00 01'))).toBe(true);
  act(() => know({ 'control-word': 4, 'status-word': 1, '9.99': 2 }, true));
  await userEvent.click(screen.getByRole('button', { name: /^Send 0x06D6 to/ }));
  const [, bytes] = (bench.send as jest.Mock).mock.lastCall as [unknown, Uint8Array];
  expect(bytesToHex(bytes.subarray(0, -2), ' ')).toBe('03 06 03 20 06 d6');
});
