import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { FENCE, LIFT } from '../../../tests/harness/bench-on-line';
import { trialsAt } from '../../../tests/harness/trials-at';
import type { ParameterRole } from '../../core/sheet/parameter-section';

jest.mock('./band-chart', () => ({ BandChart: ({ said }: { readonly said: string }) => <p>{said}</p> }));

const AXIS: readonly ParameterRole[] = [
  'status-word',
  'actual-position',
  'mode-display',
  'actual-speed',
  'move-acceleration',
  'move-deceleration',
  'move-jerk',
  'position-least',
  'position-most',
];
/** All that the table holds: five entries a move, and eight moves from 120 on. */
const TABLE = Array.from({ length: 8 }, (_, k) => [0, 2, 4, 5, 6].map((at) => `${120 + 8 * k + at}`)).flat();
const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name });
const counts = (mm: number): number => (mm * 65_536) / 40;

/** The lift, with 1 to 300 mm, half a second, then 2 by −100 mm in its table. */
async function atLift(more: Record<string, number> = {}) {
  const line = await trialsAt(LIFT, [], {
    '42': counts(50),
    '120': counts(300),
    '122': counts(200),
    '125': 50,
    '126': 2,
    '128': counts(-100),
    '130': counts(200),
    '132': 1,
    ...more,
  });
  await userEvent.click(button('Stored moves'));
  return line;
}

it('a drive that keeps no moves has no table of them', async () => {
  await trialsAt(FENCE);
  expect(button('A move')).toBeInTheDocument();
  expect(screen.queryByRole('button', { name: 'Stored moves' })).toBeNull();
});

it('is started only when its table was read, and then said, drawn, run and judged', async () => {
  const { read, onward, own } = await atLift();
  read(AXIS);
  expect(button(/^Run “Stored move 1”/)).toHaveAccessibleDescription(/^the drive’s table was not read yet/);
  await userEvent.click(button('Read the table'));
  read(TABLE);
  const table = within(screen.getByRole('table', { name: 'Stored moves' }));
  expect(table.getByRole('row', { name: /^1 zero 300 mm.* 200 mm\/s.* 0\.5 s.* move 2$/ })).toBeInTheDocument();
  expect(screen.getByText('1 → 2, then it stands')).toBeInTheDocument();
  expect(screen.getByText('200 mm')).toBeInTheDocument();
  expect(button(/^Run “Stored move 1”/)).toHaveAccessibleDescription('');
  await userEvent.click(button(/^Run “Stored move 1”/));
  onward(30);
  expect(
    screen.getByRole('heading', { name: /^What came: ✓ passed Stored move 1 on 3 · kiln fan/ }),
  ).toBeInTheDocument();
  expect(own.yard.drives.get(3)?.isTurning()).toBe(false);
});

it('a row of moves that goes round in the drive is started where what is typed gives it an end', async () => {
  const { read, onward } = await atLift({ '134': 1 });
  read(AXIS);
  await userEvent.click(button('Read the table'));
  expect(button(/^Run “Stored move 1”/)).toHaveAccessibleDescription(/the drive’s table was not read yet/);
  read(TABLE);
  expect(button(/^Run “Stored move 1”/)).toHaveAccessibleDescription(/^it goes round without an end/);
  await userEvent.click(button('2'));
  const row = within(screen.getByRole('group', { name: 'Move 2, changed' }));
  await userEvent.selectOptions(row.getByLabelText(/^134 move 2, then/), 'stand');
  expect(button(/^Run “Stored move 1”/)).toHaveAccessibleDescription('');
  await userEvent.click(button(/^Run “Stored move 1”/));
  onward(30);
  expect(screen.getByRole('heading', { name: /^What came: ✓ passed Stored move 1/ })).toBeInTheDocument();
});

it('what is typed is written first; what goes round, or too far, is not started', async () => {
  const { read, onward } = await atLift();
  read(AXIS);
  await userEvent.click(button('Read the table'));
  read(TABLE);
  const row = within(screen.getByRole('group', { name: 'Move 1, changed' }));
  await userEvent.selectOptions(row.getByLabelText(/^126 move 1, then/), 'move 1');
  expect(button(/^Run “Stored move 1”/)).toHaveAccessibleDescription(/^it goes round without an end/);
  await userEvent.selectOptions(row.getByLabelText(/^126 move 1, then/), 'stand');
  await userEvent.type(row.getByLabelText(/^120 move 1, to/), '250 cm');
  expect(button(/^Run “Stored move 1”/)).toHaveAccessibleDescription(
    /^move 1: it would end at 2500 mm; the machine goes/,
  );
  await userEvent.clear(row.getByLabelText(/^120 move 1, to/));
  await userEvent.type(row.getByLabelText(/^120 move 1, to/), 'x');
  expect(button(/^Run “Stored move 1”/)).toHaveAccessibleDescription(/^Not sent while “120 move 1, to, mm” shows/);
  await userEvent.clear(row.getByLabelText(/^120 move 1, to/));
  await userEvent.type(row.getByLabelText(/^120 move 1, to/), '400');
  await userEvent.click(button(/^Run “Stored move 1”/));
  onward(30);
  expect(screen.getByRole('heading', { name: /^What came: ✓ passed Stored move 1/ })).toBeInTheDocument();
  expect(screen.getAllByText(/write 120 move 1, to ← 400/).length).toBeGreaterThan(0);
});

it('a table that was changed at the drive since it was read is not started by: the run says where, and nothing moves', async () => {
  const { read, onward, own, index } = await atLift();
  read(AXIS);
  await userEvent.click(button('Read the table'));
  read(TABLE);
  const places = own.protocol.placesOf(index);
  own.ask(places.writeWords(3, index.byNumber.get('128')!, [0, 0], () => undefined)!);
  await userEvent.click(button(/^Run “Stored move 1”/));
  onward(30);
  expect(screen.getByRole('heading', { name: /^What came: ✗ failed Stored move 1/ })).toBeInTheDocument();
  expect(screen.getAllByText(/“128 move 2, to is .*, as it was read” was expected/).length).toBeGreaterThan(0);
  const [ask] = places.read(3, [index.byRole.get('actual-position')!]);
  const learned = places.learned(ask!, own.ask(ask!).reply!).map(([, word]) => word);
  expect(learned).toEqual([Math.floor(counts(50) / 65_536), counts(50) % 65_536]);
});
