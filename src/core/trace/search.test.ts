import { bytesToHex } from '../bytes/hex';
import { packBlock } from './block';
import { OUTCOMES, type TraceEntry } from './entry';
import { EMPTY_RECORD, endOf, entryOf, firstOf, withNewer, withOlder, type TraceRecord } from './record';
import { traceTerms, TraceSearch, type TraceKnowledge } from './search';
import { isFaulty } from './text';

const CAUSES = ['poll', 'Words', 'keep-alive', 'Stop: 3 stopped'];

const entries = (session: string, count: number, seed: number): readonly TraceEntry[] => {
  let state = seed;
  const next = (below: number): number => {
    state = (Math.imul(state, 1103515245) + 12345) >>> 0;
    return (state >>> 8) % below;
  };
  return Array.from({ length: count }, (_, sequence) => ({
    session,
    sequence,
    line: next(5) === 0 ? 'K2' : 'K1',
    station: next(9),
    atUs: sequence * 1e6,
    direction: (['sent', 'received', 'event'] as const)[next(3)] ?? 'sent',
    bytes: Uint8Array.from({ length: next(12) }, () => next(5)),
    lineFaults: [],
    exchange: sequence,
    outcome: OUTCOMES[next(OUTCOMES.length)] ?? 'none',
    cause: CAUSES[next(4)] ?? '',
  }));
};

/** A meaning that only reading the entry can tell. */
const meaning = (record: TraceRecord, place: number): string => {
  const entry = entryOf(record, place);
  return entry ? `speed ${entry.bytes.length} of station ${entry.station}` : '';
};

/** The second session began ten minutes into the day. */
const KNOWLEDGE: TraceKnowledge = {
  saying: (words) => (record, place) => meaning(record, place).includes(words),
  beganAt: (session) => (session === 'now' ? 600 : 0),
};

/** The filter again, in the plainest way. */
function plainly(record: TraceRecord, has: (entry: TraceEntry) => boolean): readonly number[] {
  const places: number[] = [];
  for (let place = firstOf(record); place < endOf(record); place++) {
    const entry = entryOf(record, place);
    if (entry && has(entry)) places.push(place);
  }
  return places;
}

const all = ({ older, newer }: TraceSearch): readonly number[] => [...[...older].reverse(), ...newer];
const hex = (entry: TraceEntry): string => ` ${bytesToHex(entry.bytes, ' ')} `;

const earlier = entries('earlier', 4300, 1);
const RECORD = withNewer(
  withOlder(EMPTY_RECORD, [earlier.slice(0, 2000), earlier.slice(2000, 2300), earlier.slice(2300)].map(packBlock)),
  entries('now', 1200, 2),
);

const CASES: readonly (readonly [string, (entry: TraceEntry) => boolean])[] = [
  ['station 3', ({ station }) => station === 3],
  ['no polls', ({ cause, outcome }) => !['poll', 'keep-alive'].includes(cause) || isFaulty({ outcome } as TraceEntry)],
  ['faults', isFaulty],
  ['station 3, faults', (entry) => entry.station === 3 && isFaulty(entry)],
  ['01 02', (entry) => hex(entry).includes(' 01 02 ')],
  ['LATE', ({ outcome }) => outcome.includes('late')],
  ['keep', ({ cause, outcome }) => cause === 'keep-alive' || outcome.includes('keep')],
  ['k2, received', ({ line, direction }) => line === 'K2' && direction === 'received'],
  ['speed 7', ({ bytes }) => bytes.length === 7],
  [
    '0:10-0:20',
    ({ session, sequence }) => {
      const second = KNOWLEDGE.beganAt(session) + sequence;
      return second >= 600 && second < 1260;
    },
  ],
  ['of station 4', ({ station }) => station === 4],
  ['nowhere', () => false],
  [' , ', () => true],
];

it.each(CASES)('“%s” finds what a plain look at every entry finds', (text, has) => {
  const search = new TraceSearch(traceTerms(text), RECORD, KNOWLEDGE);
  expect(search.step(RECORD, () => false)).toBe(true);
  expect(all(search)).toEqual(plainly(RECORD, has));
  expect(search.looked).toBe(5500);
});

it.each(CASES)(
  '“%s” finds the same in small steps, newest first, while entries and older blocks come in',
  (text, has) => {
    const older = entries('still older', 900, 3);
    let record = RECORD;
    const search = new TraceSearch(traceTerms(text), record, KNOWLEDGE);
    const found: number[] = [];
    let steps = 0;
    while (!search.step(record, () => true)) {
      steps++;
      if (steps === 2) record = withNewer(record, entries('now', 2300, 4).slice(1200));
      if (steps === 3) record = withOlder(record, [packBlock(older)]);
      found.push(search.older.length);
    }
    expect(steps).toBeGreaterThan(2);
    expect([...search.older]).toEqual([...search.older].sort((a, b) => b - a));
    expect(all(search)).toEqual(plainly(record, has));
  },
);

it('asks for the meaning only where nothing else has the words', () => {
  const asked: number[] = [];
  const search = new TraceSearch(traceTerms('poll, station 3'), RECORD, {
    ...KNOWLEDGE,
    saying: (words) => (record, place) => {
      asked.push(place);
      return meaning(record, place).includes(words);
    },
  });
  search.step(RECORD, () => false);
  const threes = plainly(RECORD, ({ station, cause }) => station === 3 && cause !== 'poll');
  expect([...asked].sort((a, b) => a - b)).toEqual(threes);
});

it('reads a filter as terms between commas', () => {
  expect(traceTerms('Station 3, faults ,02 4f, 1234,')).toEqual([
    { kind: 'station', station: 3 },
    { kind: 'faults' },
    { kind: 'words', words: '02 4f', bytes: Uint8Array.of(2, 0x4f) },
    { kind: 'words', words: '1234', bytes: null },
  ]);
  expect(traceTerms('  ')).toEqual([]);
});
