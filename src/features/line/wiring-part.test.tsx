import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { saveFile } from '../../bench/workers/ask-file-worker';
import { WiringPart } from './wiring-part';

jest.mock('../../bench/workers/ask-file-worker', () => ({
  ...jest.requireActual<object>('../../bench/workers/ask-file-worker'),
  saveFile: jest.fn(),
}));

const type = async (label: string, text: string): Promise<void> => {
  await userEvent.clear(screen.getByLabelText(label));
  await userEvent.type(screen.getByLabelText(label), text);
  // What is typed key by key stays as it is typed.
  expect(screen.getByLabelText(label)).toHaveValue(text);
};

it('the demo’s wiring is drawn, right, and goes out as a file', async () => {
  benchAt('K1', 3).show(<WiringPart />);
  expect(screen.getByTestId('wiring-verdict')).toHaveTextContent(/^✓ no port twice, no loop; the furthest is 3 links/);
  expect(screen.getByRole('img', { name: '5 devices and 4 links, from laptop' })).toBeInTheDocument();
  await userEvent.click(screen.getByRole('button', { name: 'Wiring as CSV' }));
  expect(jest.mocked(saveFile).mock.calls[0]?.[1]).toMatch(/wiring\.csv$/);
});

it('a loop and a port that is taken are said at their links; a ring that is wanted is no loop', async () => {
  const at = benchAt('K1', 3);
  at.show(<WiringPart />);
  await userEvent.click(screen.getByRole('button', { name: 'Add a link' }));
  // It goes on where the last one ended.
  expect(screen.getByLabelText('device, link 5')).toHaveValue('device server D1');
  await type('its port, link 5', '2');
  await type('to device, link 5', 'yard switch');
  await type('port there, link 5', '3');
  const notes = () => within(screen.getByTestId('wiring-notes'));
  expect(notes().getByText('port 3 of yard switch is taken by link 3 already')).toBeInTheDocument();
  expect(notes().getByText(/^it closes a loop: device server D1 – stacker lift – yard switch/)).toBeInTheDocument();
  expect(screen.getByTestId('wiring-verdict')).toHaveTextContent('✗ 2 wrong');
  await type('port there, link 5', '4');
  await userEvent.click(screen.getByLabelText('One ring is wanted; a device keeps it open'));
  expect(screen.getByTestId('wiring-verdict')).toHaveTextContent(/^✓ no port twice, one ring/);
  await type('length, m, link 5', '120');
  expect(notes().getByText('120 m of twisted pair: 100 m at most')).toBeInTheDocument();
  await userEvent.selectOptions(screen.getByLabelText('medium, link 5'), 'glass fibre');
  expect(screen.getByTestId('wiring-verdict')).toHaveTextContent('✓');
  expect(at.bench.state.getState().job?.wiring?.links[4]).toEqual({
    a: { device: 'device server D1', port: '2' },
    b: { device: 'yard switch', port: '4' },
    medium: 'fibre',
    lengthM: '120',
  });
});

it('a link that was removed comes back, and a name that is too long stays in its field with its reason', async () => {
  const at = benchAt('K1', 3);
  at.show(<WiringPart />);
  const links = () => at.bench.state.getState().job?.wiring?.links.length;
  await userEvent.click(screen.getByRole('button', { name: 'remove link 2' }));
  expect(links()).toBe(3);
  await userEvent.click(screen.getByRole('button', { name: 'Undo' }));
  expect(links()).toBe(4);
  const long = 'x'.repeat(61);
  await userEvent.clear(screen.getByLabelText('counted from'));
  await userEvent.click(screen.getByLabelText('counted from'));
  await userEvent.paste(long);
  expect(screen.getByLabelText('counted from')).toHaveValue(long);
  expect(screen.getByText('60 characters at most')).toBeInTheDocument();
  expect(at.bench.state.getState().job?.wiring?.root).toBe('');
});

it('begins at the laptop of the address plan', async () => {
  const at = benchAt('K1', 3);
  at.bench.state.setState(({ job }) => ({ job: job && { ...job, wiring: undefined } }));
  at.show(<WiringPart />);
  await userEvent.click(screen.getByRole('button', { name: 'Begin at laptop' }));
  expect(screen.getByLabelText('device, link 1')).toHaveValue('laptop');
  expect(screen.getByTestId('wiring-verdict')).toHaveTextContent('wrong');
});
