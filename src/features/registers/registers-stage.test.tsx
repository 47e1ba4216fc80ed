import { act, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { benchOnLine, FAN } from '../../../tests/harness/bench-on-line';
import { stationKey } from '../../bench/state/bench-state';
import type { PlanRow, SetRow, WritingRow } from '../../store/database';
import { planOf, registersStore } from '../../bench/registers/registers-store';
import { RegistersStage } from './registers-stage';

const EMPTY = registersStore.getState();

/** The stage at the fan, on its line; what is kept of it. */
async function stage(factory: Record<string, number> = {}, isOpen = true, plans: readonly PlanRow[] = []) {
  const line = await benchOnLine(FAN, factory);
  const rows: { sets: SetRow[]; writings: WritingRow[]; plans: PlanRow[] } = { sets: [], writings: [], plans: [] };
  Object.assign(line.bench, {
    sets: {
      of: () => Promise.resolve({ sets: [], writings: [], plans }),
      set: () => Promise.resolve(undefined),
      writing: () => Promise.resolve(undefined),
      keepSet: (row: SetRow) => Promise.resolve(void rows.sets.push(row)),
      dropSet: () => Promise.resolve(),
      keepWriting: (row: WritingRow) => Promise.resolve(void rows.writings.push(row)),
      keepPlan: (row: PlanRow) => Promise.resolve(void rows.plans.push(row)),
    },
    open: jest.fn(),
  });
  if (!isOpen) line.bench.state.setState({ lines: new Map() });
  registersStore.setState(EMPTY, true);
  const { unmount } = line.show(<RegistersStage />);
  // What is kept of the job is read first.
  await act(() => Promise.resolve());
  return { ...line, rows, unmount, key: stationKey(line.drive.line, line.drive.station) };
}
const look = (number: string): void => act(() => registersStore.setState({ chosen: number }));
const idle = (): Promise<void> =>
  waitFor(() => expect(registersStore.getState().running.size).toBe(0), { timeout: 5000 });
const tab = (name: string): Promise<void> => userEvent.click(screen.getByRole('tab', { name }));

it('says what is missing: a station, a sheet', () => {
  registersStore.setState(EMPTY, true);
  const none = benchAt('K1', 99);
  Object.assign(none.bench, { sets: { of: () => Promise.resolve({ sets: [], writings: [], plans: [] }) } });
  none.show(<RegistersStage />);
  expect(screen.getByText(/^Choose a station in Job first/)).toBeInTheDocument();
});

it('a closed line is opened by a press, and nothing is read before another', async () => {
  const { bench } = await stage({}, false);
  const read = screen.getByRole('button', { name: 'Read all values of 3 · kiln fan' });
  expect(read).toBeDisabled();
  expect(read).toHaveAccessibleDescription('the line is closed');
  await userEvent.click(screen.getByRole('button', { name: 'Open K1 kiln' }));
  expect(bench.open).toHaveBeenCalledTimes(1);
  expect(screen.getByRole('status')).toHaveTextContent('nothing was read yet');
});

it('reads, and says how many were told and refused', async () => {
  const { index } = await stage();
  await userEvent.click(screen.getByRole('button', { name: 'Read all values of 3 · kiln fan' }));
  await idle();
  const all = index.parameters.length;
  expect(screen.getAllByRole('status')[0]).toHaveTextContent(
    new RegExp(`read .*: ${all} of ${all} values, 4 refused, \\d+ requests`),
  );
  look('22.13');
  const says = screen.getByRole('table', { name: 'Who says what' });
  expect(
    within(says).getByRole('row', { name: /^the drive now refused: exception 2, illegal data address/i }),
  ).toBeInTheDocument();
});

it('a value is planned by typing, by choosing, from a witness; one that the drive would refuse says so; nothing is sent', async () => {
  const { key, own } = await stage({ '11.02': 77 });
  look('11.02');
  await userEvent.type(screen.getByLabelText('Plan, s'), '4,5 V');
  expect(screen.getByText(/is not the unit of this field/)).toBeInTheDocument();
  await userEvent.clear(screen.getByLabelText('Plan, s'));
  await userEvent.type(screen.getByLabelText('Plan, s'), '4.5{Enter}');
  expect(planOf(key).present.get('11.02')).toMatchObject({ words: [45], reason: 'typed' });
  look('2.01');
  await userEvent.selectOptions(screen.getByLabelText('Plan'), '2 network');
  expect(planOf(key).present.get('2.01')?.words).toEqual([2]);
  await userEvent.click(screen.getByRole('button', { name: 'Plan as the factory' }));
  expect(planOf(key).present.get('2.01')).toMatchObject({ words: [0], reason: 'from the factory' });
  look('11.02');
  await userEvent.type(screen.getByLabelText('Plan, s'), '0x7FFF{Enter}');
  expect(screen.getByText(/^ramp time takes .*, not 3276\.7 s\.$/)).toBeInTheDocument();
  look('6.02');
  expect(screen.getByText('status word can only be read.')).toBeInTheDocument();
  look('11.01');
  expect(screen.getByText(/is an order to the drive, no setting/)).toBeInTheDocument();
  expect(own.entries.filter(({ direction }) => direction === 'sent')).toEqual([]);
});

it('the plan is written by one press that names drive, line and count, and what came of it stays', async () => {
  const { key, rows } = await stage();
  look('11.02');
  await userEvent.type(screen.getByLabelText('Plan, s'), '4.5{Enter}');
  look('29.09');
  await userEvent.type(screen.getByLabelText('Plan, kHz'), '20{Enter}');
  await tab('Plan and write');
  expect(screen.getByText(/the drive takes the nearest limit instead/)).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Write 2 values to 3 · kiln fan on K1 kiln' }));
  await idle();
  const became = screen.getByRole('table', { name: 'What became of each value' });
  expect(within(became).getByRole('row', { name: /^11\.02 .* ✓ read back and equal$/ })).toBeInTheDocument();
  expect(within(became).getByRole('row', { name: /^29\.09 .* ≠ the drive limited it: 16 kHz$/ })).toBeInTheDocument();
  expect([...planOf(key).present.keys()]).toEqual(['29.09']);
  expect(rows.writings.length).toBeGreaterThan(3);
  // A step back brings it back; it is not written by that.
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  expect(planOf(key).present.has('11.02')).toBe(true);
});

it('a plan that the drive would refuse, or a closed line, holds the press off and says why', async () => {
  const { bench } = await stage();
  look('11.02');
  await userEvent.type(screen.getByLabelText('Plan, s'), '0x7FFF{Enter}');
  await tab('Plan and write');
  const write = screen.getByRole('button', { name: /^Write 1 value/ });
  expect(write).toHaveAccessibleDescription('1 value must not go out so: see the reasons above');
  act(() => bench.state.setState({ lines: new Map() }));
  expect(write).toHaveAccessibleDescription('the line is closed');
});

it('live, a choice goes out at once and is read back; it ends with the view', async () => {
  const { own, key, unmount } = await stage();
  look('28.13');
  await userEvent.click(screen.getByRole('button', { name: 'Write live' }));
  expect(screen.getByText(/^Live: what is chosen or typed here goes to 3 · kiln fan at once/)).toBeInTheDocument();
  await userEvent.selectOptions(screen.getByLabelText('Write at once'), '1 on');
  await idle();
  const sent = own.entries.filter(({ direction }) => direction === 'sent').map(({ bytes }) => bytes[1]);
  expect(sent).toEqual([6, 3]);
  expect(planOf(key).present.size).toBe(0);
  unmount();
  expect(registersStore.getState().live).toBe('');
});

it('a plate becomes a plan; what cannot be right is said', async () => {
  const { key } = await stage();
  await tab('From the plate');
  const fill = (label: string, text: string): Promise<void> => userEvent.type(screen.getByLabelText(label), text);
  await fill('Power, kW', '4');
  await fill('Voltage, V', '400');
  await fill('Current, A', '4.7');
  await fill('Power factor, cos φ', '0.82');
  expect(
    screen.getByText(/^an efficiency of 150 % cannot be: perhaps the current or the voltage of the other connection/),
  ).toBeInTheDocument();
  await userEvent.selectOptions(screen.getByLabelText('What it is for'), 'hoist');
  await userEvent.click(screen.getByRole('button', { name: /^Plan \d+ values$/ }));
  expect(planOf(key).present.get('20.02')).toMatchObject({ words: [400], reason: 'the plate: 4 kW' });
  expect(screen.getByRole('tab', { name: 'Plan and write' })).toHaveAttribute('aria-selected', 'true');
});

it('what was read is kept under a name, and is another witness from then on', async () => {
  const { rows } = await stage();
  await userEvent.click(screen.getByRole('button', { name: 'Read all values of 3 · kiln fan' }));
  await idle();
  await tab('Visits and files');
  expect(screen.getByRole('button', { name: 'Keep it' })).toHaveAccessibleDescription('give it a name');
  await userEvent.type(screen.getByLabelText('Name of this visit'), 'autumn{Enter}');
  const shelf = await screen.findByRole('list', { name: 'Visits and files of this drive' });
  await waitFor(() => expect(within(shelf).getByText('autumn')).toBeInTheDocument());
  expect(rows.sets[rows.sets.length - 1]).toMatchObject({ kind: 'visit', name: 'autumn' });
  await userEvent.click(within(shelf).getByRole('button', { name: 'What changed since' }));
  expect(screen.getByText(/no setting differs/)).toBeInTheDocument();
});

it('one address shows itself in every notation with its neighbours, and reads the three of them one by one', async () => {
  const { own } = await stage();
  await tab('One address');
  await userEvent.type(screen.getByLabelText('Address or number'), '11.02');
  const rows = within(screen.getByRole('table', { name: 'The address and its neighbours' }));
  expect(
    rows.getByRole('row', { name: /^▸ this one 706 0x02C2 707 40707 400707 11\.02 ramp time/ }),
  ).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: /^Read it and its neighbours/ }));
  expect(rows.getByRole('row', { name: /^▸ this one .* 62 = 0x003E$/ })).toBeInTheDocument();
  expect(own.entries.filter(({ direction }) => direction === 'sent')).toHaveLength(3);
});

it('another source in command is held off while the drive holds a word that asks it to run', async () => {
  const { bench, drive, index } = await stage();
  const cell = index.byRole.get('control-word')?.cells[0];
  const hold = (word: number): void =>
    act(() =>
      bench.state.setState({
        views: new Map([
          [
            stationKey(drive.line, drive.station),
            { values: new Map(cell ? [[cell, { word, atUs: 0 }]] : []), misses: 0, lastAnswerUs: 0, before: new Map() },
          ],
        ]),
      }),
    );
  look('2.01');
  await userEvent.selectOptions(screen.getByLabelText('Plan'), '2 network');
  await tab('Plan and write');
  const write = screen.getByRole('button', { name: /^Write 1 value/ });
  hold(0x000d);
  expect(write).toHaveAccessibleDescription('1 value must not go out so: see the reasons above');
  expect(
    screen.getByText(/0x000D, asks it to run: with another one in command it may start at once/),
  ).toBeInTheDocument();
  // It ends: a stop word was sent.
  hold(0x0004);
  expect(write).toBeEnabled();
});

it('a plan is kept as it changes, and is there after a reload; nothing of it is sent', async () => {
  const { key, rows, unmount, own } = await stage();
  look('11.02');
  await userEvent.type(screen.getByLabelText('Plan, s'), '4.5{Enter}');
  await userEvent.type(screen.getByLabelText('Plan, s'), '7');
  const [kept] = rows.plans;
  expect(kept).toMatchObject({ drive: key, plan: new Map([['11.02', { words: [45], reason: 'typed' }]]) });
  unmount();
  await stage({}, true, kept ? [kept] : []);
  await tab('Plan and write');
  expect(screen.getByRole('row', { name: /^1 11\.02 ramp time .*4\.5.s typed/ })).toBeInTheDocument();
  expect(own.entries.filter(({ direction }) => direction === 'sent')).toEqual([]);
});

it('what was typed stays with its value when another one is looked at', async () => {
  await stage();
  look('11.02');
  await userEvent.type(screen.getByLabelText('Plan, s'), '4.5');
  await userEvent.type(screen.getByLabelText('The manual says'), '0.01 s');
  look('28.13');
  expect(screen.getByLabelText('The manual says')).toHaveValue('');
  look('11.02');
  expect(screen.getByLabelText('Plan, s')).toHaveValue('4.5');
  expect(screen.getByLabelText('The manual says')).toHaveValue('0.01 s');
});

it.each([
  [
    'read',
    { of: () => Promise.reject(new Error('no room')), keepPlan: () => Promise.resolve() },
    'what is kept of this job’s values was not read: no room',
  ],
  [
    'kept',
    {
      of: () => Promise.resolve({ sets: [], writings: [], plans: [] }),
      keepPlan: () => Promise.reject(new Error('no room')),
    },
    'the plan is not kept over a reload, this browser does not store it: no room',
  ],
])('a browser in which nothing can be %s says so, and the plan stands', async (_, sets, text) => {
  const line = await benchOnLine(FAN);
  Object.assign(line.bench, { sets });
  registersStore.setState(EMPTY, true);
  line.show(<RegistersStage />);
  await act(() => Promise.resolve());
  look('11.02');
  await userEvent.type(screen.getByLabelText('Plan, s'), '4.5{Enter}');
  await waitFor(() => expect(line.bench.state.getState().refused).toBe(text));
  expect(planOf(stationKey(line.drive.line, line.drive.station)).present.has('11.02')).toBe(true);
});

it('what an address said is not shown beside another one', async () => {
  await stage();
  await tab('One address');
  const address = screen.getByLabelText('Address or number');
  await userEvent.type(address, '11.02');
  await userEvent.click(screen.getByRole('button', { name: /^Read it and its neighbours/ }));
  expect(screen.getByRole('row', { name: / 62 = 0x003E$/ })).toBeInTheDocument();
  await userEvent.clear(address);
  await userEvent.type(address, '11.03');
  expect(screen.getByRole('row', { name: /^▸ this one / })).toBeInTheDocument();
  expect(screen.queryByRole('row', { name: / = 0x/ })).toBeNull();
});
