'use client';

import { useState, type KeyboardEvent } from 'react';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { BlockersPanel } from './blockers-panel';
import { StatusPanel } from './status-panel';
import { TrendPanel } from './trend-panel';
import styles from './words.module.css';

const LOOKS = [
  { id: 'status', name: 'Status', Body: StatusPanel },
  { id: 'why', name: 'Why it does not run', Body: BlockersPanel },
  { id: 'trend', name: 'Trend', Body: TrendPanel },
] as const;

/** Three looks at what comes back: bit by bit, as what stands in the way, and over time. */
export function Looks({ index }: { readonly index: SheetIndex }) {
  const [chosen, setChosen] = useState<(typeof LOOKS)[number]['id']>('status');
  const at = LOOKS.findIndex(({ id }) => id === chosen);
  const walk = (event: KeyboardEvent): void => {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const next = by === undefined ? undefined : LOOKS[(at + by + LOOKS.length) % LOOKS.length];
    if (!next) return;
    setChosen(next.id);
    document.getElementById(`look-${next.id}`)?.focus();
  };
  const Body = LOOKS[at]?.Body ?? StatusPanel;
  return (
    <div>
      <div className={styles.tabs} role="tablist" aria-label="What comes back" onKeyDown={walk}>
        {LOOKS.map(({ id, name }) => (
          <button
            key={id}
            id={`look-${id}`}
            type="button"
            role="tab"
            className={styles.tab}
            aria-selected={id === chosen}
            aria-controls="look"
            tabIndex={id === chosen ? 0 : -1}
            onClick={() => setChosen(id)}
          >
            {name}
          </button>
        ))}
      </div>
      <div id="look" role="tabpanel" aria-labelledby={`look-${chosen}`}>
        <Body index={index} />
      </div>
    </div>
  );
}
