import { screen } from '@testing-library/react';
import { benchAt } from '../../../tests/harness/bench';
import { packBlock } from '../../core/trace/block';
import { EMPTY_RECORD, withOlder } from '../../core/trace/record';
import { TracePanel } from './trace-panel';

jest.mock('./trace-tray', () => {
  throw new Error('the server is gone');
});

it('a page whose server is gone says so in the trace’s place, and goes on', async () => {
  const { bench, show } = benchAt('K1', 3);
  const entry = {
    session: 'now',
    sequence: 0,
    line: bench.state.getState().lineId,
    station: 3,
    atUs: 0,
    direction: 'sent',
    bytes: Uint8Array.of(1),
    lineFaults: [],
    exchange: 1,
    outcome: 'none',
    cause: 'test',
  } as const;
  bench.state.setState({ record: withOlder(EMPTY_RECORD, [packBlock([entry])]) });
  show(<TracePanel />);
  expect(await screen.findByText(/Everything is recorded all the same/)).toBeInTheDocument();
  expect(screen.getByTestId('trace-kept')).toHaveTextContent('1 entry');
});
