import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { benchAt } from '../../../tests/harness/bench';
import { registerOf, ternIndex } from '../../../tests/harness/sheets';
import { rtu } from '../../../tests/harness/line';
import { RunConditionsPanel } from './run-conditions-panel';

const row = (id: string): HTMLElement => {
  const found = document.querySelector<HTMLElement>(`[data-condition="${id}"]`);
  if (!found) throw new Error(`no condition ${id} is shown`);
  return found;
};

it('shows what stands in the way with its kind, value and source, and what is not known as such', () => {
  const { show, know } = benchAt('K1', 3);
  know({ 'status-word': 0x2201, 'command-source': 0 }, true);
  show(<RunConditionsPanel index={ternIndex()} />);
  const source = row('command-source');
  expect(source).toHaveAttribute('data-verdict', 'not-met');
  expect(source).toHaveTextContent('source');
  expect(source).toHaveTextContent('keypad');
  expect(source).toHaveTextContent('2.01 command source, just now');
  expect(within(row('reference-source')).getByRole('img', { name: 'not known' })).toBeInTheDocument();
  expect(row('reference-source')).toHaveTextContent('not read yet');
  expect(within(row('fault')).getByRole('img', { name: 'met' })).toBeInTheDocument();
});

it('a remedy is sent by a press, to the station that it names, and only over an open line', async () => {
  const { bench, show, know } = benchAt('K1', 3);
  know({ 'status-word': 0x2201, 'command-source': 0, 'control-word': 0 }, false);
  const { unmount } = show(<RunConditionsPanel index={ternIndex()} />);
  expect(row('link')).toHaveAttribute('data-verdict', 'not-met');
  expect(screen.queryByRole('button')).not.toBeInTheDocument();
  unmount();
  know({ 'status-word': 0x2201, 'command-source': 0, 'control-word': 0 }, true);
  show(<RunConditionsPanel index={ternIndex()} />);
  expect(row('command-source')).toHaveTextContent('The shaft does not start with it');
  expect(bench.send).not.toHaveBeenCalled();
  await userEvent.click(screen.getByRole('button', { name: 'write 2.01 ← network to 3 · kiln fan' }));
  const place = ternIndex().byRole.get('command-source')!;
  const address = registerOf(place).toString(16).padStart(4, '0');
  const wanted = place
    .choices!.find(({ name }) => name === 'network')!
    .value.toString(16)
    .padStart(4, '0');
  expect(bench.send).toHaveBeenCalledTimes(1);
  expect(bench.send).toHaveBeenCalledWith(
    { line: bench.state.getState().lineId, station: 3 },
    rtu(`03 06 ${address} ${wanted}`),
    'Words',
  );
});
