import { render } from '@testing-library/react';
import type { ReactNode } from 'react';
import { createStore } from 'zustand/vanilla';
import type { Bench } from '../../src/bench/bench';
import { BenchProvider } from '../../src/bench/bench-context';
import { indexOf, FIRST_STATE, stationKey, type BenchState } from '../../src/bench/state/bench-state';
import { createDrafts } from '../../src/bench/state/drafts';
import type { Job } from '../../src/core/job/job';
import type { WayBack } from '../../src/core/job/take-away';
import type { ParameterRole } from '../../src/core/sheet/parameter-section';
import { QUIET } from '../../src/link/line-owner';
import type { LineState } from '../../src/messages/line';
import { demoJob, shippedSheets } from './shipped';
import { shelfOf } from '../../src/core/sheet/shelf';

/** A bench without worker and database at one station of the demo job: its state is set by the test, what it is asked is kept. */
export function benchAt(line: string, station: number, part: Partial<BenchState> = {}) {
  const job = demoJob();
  const lineId = job.lines.find(({ name }) => name.startsWith(line))?.id ?? '';
  const state = createStore<BenchState>(() => ({
    ...FIRST_STATE,
    phase: { kind: 'ready' },
    job,
    sheets: shelfOf(shippedSheets()),
    session: 'now',
    sessionStartMs: new Map([['now', 0]]),
    lineId,
    station,
    ...part,
  }));
  const bench = {
    state,
    drafts: createDrafts(),
    send: jest.fn(() => 1),
    poll: jest.fn(),
    changeJob: jest.fn((change: (own: Job) => Job, undoable?: WayBack) => {
      const { job: own } = state.getState();
      state.setState({ job: own && change(own), undoable: undoable ?? null });
      return true;
    }),
    undoChange: () => {
      const { job: own, undoable } = state.getState();
      if (own && undoable) state.setState({ job: undoable.restore(own), undoable: null });
    },
    photos: {
      of: () => Promise.resolve([]),
      follow: () => () => undefined,
      keep: () => Promise.resolve(),
      call: () => Promise.resolve(),
      drop: () => Promise.resolve(),
    },
    looks: { of: () => Promise.resolve(undefined), keep: () => Promise.resolve() },
  } as unknown as Bench;
  return {
    bench,
    /** What was read of the station just now, by role, or by number where it has none. */
    know: (
      words: Partial<Record<ParameterRole, number>> & Record<`${number}.${number}`, number>,
      isOpen: boolean,
    ): void => {
      const index = indexOf(state.getState(), lineId, station) ?? state.getState().sheets.get('tern');
      const values = new Map(
        Object.entries(words).flatMap(([role, word]) => {
          const place = index?.byRole.get(role as ParameterRole) ?? index?.byNumber.get(role);
          // Of a wide value, the last word.
          const cells = place?.cells ?? [];
          return cells.map((cell, i) => [cell, { word: i === cells.length - 1 ? word : 0, atUs: 0 }] as const);
        }),
      );
      state.setState({
        views: new Map([[stationKey(lineId, station), { values, misses: 0, lastAnswerUs: 0, before: new Map() }]]),
        lines: new Map([
          [lineId, { ...QUIET, line: lineId, open: isOpen, life: { kind: isOpen ? 'open' : 'closed' } } as LineState],
        ]),
      });
    },
    show: (view: ReactNode) => render(<BenchProvider bench={bench}>{view}</BenchProvider>),
  };
}
