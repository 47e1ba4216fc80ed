import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchOnLine, FAN } from '../../../tests/harness/bench-on-line';
import { GroupProof } from './group-proof';
import { openDraft, sheetDrafts } from './sheet-drafts';

/** The entries with these numbers, at the fan. */
async function proving(...numbers: readonly string[]) {
  const { show, index } = await benchOnLine(FAN, { '11.02': 77 });
  const { sheet } = index;
  sheetDrafts.setState({ drafts: new Map() });
  openDraft(sheet, sheet);
  const onClose = jest.fn();
  const shown = numbers.map((number) => sheet.parameters?.findIndex((one) => one.number === number) ?? -1);
  show(<GroupProof sheet={sheet} shown={shown} onClose={onClose} />);
  return {
    onClose,
    row: (number: string) => within(screen.getByRole('row', { name: new RegExp(`^${number.replace('.', '\\.')}`) })),
    proofs: () =>
      sheetDrafts
        .getState()
        .drafts.get(sheet.slug)
        ?.history.present.parameters?.filter(({ number }) => numbers.includes(number))
        .map(({ number, proof }) => [number, proof?.seen ?? null]),
  };
}

it('proves in one press what was read and ticked, with the exchange; what was refused cannot be ticked', async () => {
  const { row, proofs, onClose } = await proving('11.02', '4.01', '22.13');
  await userEvent.click(screen.getByRole('button', { name: 'Read them from 3 · kiln fan' }));
  expect(row('11.02').getByText('77 = 7.7 s')).toBeInTheDocument();
  expect(row('22.13').getByText('no value: exception, exception 2')).toBeInTheDocument();
  expect(row('22.13').getByRole('checkbox')).toBeDisabled();
  const prove = screen.getByRole('button', { name: /^They agree/ });
  expect(prove).toBeDisabled();
  await userEvent.click(row('11.02').getByRole('checkbox'));
  await userEvent.click(row('4.01').getByRole('checkbox'));
  await userEvent.click(row('4.01').getByRole('checkbox'));
  await userEvent.click(screen.getByRole('button', { name: 'They agree: 1 entry proved' }));
  expect(proofs()).toEqual([
    ['4.01', null],
    ['11.02', '77 = 7.7 s'],
    ['22.13', null],
  ]);
  expect(onClose).toHaveBeenCalledTimes(1);
});

it('nothing is read before the press', async () => {
  const { row } = await proving('11.02');
  expect(row('11.02').getByRole('checkbox')).toBeDisabled();
});
