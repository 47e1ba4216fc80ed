'use client';

import { useEffect, useRef, useState } from 'react';
import type { Bench } from '../../bench/bench';
import { useBench, useBenchState } from '../../bench/bench-context';
import { indexThen, type BenchState } from '../../bench/state/bench-state';
import { protocolThen } from '../../bench/hooks/line-protocol';
import { startTraceSearcher, type TraceSearcher } from '../../bench/workers/trace-searcher';
import { entryOf, requestOf, sizeOf } from '../../core/trace/record';
import { traceTerms, TraceSearch, type TraceKnowledge } from '../../core/trace/search';
import { secondOfDay } from '../../core/trace/time-term';
import { textOf } from '../../core/trace/text';

/** A search on the page takes this much of its thread, then leaves it to the user. */
const SLICE_MS = 8;
const PAUSE_MS = 8;
/** What was found is shown this often while it goes on. */
const SHOW_EVERY_MS = 150;

/** Places that were found: of what was there when the search began, newest first, and of what came since, oldest first. They only grow. */
interface Places {
  readonly older: readonly number[];
  readonly newer: readonly number[];
}

/** How far a search is; the places themselves stay with it. */
export interface Found {
  readonly search: Places;
  readonly older: number;
  readonly newer: number;
  readonly looked: number;
  readonly isOver: boolean;
}

/** What an entry says, as the list shows it, and when its session began. */
const knowledgeOf = (state: () => BenchState): TraceKnowledge => ({
  saying: (words) => (record, place) => {
    const entry = entryOf(record, place);
    if (!entry) return false;
    const [index, protocol] = [indexThen(state(), entry), protocolThen(state(), entry)];
    return textOf(entry, requestOf(record, place), index, protocol).toLowerCase().includes(words);
  },
  beganAt: (session) => secondOfDay(state().sessionStartMs.get(session) ?? 0),
});

type Show = (found: Found) => void;

/** Goes through the record in small slices of the page's thread: columns are gone through in no time. Gives what ends it. */
function searchHere({ state }: Bench, text: string, show: Show): () => void {
  const { getState, subscribe } = state;
  const search = new TraceSearch(traceTerms(text), getState().record, knowledgeOf(getState));
  let timer: ReturnType<typeof setTimeout> | null = null;
  let shownMs = -Infinity;
  const go = (): void => {
    const beganMs = performance.now();
    const isOver = search.step(getState().record, () => performance.now() - beganMs > SLICE_MS);
    timer = isOver ? null : setTimeout(go, PAUSE_MS);
    if (!isOver && beganMs - shownMs < SHOW_EVERY_MS) return;
    shownMs = beganMs;
    const { older, newer, looked } = search;
    show({ search, older: older.length, newer: newer.length, looked, isOver });
  };
  timer = setTimeout(go);
  const leave = subscribe((now, before) => {
    if (now.record !== before.record) timer ??= setTimeout(go);
  });
  return () => {
    leave();
    if (timer !== null) clearTimeout(timer);
  };
}

/** Lets the worker go through the record: words of a meaning take every protocol. Gives what ends it. */
function searchThere({ state }: Bench, searcher: TraceSearcher, text: string, show: Show): () => void {
  const { getState, subscribe } = state;
  const places = { older: [] as number[], newer: [] as number[] };
  let timer: ReturnType<typeof setTimeout> | null = null;
  let looked = 0;
  const tell = (): void => {
    timer = null;
    const isOver = looked >= sizeOf(getState().record);
    show({ search: places, older: places.older.length, newer: places.newer.length, looked, isOver });
  };
  searcher.search(text, (answer) => {
    const isFirst = looked === 0;
    for (const place of answer.older) places.older.push(place);
    for (const place of answer.newer) places.newer.push(place);
    looked = answer.looked;
    if (isFirst || looked >= sizeOf(getState().record)) {
      if (timer !== null) clearTimeout(timer);
      tell();
    } else timer ??= setTimeout(tell, SHOW_EVERY_MS);
  });
  const leave = subscribe((now, before) => {
    if (now.record !== before.record) searcher.feed();
  });
  return () => {
    leave();
    searcher.forget();
    if (timer !== null) clearTimeout(timer);
  };
}

const needsMeanings = (text: string): boolean => traceTerms(text).some(({ kind }) => kind === 'words');

/**
 * Goes through the whole record for a filter, and on through what comes; null where the filter asks nothing. `isNear`: somebody is about to type one, so
 * that the worker can be given the record meanwhile.
 */
export function useTraceSearch(text: string, isNear: boolean): Found | null {
  const bench = useBench();
  const [found, setFound] = useState<Found | null>(null);
  const [isHere, setHere] = useState(false);
  const kept = useRef<TraceSearcher | null>(null);
  const isThere = !isHere && needsMeanings(text);
  const isKept = isThere || (!isHere && isNear);
  const sheets = useBenchState((state) => state.sheets);
  const lines = useBenchState((state) => state.job?.lines);
  const pastLines = useBenchState((state) => state.pastLines);
  const sessionLines = useBenchState((state) => state.sessionLines);
  // The worker lives, with what it was given, as long as words are looked for; what bytes mean is told to another one where that changes.
  useEffect(() => {
    if (!isKept) return;
    kept.current = startTraceSearcher(bench.state.getState, () => setHere(true));
    return () => {
      kept.current?.end();
      kept.current = null;
    };
  }, [bench, isKept, sheets, lines, pastLines, sessionLines]);
  useEffect(() => {
    if (traceTerms(text).length === 0) return;
    let leave: (() => void) | null = null;
    // In a task of its own: the next key would wait for it otherwise.
    const begun = setTimeout(() => {
      leave =
        isThere && kept.current ? searchThere(bench, kept.current, text, setFound) : searchHere(bench, text, setFound);
    });
    return () => {
      clearTimeout(begun);
      leave?.();
    };
  }, [bench, text, isThere, sheets, lines, pastLines, sessionLines]);
  // What the filter before found stays until this one has found something: a list that blinks with every key cannot be read.
  return traceTerms(text).length > 0 ? found : null;
}
