'use client';

import { counted } from '../../core/counted';
import Button from '@mui/material/Button';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState, type KeyboardEvent } from 'react';
import { useCurrent } from '../../bench/hooks/use-current';
import type { Parameter } from '../../core/sheet/parameter-section';
import type { Sheet } from '../../core/sheet/sheet';
import { useLater } from '../../ui/later';
import { ActButton } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { TOLD_SIZES } from '../../ui/told-sizes';
import { GroupProof, MOST_PROVED } from './group-proof';
import { EntryForm } from './entry-form';
import { ProofPanel } from './proof-panel';
import { editSheet, setEntry, useSheetDrafts } from './sheet-drafts';
import styles from './sheets.module.css';

const ROW_PX = 30;

/** Marks say how far an entry can be trusted; the words beside them say the same. */
const trustOf = ({ proof, source }: Parameter): { readonly mark: string; readonly text: string } => {
  if (proof) return { mark: '✓', text: 'proved' };
  if (source?.kind === 'guess') return { mark: '?', text: 'guessed' };
  return { mark: '·', text: source ? 'not proved' : '' };
};

const matches = ({ number, name, role }: Parameter, wanted: string): boolean =>
  wanted === '' ||
  number.toLowerCase().includes(wanted) ||
  name.toLowerCase().includes(wanted) ||
  (role?.includes(wanted) ?? false);

/** All entries of the dictionary: found, added, moved, removed, and each looked at in its form. */
export function ParametersPart({ sheet }: { readonly sheet: Sheet }) {
  const entry = useSheetDrafts((drafts) => drafts.entry);
  const [filter, setFilter] = useState('');
  const [isGroup, setGroup] = useState(false);
  const typed = filter.trim().toLowerCase();
  const wanted = useLater(typed, typed);
  const parameters = sheet.parameters ?? [];
  const shown = parameters.flatMap((parameter, i) => (matches(parameter, wanted) ? [i] : []));
  const parameter = parameters[entry];
  const { key: proved } = useCurrent();
  const add = (): void => {
    const taken = new Set(parameters.map(({ number }) => number));
    let number = parameters.length + 1;
    while (taken.has(`${number}`)) number++;
    editSheet((before) => ({
      ...before,
      parameters: [
        ...(before.parameters ?? []),
        { number: `${number}`, name: 'new entry', type: 'uint16', source: { kind: 'guess', text: 'typed here' } },
      ],
    }));
    setEntry(parameters.length);
    setFilter('');
  };
  const remove = (): void => {
    editSheet((before) => ({ ...before, parameters: (before.parameters ?? []).filter((_, i) => i !== entry) }));
    setEntry(Math.max(0, entry - 1));
  };
  const move = (by: -1 | 1): void => {
    const to = entry + by;
    if (to < 0 || to >= parameters.length) return;
    editSheet((before) => {
      const next = [...(before.parameters ?? [])];
      const [own] = next.splice(entry, 1);
      if (own) next.splice(to, 0, own);
      return { ...before, parameters: next };
    });
    setEntry(to);
  };
  return (
    <div className={styles.two}>
      <Panel
        title={counted(parameters.length, 'entry', 'entries')}
        aside={filter === '' ? '' : `${shown.length} found`}
      >
        <div className={styles.row}>
          <TypedField label="Find by number, name or role" width={230} value={filter} onChange={setFilter} />
          <Button variant="outlined" color="inherit" onClick={add}>
            Add
          </Button>
          <ActButton
            variant="outlined"
            color="inherit"
            off={shown.length === 0 ? 'none is shown' : ''}
            onClick={() => setGroup(true)}
          >
            Prove {shown.length > MOST_PROVED ? `the first ${MOST_PROVED}` : `these ${shown.length}`}
          </ActButton>
        </div>
        <EntryList parameters={parameters} shown={shown} entry={entry} onMove={move} />
        <p className={styles.soft}>Alt with an arrow moves the entry. ✓ proved at the drive, ? guessed, · neither.</p>
      </Panel>
      <div className={styles.stack}>
        {isGroup ? (
          <GroupProof key={proved} sheet={sheet} shown={shown} onClose={() => setGroup(false)} />
        ) : parameter ? (
          <>
            <EntryForm key={entry} sheet={sheet} parameter={parameter} at={entry} onRemove={remove} />
            <ProofPanel key={`${entry} ${parameter.number} ${proved}`} sheet={sheet} parameter={parameter} at={entry} />
          </>
        ) : (
          <Panel title="No entry yet">
            Add one, paste the manual’s table in “From a table”, or open a description in “From a file”. What is not
            said stays unknown: a sheet can be used while it grows.
          </Panel>
        )}
      </div>
    </div>
  );
}

function EntryList({
  parameters,
  shown,
  entry,
  onMove,
}: {
  readonly parameters: readonly Parameter[];
  readonly shown: readonly number[];
  readonly entry: number;
  readonly onMove: (by: -1 | 1) => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the list is virtual: it must measure as it scrolls
  const rows = useVirtualizer<HTMLElement, HTMLElement>({
    ...TOLD_SIZES,
    count: shown.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });
  const press = (event: KeyboardEvent): void => {
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    if (event.altKey) return onMove(by);
    const at = Math.min(shown.length - 1, Math.max(0, shown.indexOf(entry) + by));
    const next = shown[at];
    if (next === undefined) return;
    setEntry(next);
    rows.scrollToIndex(at);
  };
  return (
    <div
      ref={box}
      className={styles.list}
      role="listbox"
      aria-label="Entries"
      tabIndex={0}
      onKeyDown={press}
      data-takes-keys
    >
      <div className={styles.entries} style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const at = shown[index] ?? 0;
          const parameter = parameters[at];
          if (!parameter) return null;
          const { mark, text } = trustOf(parameter);
          return (
            <button
              key={at}
              type="button"
              role="option"
              tabIndex={-1}
              aria-selected={at === entry}
              className={styles.entry}
              style={{ top: start }}
              onClick={() => setEntry(at)}
            >
              <span className={styles.mono}>{parameter.number}</span>
              <span>{parameter.name}</span>
              <span className={styles.soft}>
                {mark} {text}
              </span>
            </button>
          );
        })}
      </div>
    </div>
  );
}
