import { demoJob } from '../../../tests/harness/shipped';
import type { JobLine } from './job';
import { earlierAfter, lineThen, linesThen, numberNow, sheetThen, stationAt, type LineHistory } from './line-history';

const [kiln] = demoJob().lines as [JobLine];
const fan = kiln.stations[0]!;
const withFan = (change: Partial<typeof fan>): JobLine => ({
  ...kiln,
  stations: kiln.stations.map((own) => (own.id === fan.id ? { ...own, ...change } : own)),
});
const bare = (): JobLine => ({ ...kiln, stations: [{ id: fan.id, station: fan.station, name: fan.name }] });

const at = (sequence: number, session = 'new') => ({ session, sequence, line: kiln.id, station: 3 });
const NEWER = { slug: 'tern', revision: 2 };

/** The fan went over to a newer revision at entry 100 of the present session, and to number 9 at entry 200. */
const history: LineHistory = {
  now: [withFan({ sheet: NEWER, station: 9 })],
  past: new Map([['gone', { ...kiln, id: 'gone' }]]),
  sessions: new Map([
    [
      'new',
      {
        earlier: [
          { before: 100, lines: [kiln] },
          { before: 200, lines: [withFan({ sheet: NEWER })] },
        ],
        lines: null,
      },
    ],
    ['old', { earlier: [], lines: [kiln] }],
    ['bare', { earlier: [], lines: [bare()] }],
  ]),
};

it('an entry is read by the sheet of its time, in its session and after it', () => {
  expect(sheetThen(history, at(99))).toEqual(fan.sheet);
  expect(sheetThen(history, at(100))).toEqual(NEWER);
  expect(sheetThen(history, { ...at(200), station: 9 })).toEqual(NEWER);
  expect(sheetThen(history, at(5, 'old'))).toEqual(fan.sheet);
});

it('a station that had no sheet then is read by the one that it has now', () => {
  expect(sheetThen(history, at(5, 'bare'))).toEqual(NEWER);
});

it('a session of which no lines are kept, and a line that is gone, are read as they are known', () => {
  expect(linesThen(history, at(5, 'unknown'))).toBe(history.now);
  expect(lineThen(history, { ...at(5), line: 'gone' })?.id).toBe('gone');
  expect(lineThen(history, { ...at(5), line: 'nobody' })).toBeNull();
  expect(sheetThen(history, { ...at(5), line: 'nobody' })).toBeUndefined();
});

it('a station that was renumbered is found by what it is', () => {
  expect(numberNow(history, at(5, 'old'))).toBe(9);
  expect(numberNow(history, { ...at(300), station: 9 })).toBe(9);
  expect(numberNow(history, { ...at(5), station: 77 })).toBe(77);
});

it('what was kept under an older number is of the station that had it then', () => {
  const starts = [
    { id: 'old', startedAtMs: 1000 },
    { id: 'new', startedAtMs: 2000 },
  ];
  const who = (station: number, atMs: number) => stationAt(history, starts, { line: kiln.id, station, atMs });
  expect([who(3, 1500), who(3, 2500), who(9, 2500)]).toEqual([fan.id, fan.id, fan.id]);
  // Before every session, and a number that nobody had: by what is there now.
  expect([who(9, 500), who(3, 500), who(77, 2500)]).toEqual([fan.id, undefined, undefined]);
  // Two stations had the number in one session: nobody can say which it was.
  const other = { ...fan, id: 'other' };
  const swapped: LineHistory = {
    ...history,
    now: [{ ...kiln, stations: [other] }],
    sessions: new Map([['new', { earlier: [{ before: 5, lines: [kiln] }], lines: null }]]),
  };
  expect(stationAt(swapped, starts, { line: kiln.id, station: 3, atMs: 2500 })).toBe('other');
});

it('only what changes how entries are read is kept', () => {
  const named = [{ ...kiln, name: 'another name' }];
  expect(earlierAfter([], 7, [kiln], named)).toEqual([]);
  expect(earlierAfter([], 7, [kiln], [withFan({ sheet: NEWER })])).toEqual([{ before: 7, lines: [kiln] }]);
  expect(earlierAfter([], 7, [kiln], [])).toEqual([{ before: 7, lines: [kiln] }]);
});
