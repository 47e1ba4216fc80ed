'use client';

import type { KeyboardEvent, ReactNode } from 'react';
import styles from './tabs.module.css';

interface TabsProps<Id extends string> {
  readonly label: string;
  readonly tabs: readonly { readonly id: Id; readonly name: string }[];
  readonly chosen: Id;
  readonly onChoose: (id: Id) => void;
  readonly children: ReactNode;
}

/** Looks at one thing, of which one is shown; arrow keys walk through them. */
export function Tabs<Id extends string>({ label, tabs, chosen, onChoose, children }: TabsProps<Id>) {
  const at = tabs.findIndex(({ id }) => id === chosen);
  const walk = (event: KeyboardEvent): void => {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    const next = by === undefined ? undefined : tabs[(at + by + tabs.length) % tabs.length];
    if (!next) return;
    onChoose(next.id);
    document.getElementById(`tab-${next.id}`)?.focus();
  };
  return (
    <div>
      <div className={styles.tabs} role="tablist" aria-label={label} onKeyDown={walk}>
        {tabs.map(({ id, name }) => (
          <button
            key={id}
            id={`tab-${id}`}
            type="button"
            role="tab"
            className={styles.tab}
            aria-selected={id === chosen}
            aria-controls="tab-panel"
            tabIndex={id === chosen ? 0 : -1}
            onClick={() => onChoose(id)}
          >
            {name}
          </button>
        ))}
      </div>
      <div id="tab-panel" role="tabpanel" aria-labelledby={`tab-${chosen}`}>
        {children}
      </div>
    </div>
  );
}
