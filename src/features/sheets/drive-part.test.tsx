import { act, fireEvent, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { rtu } from '../../../tests/harness/line';
import { benchOnLine, FAN, FENCE, HOIST, type LinePlace } from '../../../tests/harness/bench-on-line';
import type { Sheet } from '../../core/sheet/sheet';
import type { LookRow } from '../../store/database';
import type { LookShelf } from '../../store/look-shelf';
import { DrivePart } from './drive-part';
import { lookStore } from './look-store';
import { editSheet, openDraft, sheetDrafts, useDraftSheet } from './sheet-drafts';

const NOTHING = lookStore.getState();

function Part() {
  const sheet = useDraftSheet();
  return sheet && <DrivePart sheet={sheet} />;
}

/** The part at a drive, with a sheet that lacks some of its entries. */
async function lookingAt(place: LinePlace, without: readonly string[], change: Partial<Sheet> = {}, looks?: LookShelf) {
  const line = await benchOnLine(place);
  if (looks) Object.assign(line.bench, { looks });
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

it('the commands of a dialect are asked one by one; a text is shown as it came, and what the drive does not know is missing', async () => {
  const { own } = await lookingAt(FENCE, []);
  const sheet = own.index.sheet;
  const [first] = sheet.dialect?.commands ?? [];
  if (!first || !sheet.dialect) throw new Error('no dialect');
  // A command that the description has and the drive does not.
  const more = { ...first, id: 'no-such', name: 'no such', verb: 'zzz' };
  act(() => {
    lookStore.setState(NOTHING, true);
    sheetDrafts.setState({ drafts: new Map(), typed: new Map() });
    openDraft(
      { ...sheet, parameters: [], dialect: { ...sheet.dialect!, commands: [...sheet.dialect!.commands, more] } },
      null,
    );
  });
  await userEvent.click(screen.getByRole('button', { name: 'Look' }));
  await over();
  const state = lookStore.getState();
  const of = (id: string) => state.look?.found.get(state.commands.indexOf(id));
  expect(of('position')).toMatchObject({ kind: 'there' });
  expect(of('identity')).toMatchObject({ kind: 'there', text: expect.stringContaining('Pipit') as string });
  expect(of('no-such')).toEqual({ kind: 'missing' });
  expect(state.look?.found.size).toBe(state.commands.length);
  const found = within(screen.getByRole('table', { name: 'Registers that were found' }));
  await userEvent.click(found.getAllByRole('button', { name: 'Make an entry' })[0]!);
  // What has a role is an entry already; the first without one is a profile of moves.
  expect(sheetDrafts.getState().drafts.get('pipit')?.history.present.parameters).toMatchObject([
    { number: 'profile', at: [{ kind: 'command', command: 'profile' }], source: { kind: 'drive' } },
  ]);
});

it('a command that is taken out of the description in the middle does not hold the look up', async () => {
  const { own } = await lookingAt(FENCE, []);
  await userEvent.click(screen.getByRole('button', { name: 'Look' }));
  await waitFor(() => expect(lookStore.getState().look?.found.size ?? 0).toBeGreaterThan(2), { timeout: 8000 });
  const { commands, look: now } = lookStore.getState();
  const gone = commands[(now?.found.size ?? 0) + 3];
  const { dialect } = own.index.sheet;
  act(() =>
    editSheet((sheet) => ({
      ...sheet,
      dialect: { ...dialect!, commands: dialect!.commands.filter(({ id }) => id !== gone) },
    })),
  );
  await over();
  const { look: done } = lookStore.getState();
  expect(done?.found.size).toBe(commands.length);
  expect(done?.found.get(commands.indexOf(gone!))).toEqual({ kind: 'missing' });
});

it('a value that is known is found with its type and scale, and becomes an entry with both', async () => {
  await lookingAt(FAN, ['31.07']);
  const place = (await benchOnLine(FAN)).index.byNumber.get('31.07')?.place;
  if (place?.kind !== 'register') throw new Error('no register');
  await look(`${place.address - 2}`, `${place.address + 3}`);
  await over();
  await userEvent.type(screen.getByLabelText(/^Known values, one a line/), '181402 h');
  expect(screen.getByTestId('word-order')).toHaveTextContent('high word first explains 181402 h.');
  // What is typed behind the eighth is told, and a value that cannot be looked for says why.
  const field = screen.getByLabelText(/^Known values, one a line/);
  fireEvent.change(field, { target: { value: '181402 h; fast; 1; 2; 3; 4; 5; 6; 7; 9; 181402 h' } });
  expect(screen.getByText(/not looked for: 7, 9\./)).toBeInTheDocument();
  expect(screen.getByText(/“fast” begins with no number/)).toBeInTheDocument();
  fireEvent.change(field, { target: { value: '181402 h' } });
  const places = within(screen.getByRole('table', { name: 'Places that hold 181402 h' }));
  await userEvent.click(places.getAllByRole('button', { name: 'Make an entry' })[0]!);
  const entries = sheetDrafts.getState().drafts.get('tern')?.history.present.parameters;
  expect(entries?.[entries.length - 1]).toMatchObject({ number: `${place.address}`, type: 'uint32' });
});

it('a look is there again after a reload, and waits for its press to go on', async () => {
  const kept = new Map<string, LookRow>();
  const looks = {
    of: (job: string, drive: string) => Promise.resolve(kept.get(`${job} ${drive}`)),
    keep: (row: LookRow) => Promise.resolve(void kept.set(`${row.job} ${row.drive}`, row)),
  };
  const { unmount } = await lookingAt(FAN, [], {}, looks);
  await look('0', '2000');
  await waitFor(() => expect(lookStore.getState().look?.found.size ?? 0).toBeGreaterThan(3), { timeout: 8000 });
  unmount();
  await over();
  const known = lookStore.getState().look?.found.size ?? 0;
  await lookingAt(FAN, [], {}, looks);
  await waitFor(() => expect(lookStore.getState().look?.found.size).toBe(known));
  expect(lookStore.getState().isGoing).toBe(false);
  await userEvent.click(screen.getByRole('button', { name: 'Go on' }));
  await waitFor(() => expect(lookStore.getState().look?.found.size ?? 0).toBeGreaterThan(known), { timeout: 8000 });
  act(() => lookStore.setState({ isGoing: false }));
});
