import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { rtu } from '../../../tests/harness/line';
import { benchOnLine, FAN, HOIST, type LinePlace } from '../../../tests/harness/bench-on-line';
import type { Sheet } from '../../core/sheet/sheet';
import { DrivePart } from './drive-part';
import { lookStore } from './look-store';
import { openDraft, sheetDrafts, useDraftSheet } from './sheet-drafts';

const NOTHING = lookStore.getState();

function Part() {
  const sheet = useDraftSheet();
  return sheet && <DrivePart sheet={sheet} />;
}

/** The part at a drive, with a sheet that lacks some of its entries. */
async function lookingAt(place: LinePlace, without: readonly string[], change: Partial<Sheet> = {}) {
  const line = await benchOnLine(place);
  const { sheet } = line.index;
  const own: Sheet = {
    ...sheet,
    ...change,
    parameters: (sheet.parameters ?? []).filter(({ number }) => !without.includes(number)),
  };
  act(() => {
    lookStore.setState(NOTHING, true);
    sheetDrafts.setState({ drafts: new Map(), typed: new Map() });
    openDraft(own, null);
  });
  const view = line.show(<Part />);
  return { ...line, ...view };
}
async function look(from: string, to: string): Promise<void> {
  await userEvent.type(screen.getByLabelText('From'), from);
  await userEvent.type(screen.getByLabelText('To'), to);
  await userEvent.click(screen.getByRole('button', { name: 'Look' }));
}
const over = (): Promise<void> => waitFor(() => expect(lookStore.getState().isGoing).toBe(false), { timeout: 8000 });

it('looks for parameters of USS one by one, and makes an entry of one in a press', async () => {
  await lookingAt(HOIST, ['121']);
  await look('119', '123');
  await over();
  const found = within(screen.getByRole('table', { name: 'Registers that were found' }));
  expect(found.getAllByRole('row').map((row) => row.textContent)).toEqual([
    expect.stringMatching(/^120 .*120 ramp-up time$/),
    expect.stringMatching(/^121 .*Make an entry$/),
  ]);
  expect(screen.getByText('3 are not there')).toBeInTheDocument();
  await userEvent.click(found.getByRole('button', { name: 'Make an entry' }));
  const entries = sheetDrafts.getState().drafts.get('dunlin')?.history.present.parameters;
  expect(entries?.[entries.length - 1]).toMatchObject({
    number: '121',
    at: [{ kind: 'uss', number: 121 }],
    source: { kind: 'drive' },
  });
});

it('a sheet that says nothing of USS says what is missing', async () => {
  await lookingAt(HOIST, [], { uss: undefined });
  expect(screen.getByText(/^Say under About, USS/)).toBeInTheDocument();
});

it('a setting that was turned at the drive is among the few that moved', async () => {
  const { own } = await lookingAt(FAN, ['29.01']);
  await look('1857', '1862');
  await over();
  // Somebody turns the second ramp time, which the sheet does not know: 80 becomes 99.
  own.ask(rtu('03 06 0741 0063'));
  await userEvent.click(screen.getByRole('button', { name: /^I turned something at the drive/ }));
  await over();
  const moved = within(screen.getByRole('table', { name: 'Registers that moved' })).getAllByRole('row');
  expect(moved).toHaveLength(2);
  expect(moved[1]).toHaveTextContent(/^1857809919.*Make an entry$/);
});

it.each<[string, (line: Awaited<ReturnType<typeof lookingAt>>) => void]>([
  ['a closed line', ({ bench }) => bench.state.setState({ lines: new Map() })],
  ['another chosen drive', ({ bench }) => bench.state.setState({ station: 7 })],
  ['leaving the view', ({ unmount }) => unmount()],
])('%s pauses a look; what is known stays, and it goes on by a press', async (_, happen) => {
  const line = await lookingAt(FAN, []);
  await look('0', '2000');
  await waitFor(() => expect(lookStore.getState().look?.found.size ?? 0).toBeGreaterThan(3), { timeout: 8000 });
  act(() => happen(line));
  await over();
  const known = lookStore.getState().look?.found.size ?? 0;
  expect(known).toBeGreaterThan(3);
  expect(known).toBeLessThan(2001);
});
