'use client';

import { useBenchState } from '../../bench/bench-context';
import { viewOf } from '../../bench/bench-state';
import { placesOn } from '../../bench/line-protocol';
import { knownState, liveOf } from '../../bench/known-state';
import { hexNumber } from '../../core/bytes/hex';
import { meaningOf } from '../../core/sheet/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { compareWords } from '../../core/words/read';
import type { TraceEntry } from '../../core/trace/entry';
import type { PlaceLink } from '../../core/places/place-link';
import { ageText } from '../../ui/format';
import { Panel } from '../../ui/panel';
import { SwitchRows, WordBases } from '../../ui/switch-rows';
import styles from './words.module.css';

/** The status word bit by bit and in words, what changed, and the actual speed; every value with its age. */
export function StatusPanel({ index }: { readonly index: SheetIndex }) {
  const view = useBenchState((state) => viewOf(state));
  const nowUs = useBenchState((state) => state.nowUs);
  const previous = useBenchState((state) =>
    previousStatus(state.entries, state.lineId, state.station, index, placesOn(state)),
  );
  const { words } = index;
  const status = liveOf(index, view, 'status-word');
  if (!words) return null;
  if (!status)
    return (
      <Panel title="◂ Status word" aside="not read yet">
        Nothing is known of this drive yet. Open the line, then press <strong>Read once</strong> or{' '}
        <strong>Watch</strong>; both only read.
      </Panel>
    );
  const { text, stale } = knownState(index, view, nowUs);
  const changes = previous === null ? [] : compareWords(words.status, previous, status.word);
  return (
    <Panel title="◂ Status word" aside={ageText(nowUs - status.atUs)}>
      <p className={`${styles.sentence} ${stale ? styles.stale : ''}`} data-testid="status-sentence">
        {text}
        <Measured index={index} role="current" />
      </p>
      <div className={styles.word}>
        <span>{hexNumber(status.word, words.status.width / 4)}</span>
        <WordBases word={status.word} width={words.status.width} />
      </div>
      <SwitchRows
        label="Bits of the status word"
        spec={words.status}
        word={status.word}
        changed={new Set(changes.map(({ bit }) => bit))}
      />
      {changes.length > 0 && (
        <p>changed last: {changes.map(({ name, to }) => `${name} ${to ? 'rose' : 'fell'}`).join(', ')}</p>
      )}
    </Panel>
  );
}

function Measured({ index, role }: { readonly index: SheetIndex; readonly role: 'current' }) {
  const view = useBenchState((state) => viewOf(state));
  const live = liveOf(index, view, role);
  const place = index.byRole.get(role);
  return live && place ? (
    <span title={place.name} data-testid={role}>
      {meaningOf(index, place, live.word)}
    </span>
  ) : null;
}

/** How far back a different status word is looked for. */
const MOST_BACK = 400;

/** The last status word of a station that differs from the newest one; null where there is none near. */
function previousStatus(
  entries: readonly TraceEntry[],
  line: string,
  station: number,
  index: SheetIndex,
  places: PlaceLink | null,
): number | null {
  const address = index.byRole.get('status-word')?.address;
  const spec = index.words?.status;
  if (address === undefined || !spec || !places) return null;
  let newest: number | null = null;
  const replies = new Map<number, TraceEntry>();
  for (let i = entries.length - 1; i >= Math.max(0, entries.length - MOST_BACK); i--) {
    const entry = entries[i];
    if (entry?.line !== line || entry.station !== station) continue;
    if (entry.direction === 'received' && entry.outcome === 'answered') replies.set(entry.exchange, entry);
    const reply = entry.direction === 'sent' ? replies.get(entry.exchange) : undefined;
    const told = reply && places.learned(entry.bytes, reply.bytes).find(([place]) => place === address);
    if (!told) continue;
    const [, word] = told;
    newest ??= word;
    if (compareWords(spec, word, newest).length > 0) return word;
  }
  return null;
}
