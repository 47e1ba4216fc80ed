'use client';

import { useBenchState } from '../../bench/bench-context';
import { indexOf, stationName, viewOf, type BenchState } from '../../bench/state/bench-state';
import { toldState } from '../../bench/state/told-state';
import { hexNumber } from '../../core/bytes/hex';
import type { LineState } from '../../messages/line';
import { ageText } from '../../ui/format';
import styles from './line-strip.module.css';

/** A keep-alive names itself as long as it goes on. */
function beatText({ word, everyUs, misses }: LineState['keepAlives'][number]): string {
  const unanswered = misses > 1 ? `, ${misses} unanswered` : '';
  return `${hexNumber(word)} kept alive each ${(everyUs / 1e6).toFixed(2)} s${unanswered}`;
}

interface Moved {
  readonly key: string;
  readonly name: string;
  readonly text: string;
}

/** Every drive that this bench set in motion, on any line, and every run word that is not kept alive any more. */
function movedDrives(state: BenchState): readonly Moved[] {
  return (state.job?.lines ?? []).flatMap(({ id, name: lineName, stations }): readonly Moved[] => {
    const line = state.lines.get(id);
    if (!line) return [];
    const concerned = new Set([...line.driven, ...line.ended.map(({ station }) => station)]);
    return [...concerned].map((number) => {
      const station = stations.find((one) => one.station === number);
      const { text, ageUs } = toldState(state, indexOf(state, id, number), viewOf(state, id, number));
      const beat = line.keepAlives.find((one) => one.station === number);
      const end = line.ended.find((one) => one.station === number);
      const parts = [
        `${text}${ageUs === null ? '' : `, ${ageText(ageUs)}`}`,
        beat && beatText(beat),
        line.cycled === number && 'its block goes out at every beat of a cycle',
        end && `its run word is not repeated any more: ${end.why}`,
        !line.open && 'the line is not open',
      ].filter((part) => typeof part === 'string');
      return {
        key: `${id} ${number}`,
        name: `${lineName} · ${station ? stationName(station) : `station ${number}`}`,
        text: parts.join(' · '),
      };
    });
  });
}

/** What this bench set in motion, at once and on every view, whatever is looked at. */
export function MotionBar() {
  // Texts, so that a batch in which nothing changed draws nothing anew.
  const text = useBenchState((state) => JSON.stringify(movedDrives(state)));
  const moved = JSON.parse(text) as readonly Moved[];
  if (moved.length === 0) return null;
  return (
    <div className={styles.moved} role="status" aria-label="Set in motion by this bench">
      <strong>Set in motion:</strong>
      {moved.map(({ key, name, text: known }) => (
        <span key={key} title={known}>
          <strong>{name}</strong> {known}
        </span>
      ))}
    </div>
  );
}
