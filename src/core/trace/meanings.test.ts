import { exchangeOf } from '../../../tests/harness/streams';
import { shippedIndex } from '../../../tests/harness/sheets';
import { RTU } from '../modbus/framing';
import { modbusProtocol } from '../protocol/modbus-protocol';
import { pick, seededRandom } from '../random/random';
import { packBlock } from './block';
import { LINE_FAULTS, OUTCOMES, type TraceEntry } from './entry';
import { Meanings } from './meanings';
import { EMPTY_RECORD, endOf, entryOf, firstOf, requestOf, withNewer, withOlder } from './record';
import { textOf } from './text';

const random = seededRandom(5);
const protocol = modbusProtocol(RTU);
const index = shippedIndex('tern');

/** Exchanges on two lines among each other, with everything that an entry can be. */
function entries(count: number): readonly TraceEntry[] {
  const made: TraceEntry[] = [];
  for (let exchange = 1; made.length < count; exchange++) {
    const [sent = new Uint8Array(0), received = sent] = exchangeOf(random);
    const common = {
      session: 's',
      line: pick(random, 2) === 0 ? 'K1' : 'K2',
      station: 1 + pick(random, 3),
      atUs: 1000 * exchange,
      exchange: pick(random, 9) === 0 ? 0 : exchange,
      cause: ['poll', 'Words', 'Terminal'][pick(random, 3)] ?? '',
    };
    made.push({ ...common, sequence: made.length, direction: 'sent', bytes: sent, lineFaults: [], outcome: 'none' });
    if (pick(random, 5) === 0)
      made.push({
        ...common,
        sequence: made.length,
        direction: 'event',
        bytes: new Uint8Array(0),
        lineFaults: [],
        outcome: OUTCOMES[pick(random, OUTCOMES.length)] ?? 'none',
        cause: `event ${pick(random, 4)}`,
      });
    made.push({
      ...common,
      sequence: made.length,
      direction: 'received',
      bytes: received,
      lineFaults: pick(random, 4) === 0 ? [LINE_FAULTS[pick(random, LINE_FAULTS.length)] ?? 'parity'] : [],
      outcome: OUTCOMES[pick(random, OUTCOMES.length)] ?? 'none',
    });
  }
  return made;
}

it('gives what reading each entry gives, also where a reply’s request lies in the block before', () => {
  const all = entries(5000);
  const record = withNewer(
    withOlder(EMPTY_RECORD, [all.slice(0, 1999), all.slice(1999, 2002), all.slice(2002, 4000)].map(packBlock)),
    all.slice(4000, 4900),
  );
  const meanings = new Meanings(
    ({ line, station }) => ({ protocol: line === 'K1' ? protocol : null, index: station === 1 ? index : null }),
    () => 'as now',
  );
  for (let round = 0; round < 2; round++)
    for (let place = firstOf(record); place < endOf(record); place++) {
      const entry = entryOf(record, place)!;
      const own = entry.line === 'K1' ? protocol : null;
      expect(meanings.of(record, place)).toBe(
        textOf(entry, requestOf(record, place), entry.station === 1 ? index : null, own).toLowerCase(),
      );
    }
  expect(meanings.of(record, endOf(record))).toBe('');
});

it('reads each different meaning twice at most', () => {
  const one = entries(60).filter(({ direction }) => direction !== 'event');
  const many = Array.from({ length: 40 }, (_, i) =>
    one.map((entry, k) => ({ ...entry, sequence: i * one.length + k })),
  );
  const record = withOlder(EMPTY_RECORD, [packBlock(many.flat())]);
  const sentence = jest.fn(protocol.sentence);
  const meanings = new Meanings(
    () => ({ protocol: { ...protocol, sentence }, index: null }),
    () => 'as now',
  );
  for (let place = firstOf(record); place < endOf(record); place++) meanings.of(record, place);
  expect(sentence.mock.calls.length).toBeGreaterThan(0);
  // A few replies of the block's beginning look for a request that may lie before it.
  expect(sentence.mock.calls.length).toBeLessThanOrEqual(2 * one.length + 200);
});

it('the same bytes are read anew where the line was set up otherwise', () => {
  const reply = {
    ...entries(1)[0]!,
    line: 'K1',
    station: 1,
    exchange: 0,
    direction: 'event',
    outcome: 'yard',
    cause: 'same',
  } as const;
  const record = withOlder(EMPTY_RECORD, [
    packBlock(Array.from({ length: 8 }, (_, sequence) => ({ ...reply, sequence }))),
  ]);
  const asked: number[] = [];
  const meanings = new Meanings(
    ({ sequence }) => {
      asked.push(sequence);
      return { protocol: null, index: null };
    },
    ({ sequence }) => (sequence < 4 ? 'before' : 'after'),
  );
  for (let place = 0; place < 8; place++) meanings.of(record, firstOf(record) + place);
  // What came twice is kept; from 4 on it is another thing.
  expect(asked).toEqual([0, 1, 4]);
});
