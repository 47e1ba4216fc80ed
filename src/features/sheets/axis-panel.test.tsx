import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { shippedIndex } from '../../../tests/harness/sheets';
import { checkSheet } from '../../core/sheet/check-sheet';
import { emptySheet } from '../../core/sheet/empty-sheet';
import type { Sheet } from '../../core/sheet/sheet';
import { AxisPanel } from './axis-panel';
import { openDraft, sheetDrafts, useDraftSheet } from './sheet-drafts';

function Shown() {
  const sheet = useDraftSheet();
  return sheet && <AxisPanel sheet={sheet} />;
}

/** The panel over a sheet that is edited; what the sheet holds of its axis then. */
function edit(sheet: Sheet) {
  sheetDrafts.setState({ drafts: new Map() });
  openDraft(sheet, null);
  benchAt('K1', 3).show(<Shown />);
  return (): Sheet => sheetDrafts.getState().drafts.get(sheet.slug)!.history.present;
}
const type = async (label: string | RegExp, text: string): Promise<void> => {
  await userEvent.clear(screen.getByLabelText(label));
  await userEvent.type(screen.getByLabelText(label), text);
};

it('a drive without a scaling has no axis yet, and says what is missing', () => {
  edit(emptySheet('own', 'Own'));
  expect(screen.getByRole('button', { name: 'It moves an axis to positions' })).toHaveAccessibleDescription(
    'add the scaling of its position first, above',
  );
});

it('what is typed of an axis is in the sheet, and what cannot be read stays in its field', async () => {
  const sheet = edit({ ...shippedIndex('curlew').sheet, axis: undefined });
  await userEvent.click(screen.getByRole('button', { name: 'It moves an axis to positions' }));
  await userEvent.selectOptions(screen.getByLabelText('Its position is scaled by'), 'position');
  await type(/^The machine goes from … to, mm/, '-20 to 2430');
  await type('The way in which it rises', 'up');
  await userEvent.selectOptions(screen.getByLabelText('At home the position shows'), 'offset');
  expect(sheet().axis).toEqual({
    chain: 'position',
    travel: { from: '-20', to: '2430' },
    forward: 'up',
    homeShows: 'offset',
  });
  expect(checkSheet(sheet())).toEqual([]);
  await type(/^The machine goes from … to, mm/, 'far');
  expect(screen.getByLabelText(/^The machine goes from … to, mm/)).toHaveAccessibleDescription(/^two numbers/);
  expect(sheet().axis?.travel).toBeUndefined();
  await type(/^The machine goes from … to, mm/, '30 to 10');
  expect(checkSheet(sheet()).map(({ text }) => text)).toEqual(['the travel begins at 30, which is not below its end']);
  await userEvent.clear(screen.getByLabelText(/^The machine goes from … to, mm/));
  await type(/^One turn, where it goes round, mm/, '480');
  expect([sheet().axis?.round, checkSheet(sheet())]).toEqual([{ turn: '480' }, []]);
  await type(/^One turn, where it goes round, mm/, '0');
  expect(checkSheet(sheet()).map(({ text }) => text)).toEqual([
    'one turn, 0, is more than 0 and a whole number of counts that begin at 0',
  ]);
  await userEvent.click(screen.getByRole('button', { name: 'It moves none' }));
  expect(sheet().axis).toBeUndefined();
});

it('the moves that a drive keeps itself are typed as the numbers of their entries; the next row is proposed from those before', async () => {
  const lift = shippedIndex('curlew').sheet;
  const sheet = edit({ ...lift, axis: { ...lift.axis!, storedMoves: undefined } });
  const add = (): Promise<void> => userEvent.click(screen.getByRole('button', { name: 'Add a move' }));
  const columns = { 'counted from': 4, target: 0, speed: 2, rest: 5, 'next move': 6 };
  for (const row of [1, 2]) {
    await add();
    for (const [label, at] of Object.entries(columns)) await type(`${label}, move ${row}`, `${112 + 8 * row + at}`);
  }
  while ((sheet().axis?.storedMoves?.moves.length ?? 0) < 8) await add();
  await type('An input starts one where … is not 0', '111, input 3');
  expect(sheet().axis).toEqual(lift.axis);
  expect(checkSheet(sheet())).toEqual([]);
  await type('speed, move 8', '9999');
  expect(screen.getByLabelText('speed, move 8')).toBeInvalid();
  await type('speed, move 8', ' ');
  expect(sheet().axis?.storedMoves?.moves[7]).toEqual({ to: '176', from: '180', rest: '181', then: '182' });
  await type('An input starts one where … is not 0', '111, input 32');
  expect(screen.getByLabelText('An input starts one where … is not 0')).toHaveAccessibleDescription(
    'an input from 0 to 31',
  );
});
