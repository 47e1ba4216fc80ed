import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { FAN, FENCE } from '../../../tests/harness/bench-on-line';
import { trialsAt } from '../../../tests/harness/trials-at';
import type { ParameterRole } from '../../core/sheet/parameter-section';

jest.mock('./band-chart', () => ({ BandChart: ({ said }: { readonly said: string }) => <p>{said}</p> }));

const AXIS: readonly ParameterRole[] = [
  'status-word',
  'actual-position',
  'speed-reference',
  'move-acceleration',
  'maximum-speed',
  'position-least',
  'position-most',
];
const button = (name: string | RegExp): HTMLElement => screen.getByRole('button', { name });
const type = async (label: string | RegExp, text: string): Promise<void> => {
  await userEvent.clear(screen.getByLabelText(label));
  await userEvent.type(screen.getByLabelText(label), text);
};

/** At the fence, whose axis was read; 10 mm/s and 50 mm/s² as it leaves the factory. */
async function atFence(factory: Record<string, number> = {}) {
  const line = await trialsAt(FENCE, [], factory);
  await userEvent.click(button('A move'));
  return line;
}

it('a drive that knows no positions has no move and no trials for one', async () => {
  await trialsAt(FAN);
  expect(screen.queryByRole('button', { name: 'A move' })).toBeNull();
  expect(screen.queryByRole('button', { name: 'Home' })).toBeNull();
});

it('is worked out before it is fired, and fired only where it is known where the axis stands', async () => {
  const { read, onward, own } = await atFence();
  await type('by, mm', '20');
  expect(button(/^Run “Move by 20 mm”/)).toHaveAccessibleDescription(/^where it stands was not read just now/);
  read(AXIS);
  expect(screen.getByText('from 0 mm to 20 mm: 20 mm away from the blade')).toBeInTheDocument();
  // 20 mm at 8 mm a turn of the screw and 7 to 2: 8.75 turns; 0.2 s up, 0.2 s down, 18 mm at 10 mm/s.
  expect(screen.getByText('8.75')).toBeInTheDocument();
  expect(screen.getByText('trapezoid, highest speed 10.00 mm/s, 2.20 s')).toBeInTheDocument();
  expect(await screen.findByText('the band is where the position is expected')).toBeInTheDocument();
  await userEvent.click(button(/^Run “Move by 20 mm”/));
  onward(5);
  expect(
    screen.getByRole('heading', { name: /^What came: ✓ passed Move by 20 mm on 5 · fence axis/ }),
  ).toBeInTheDocument();
  const measured = within(screen.getByRole('table', { name: 'What was measured' }));
  expect(measured.getByRole('row', { name: /^where it stood, less where it was sent 0 mm off/ })).toBeInTheDocument();
  // Whatever it came to, the shaft is stopped at its end.
  expect(own.yard.drives.get(5)?.isTurning()).toBe(false);
});

it('what the machine, a unit or a field has against it is said at its field, and keeps it from being fired', async () => {
  const { read } = await atFence();
  read(AXIS);
  await type('by, mm', '200 cm');
  expect(
    screen.getByText(/it would end at 2000 mm; the machine goes from −6 mm to 1246 mm\. Was it meant as 200 mm\?/),
  ).toBeInTheDocument();
  expect(button(/^Run “Move by 200 cm”/)).toBeDisabled();
  await type('by, mm', '20');
  await type('speed, mm/s', '5 Hz');
  expect(button(/^Run/)).toHaveAccessibleDescription(/speed/);
  await type('speed, mm/s', '5');
  expect(button(/^Run/)).toBeEnabled();
  await type('there and back, times', 'x');
  expect(button(/^Run/)).toBeDisabled();
});

it('an absolute move needs a home, and finds it by a trial', async () => {
  const { read, onward } = await atFence();
  read(AXIS);
  await userEvent.selectOptions(screen.getByLabelText('Move'), 'to');
  await type('to, mm', '30');
  expect(button(/^Run “Move to 30 mm”/)).toHaveAccessibleDescription(/^home is not known since power came/);
  await userEvent.click(button('Home'));
  await userEvent.click(button(/^Run “Home”/));
  onward(200);
  await userEvent.click(button('it does'));
  onward(20);
  expect(screen.getByRole('heading', { name: /^What came: ✓ passed/ })).toBeInTheDocument();
  read(AXIS);
  await userEvent.click(button('A move'));
  expect(button(/^Run “Move to 30 mm”/)).toBeEnabled();
});

it('goes there and back, back to where it began and not to minus the stroke', async () => {
  const { read, onward, own } = await atFence();
  read(AXIS);
  await type('by, mm', '4');
  await type('there and back, times', '3');
  await userEvent.click(button(/^Run “Move by 4 mm”/));
  onward(20);
  expect(screen.getByRole('heading', { name: /^What came: ✓ passed/ })).toBeInTheDocument();
  const at = own.ask(own.protocol.placesOf(own.index).read(5, [own.index.byRole.get('actual-position')!])[0]!);
  expect(String.fromCharCode(...(at.reply ?? []))).toContain('pos=0');
});

it('a step goes by its distance, a press each, either way', async () => {
  const { read, onward, own } = await atFence();
  read(AXIS);
  await userEvent.click(button('1 mm away from the blade'));
  onward(5);
  expect(screen.getByRole('heading', { name: /^What came: ✓ passed Move by 1 mm/ })).toBeInTheDocument();
  expect(own.yard.drives.get(5)?.isTurning()).toBe(false);
  await type('a step of', '9 kg');
  expect(button(/^9 kg toward the blade/)).toBeDisabled();
});

it('a step that a limit bars is off by itself, and no other act; a step with a sign is refused, since its button says which way', async () => {
  // It stands at 0 mm, which is its lowest place.
  const { read } = await atFence({ 'limit-low.0': 0, 'limit-high.0': 57_344_000 });
  read(AXIS);
  await type('by, mm', '5');
  expect(button('1 mm toward the blade')).toHaveAccessibleDescription(
    /outside the drive’s own limits, 0 mm to 1000 mm/,
  );
  expect(button('1 mm away from the blade')).toBeEnabled();
  expect(button(/^Run “Move by 5 mm”/)).toBeEnabled();
  await type('a step of', '-2');
  expect(screen.getByLabelText('a step of')).toHaveAccessibleDescription(/^more than 0/);
  expect(button('-2 away from the blade')).toBeDisabled();
  expect(button('-2 toward the blade')).toBeDisabled();
  expect(button(/^Run “Move by 5 mm”/)).toBeEnabled();
});

it('rounds that were cut off are counted, and the others begun by a press, never by themselves', async () => {
  const { read, onward, own } = await atFence();
  read(AXIS);
  await type('by, mm', '20');
  await type('there and back, times', '5');
  await userEvent.click(button(/^Run “Move by 20 mm”/));
  // A round is two moves of 2.2 s and two rests of a second.
  onward(16);
  await userEvent.click(button('End it, and stop the shaft'));
  onward(5);
  const heading = screen.getByRole('heading', { name: /^The rounds that are left [12] of 5 were done when it ended/ });
  const count = Number(/left (\d) of 5/.exec(heading.textContent.replace('left', 'left '))?.[1]);
  expect(own.yard.drives.get(5)?.isTurning()).toBe(false);
  onward(30);
  expect(own.yard.drives.get(5)?.isTurning()).toBe(false);
  read(AXIS);
  await userEvent.click(button(new RegExp(`^Run “Move by 20 mm, ${5 - count} rounds left”`)));
  onward(60);
  expect(
    screen.getByRole('heading', { name: new RegExp(`^What came: ✓ passed Move by 20 mm, ${5 - count} rounds left`) }),
  ).toBeInTheDocument();
  expect(screen.queryByRole('heading', { name: /^The rounds that are left/ })).toBeNull();
  // Its run leads back to where moves are made.
  await userEvent.click(screen.getAllByRole('button', { name: /rounds left$/ })[0]!);
  expect(button('▸ A move')).toHaveAttribute('aria-pressed', 'true');
});
