import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import type { Sheet } from '../../core/sheet/sheet';
import { ScalingStage } from './scaling-stage';

async function editor() {
  const { bench, show } = benchAt('K1', 3);
  const kept: Sheet[] = [];
  Object.assign(bench, {
    keepSheet: jest.fn((sheet: Sheet) => {
      kept.push(sheet);
      return Promise.resolve();
    }),
    changeJob: jest.fn(() => true),
  });
  show(<ScalingStage />);
  await userEvent.type(screen.getByLabelText('wanted, Hz'), '17.5');
  await userEvent.click(screen.getByRole('button', { name: 'Change the chain' }));
  return { bench, kept };
}

const retype = async (label: string, text: string): Promise<void> => {
  await userEvent.clear(screen.getByLabelText(label));
  await userEvent.type(screen.getByLabelText(label), text);
};
const chains = () => screen.getAllByRole('list', { name: 'Chain of working' });
const keepIt = () => screen.getByRole('button', { name: 'Keep as a sheet of yours' });

it('shows what the changed steps make of the wanted value beside what the sheet’s do', async () => {
  await editor();
  expect(keepIt()).toBeDisabled();
  await retype('value', '60');
  expect(chains()[0]).toHaveTextContent('17.5 / 55 × 12287');
  // 17.5 / 60 × 12287 = 3583.708…, rounded down.
  expect(chains()[1]).toHaveTextContent('17.5 / 60 × 12287');
  expect(chains()[1]).toHaveTextContent('3583');
  expect(screen.getByText(/The same chain scales .*6\.05 actual speed/)).toBeInTheDocument();
});

it('says at the field what is no number, keeps what was typed, and keeps no such sheet', async () => {
  await editor();
  await retype('counts', 'many');
  expect(screen.getByText(/“many” is no number/)).toBeInTheDocument();
  expect(screen.getByLabelText('counts')).toHaveValue('many');
  expect(chains()).toHaveLength(1);
  expect(keepIt()).toBeDisabled();
  await userEvent.click(screen.getByRole('button', { name: 'Back to the sheet’s' }));
  expect(screen.getByLabelText('counts')).toHaveValue('12287');
});

it('a step is added, moved and taken away; the sheet is kept as the user’s own and used', async () => {
  const { bench, kept } = await editor();
  await userEvent.click(screen.getByRole('button', { name: 'Add a step' }));
  await userEvent.selectOptions(screen.getByLabelText('step 2'), 'gear: load to motor');
  await userEvent.click(screen.getAllByRole('button', { name: 'Earlier' })[1]!);
  const steps = within(screen.getByRole('list', { name: 'Steps of the chain' })).getAllByRole('listitem');
  expect(within(steps[0]!).getByLabelText('step 1')).toHaveValue('gear');
  expect(chains()[1]).toHaveTextContent('17.5 × 10 / 1');
  await userEvent.click(screen.getAllByRole('button', { name: 'Remove' })[1]!);
  await userEvent.click(keepIt());
  expect(kept[0]).toMatchObject({
    slug: 'tern-mine',
    revision: 1,
    base: { slug: 'tern' },
    scalings: [{ chain: { steps: [{ kind: 'gear', motor: '10', load: '1' }] } }],
  });
  expect(bench.changeJob).toHaveBeenCalledTimes(1);
  expect(screen.getByText(/^Kept as sheet “Tern \(mine\)”, revision 1; this station uses it now/)).toBeInTheDocument();
});

it('a drive in motion keeps its sheet: why is said', async () => {
  const { bench } = await editor();
  Object.assign(bench, { keepSheet: jest.fn(() => Promise.reject(new Error('Press Stop first.'))) });
  await retype('value', '60');
  await userEvent.click(keepIt());
  expect(await screen.findByText('Press Stop first.')).toBeInTheDocument();
  expect(bench.changeJob).not.toHaveBeenCalled();
});
