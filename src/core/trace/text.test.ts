import { rtu } from '../../../tests/harness/line';
import { ternIndex } from '../../../tests/harness/sheets';
import { RTU } from '../modbus/framing';
import { modbusProtocol } from '../protocol/modbus-protocol';
import type { TraceEntry } from './entry';
import { packBlock, entryAt, unpackBlock } from './block';
import { isFaulty, textOf } from './text';

const index = ternIndex();

const entry = (part: Partial<TraceEntry>): TraceEntry => ({
  session: 's',
  sequence: 0,
  line: 'K1',
  station: 3,
  atUs: 1234.5,
  direction: 'sent',
  bytes: new Uint8Array(0),
  lineFaults: [],
  exchange: 1,
  outcome: 'none',
  cause: 'Words',
  ...part,
});
const READ = entry({ bytes: rtu('03 03 0185 0001') });
const received = (hex: string, part: Partial<TraceEntry> = {}): TraceEntry =>
  entry({ direction: 'received', outcome: 'answered', bytes: rtu(hex), ...part });

it.each<[string, TraceEntry, string, boolean]>([
  ['a read', READ, 'read 6.05 actual speed', false],
  ['its reply', received('03 03 02 0F43'), 'actual speed 3907 = 17.489 Hz', false],
  [
    'a late reply',
    received('03 03 02 0F43', { outcome: 'late' }),
    'late: answers a request that was given up · actual speed 3907 = 17.489 Hz',
    true,
  ],
  [
    'one that may be late',
    received('03 03 02 0F43', { outcome: 'may-be-late' }),
    'may be late: it fits this request and an earlier one; not used for live values · actual speed 3907 = 17.489 Hz',
    true,
  ],
  [
    'an exception',
    received('03 83 02', { outcome: 'exception' }),
    'refused, exception 2: illegal data address; a register in the range asked for does not exist, or may not be used this way',
    true,
  ],
  [
    'damage',
    entry({
      direction: 'received',
      outcome: 'damaged',
      bytes: Uint8Array.of(3, 3, 2, 15),
      lineFaults: ['parity', 'parity'],
    }),
    'damaged (2 characters with parity faults) · the byte count says 2, only 1 byte came',
    true,
  ],
  ['silence', entry({ direction: 'event', outcome: 'timeout' }), 'no answer within the time-out', true],
  [
    'an event of the yard',
    entry({ direction: 'event', outcome: 'yard', cause: 'hand at the drive: local' }),
    'hand at the drive: local',
    false,
  ],
  [
    'bytes sent by hand that are no request',
    entry({ bytes: Uint8Array.of(3, 3) }),
    'as typed: 2 bytes; the shortest RTU frame has 4',
    false,
  ],
])('%s in words', (_, shown, text, faulty) => {
  expect(textOf(shown, READ, index, modbusProtocol(RTU)).startsWith(text)).toBe(true);
  expect(isFaulty(shown)).toBe(faulty);
});

describe('blocks', () => {
  const entries: readonly TraceEntry[] = [
    { ...READ, sequence: 7 },
    received('03 03 02 0F43', { sequence: 8, lineFaults: ['parity', 'break'] }),
    entry({ sequence: 9, direction: 'event', outcome: 'stop-done', cause: 'Stop: 3 stopped', station: 0, exchange: 0 }),
  ];

  it('hold every entry as it was', () => {
    expect(unpackBlock(packBlock(entries))).toEqual(entries);
    expect(entryAt(packBlock(entries), 3)).toBeNull();
    expect(entryAt(packBlock(entries), -1)).toBeNull();
  });

  it('write each text once', () => {
    expect(packBlock([...entries, ...entries]).texts).toEqual(['K1', 'Words', 'Stop: 3 stopped']);
  });
});
