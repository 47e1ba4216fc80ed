'use client';

import { useBenchState } from '../../bench/bench-context';
import { viewOf } from '../../bench/state/bench-state';
import { knownState, liveOf, liveText } from '../../bench/state/known-state';
import { hexNumber } from '../../core/bytes/hex';
import { bitsLeftOpen } from '../../core/profile/profile';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { compareWords } from '../../core/words/read';
import { ageText } from '../../ui/format';
import { Panel } from '../../ui/panel';
import { SwitchRows, WordBases } from '../../ui/switch-rows';
import styles from './words.module.css';

/** A bit is marked as new for so long. */
const NEW_US = 10_000_000;

/** The status word bit by bit and in words, what changed, and the actual speed; every value with its age. */
export function StatusPanel({ index }: { readonly index: SheetIndex }) {
  const view = useBenchState((state) => viewOf(state));
  const nowUs = useBenchState((state) => state.nowUs);
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
  const { change } = status;
  const changes = change ? compareWords(words.status, change.from, status.word) : [];
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
        leftOpen={index.profile && index.sheet.profile?.kind !== 'own' ? bitsLeftOpen(index.profile, status.word) : 0}
        changed={new Set(change && nowUs - change.seenUs < NEW_US ? changes.map(({ bit }) => bit) : [])}
      />
      {change && changes.length > 0 && (
        <p data-testid="status-change">
          changed last, {ageText(nowUs - change.seenUs)}:{' '}
          {changes.map(({ name, to }) => `${name} ${to ? 'rose' : 'fell'}`).join(', ')}
        </p>
      )}
    </Panel>
  );
}

function Measured({ index, role }: { readonly index: SheetIndex; readonly role: 'current' }) {
  const view = useBenchState((state) => viewOf(state));
  const live = liveText(index, view.values, role);
  return live ? (
    <span title={index.byRole.get(role)?.name} data-testid={role}>
      {live.text}
    </span>
  ) : null;
}
