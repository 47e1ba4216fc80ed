import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import type { Round } from '../../core/capture/rounds';
import { BlockWatch, wordItems } from '../../core/process-image/block-watch';
import { FIRST_SETUP } from './capture-choice';
import { CaptureRounds } from './capture-rounds';
import type { CaptureActions, CaptureState, Watching } from './capture-store';

const READ: Round = {
  unit: 1,
  fc: 3,
  address: 3020,
  quantity: 7,
  tcp: true,
  length: 12,
  cycles: 40,
  lost: 1,
  meanUs: 50_000,
};
const BYTES = Uint8Array.of(0x02, 0x37, 0, 9, 0, 1, 0, 2, 0, 2, 0, 0, 0, 3);

/** A capture of forty cycles, as the frames worker answers for it. */
function rounds() {
  const watch = jest.fn(({ layout }: Watching) => {
    const block = new BlockWatch(layout?.items ?? wordItems(BYTES.length), layout?.order ?? 'big');
    for (let i = 0; i < 40; i++)
      block.add(i * 50_000, i === 7 ? null : BYTES.map((byte, at) => (at === 13 ? i : byte)));
    return Promise.resolve({ bytes: BYTES, told: block.told() });
  });
  const capture = {
    opened: {},
    setup: { ...FIRST_SETUP, protocol: 'modbus-tcp' },
    rounds: () => Promise.resolve([READ]),
    watch,
  };
  benchAt('E1 stacker', 1).show(<CaptureRounds capture={capture as unknown as CaptureState & CaptureActions} />);
  return watch;
}

it('names what goes round, and shows by words what one of them carries, with what is to be seen in it', async () => {
  const watch = rounds();
  const table = await screen.findByRole('table', { name: 'What goes round' });
  expect(within(table).getByRole('row', { name: /^1 .*7 from 3020 on 40 1 50\.0/ })).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Watch' }));
  expect(watch).toHaveBeenLastCalledWith({ round: READ, way: 'in', layout: null });
  const items = await screen.findByRole('table', { name: 'Items of what goes round' });
  expect(within(items).getAllByRole('row')).toHaveLength(8);
  const seen = screen.getByRole('list', { name: 'What is to be seen in it' });
  expect(seen).toHaveTextContent('word 6 is a sign of life: it counts by 1.');
  expect(screen.getByText(/^mean 50\.0 ms, shortest 50\.0 ms, longest 50\.0 ms/)).toBeInTheDocument();
});

it('reads them as a block of the drive that is as long, in the order that is chosen', async () => {
  const watch = rounds();
  await userEvent.click(await screen.findByRole('button', { name: 'Watch' }));
  await screen.findByRole('table', { name: 'Items of what goes round' });
  await userEvent.selectOptions(screen.getByLabelText('Read as'), 'registers 3020 to 3026 of Curlew, from the drive');
  const row = await screen.findByRole('row', { name: /^42 65538/ });
  expect(row).toBeInTheDocument();
  await userEvent.selectOptions(screen.getByLabelText('Its bytes come'), 'little-swapped-words');
  expect(watch.mock.lastCall?.[0].layout?.order).toBe('little-swapped-words');
  await userEvent.selectOptions(screen.getByLabelText('Way'), 'out');
  expect(watch.mock.lastCall?.[0]).toEqual({ round: READ, way: 'out', layout: null });
});
