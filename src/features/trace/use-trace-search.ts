'use client';

import { useEffect, useState } from 'react';
import { useBench } from '../../bench/bench-context';
import { indexOf, type BenchState } from '../../bench/state/bench-state';
import { protocolOn } from '../../bench/hooks/line-protocol';
import { entryOf, requestOf } from '../../core/trace/record';
import { traceTerms, TraceSearch, type TraceKnowledge } from '../../core/trace/search';
import { textOf } from '../../core/trace/text';

/** A search takes this much of the page's thread, then leaves it to the user. */
const SLICE_MS = 8;
const PAUSE_MS = 8;
/** What was found is shown this often while it goes on. */
const SHOW_EVERY_MS = 150;

/** How far a search is; the places themselves stay with it, and only grow. */
export interface Found {
  readonly search: TraceSearch;
  readonly older: number;
  readonly newer: number;
  readonly looked: number;
  readonly isOver: boolean;
}

/** What an entry says, as the list shows it, and when its session began. */
const knowledgeOf = (state: () => BenchState): TraceKnowledge => ({
  meaning: (record, place) => {
    const entry = entryOf(record, place);
    if (!entry) return '';
    const { line, station } = entry;
    return textOf(entry, requestOf(record, place), indexOf(state(), line, station), protocolOn(state(), line));
  },
  beganAt: (session) => {
    const began = new Date(state().sessionStartMs.get(session) ?? 0);
    return 3600 * began.getHours() + 60 * began.getMinutes() + began.getSeconds() + began.getMilliseconds() / 1000;
  },
});

/** Goes through the whole record for a filter, and on through what comes; null where the filter asks nothing. */
export function useTraceSearch(text: string): Found | null {
  const bench = useBench();
  const [found, setFound] = useState<Found | null>(null);
  useEffect(() => {
    const terms = traceTerms(text);
    if (terms.length === 0) return;
    const { getState, subscribe } = bench.state;
    const search = new TraceSearch(terms, getState().record, knowledgeOf(getState));
    let timer: ReturnType<typeof setTimeout> | null = null;
    let shownMs = -Infinity;
    const go = (): void => {
      const beganMs = performance.now();
      const isOver = search.step(getState().record, () => performance.now() - beganMs > SLICE_MS);
      timer = isOver ? null : setTimeout(go, PAUSE_MS);
      if (!isOver && beganMs - shownMs < SHOW_EVERY_MS) return;
      shownMs = beganMs;
      const { older, newer, looked } = search;
      setFound({ search, older: older.length, newer: newer.length, looked, isOver });
    };
    timer = setTimeout(go);
    const leave = subscribe((now, before) => {
      if (now.record !== before.record) timer ??= setTimeout(go);
    });
    return () => {
      leave();
      if (timer !== null) clearTimeout(timer);
    };
  }, [bench, text]);
  // What the filter before found stays until this one has found something: a list that blinks with every key cannot be read.
  return traceTerms(text).length > 0 ? found : null;
}
