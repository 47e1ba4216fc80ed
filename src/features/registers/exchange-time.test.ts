import type { TraceEntry } from '../../core/trace/entry';
import { exchangeUs } from './exchange-time';

const entry = (line: string, direction: TraceEntry['direction'], exchange: number, atUs: number): TraceEntry => ({
  session: 's',
  sequence: 0,
  line,
  station: 3,
  atUs,
  direction,
  bytes: new Uint8Array(0),
  lineFaults: [],
  exchange,
  outcome: 'none',
  cause: 'test',
});

it('takes the mean of what was answered on this line', () => {
  const entries = [
    entry('a', 'sent', 1, 0),
    entry('a', 'received', 1, 20_000),
    entry('b', 'sent', 2, 0),
    entry('b', 'received', 2, 500_000),
    entry('a', 'sent', 3, 100_000),
    entry('a', 'received', 3, 140_000),
    entry('a', 'sent', 4, 200_000),
  ];
  expect(exchangeUs(entries, 'a')).toBe(30_000);
  expect(exchangeUs(entries, 'c')).toBeNull();
});
