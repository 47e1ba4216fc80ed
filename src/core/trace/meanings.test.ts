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

/** Words of meanings, of parts of them and of none. */
const WORDS = [
  'a',
  'answer',
  'register',
  'from 1',
  'late: answers',
  '·',
  '“',
  'nowhere',
  ' (',
  'coil',
  '1',
  'exception',
];

it('says of each entry what reading it says, also where a reply’s request lies in the block before', () => {
  const all = entries(5000);
  const record = withNewer(
    withOlder(EMPTY_RECORD, [all.slice(0, 1999), all.slice(1999, 2002), all.slice(2002, 4000)].map(packBlock)),
    all.slice(4000, 4900),
  );
  const meanings = new Meanings(
    ({ line, station }) => ({ protocol: line === 'K1' ? protocol : null, index: station === 1 ? index : null }),
    () => 'as now',
  );
  const texts = Array.from({ length: endOf(record) - firstOf(record) }, (_, i) => {
    const place = firstOf(record) + i;
    const entry = entryOf(record, place)!;
    const own = entry.line === 'K1' ? protocol : null;
    return textOf(entry, requestOf(record, place), entry.station === 1 ? index : null, own).toLowerCase();
  });
  const spoken = new Set(WORDS.filter((words) => texts.some((text) => text.includes(words))));
  expect(spoken.size).toBeGreaterThan(8);
  for (const words of [...WORDS, ...texts.slice(0, 40), ...WORDS]) {
    const says = meanings.saying(words);
    const wrong: string[] = [];
    // Newest first, as a search goes.
    for (let i = texts.length - 1; i >= 0; i--)
      if (says(record, firstOf(record) + i) !== texts[i]!.includes(words)) wrong.push(texts[i]!);
    expect([words, wrong]).toEqual([words, []]);
    expect(says(record, endOf(record))).toBe(false);
  }
});

it('reads each different meaning once, and nothing for the words after', () => {
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
  const lookFor = (words: string): void => {
    const says = meanings.saying(words);
    for (let place = endOf(record) - 1; place >= firstOf(record); place--) says(record, place);
  };
  lookFor('coil');
  const read = sentence.mock.calls.length;
  expect(read).toBeGreaterThan(0);
  // A few replies of the block's beginning look for a request that may lie before it.
  expect(read).toBeLessThanOrEqual(one.length + 200);
  lookFor('register');
  expect(sentence.mock.calls.length - read).toBeLessThanOrEqual(200);
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
  const says = meanings.saying('same');
  for (let place = 0; place < 8; place++) expect(says(record, firstOf(record) + place)).toBe(true);
  // From 4 on it is another thing.
  expect(asked).toEqual([0, 4]);
});
