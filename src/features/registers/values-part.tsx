'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useMemo, useRef, type KeyboardEvent } from 'react';
import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { ASIDE_TEXT, compareSets, type CompareRow } from '../../core/sets/compare-sets';
import { findRows, groupsIn, ONLY, type Only } from '../../core/sets/find-rows';
import { changePlan, registersStore, usePlan, useRegisters } from '../../bench/registers/registers-store';
import type { Witness } from '../../core/sets/witness';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { counted } from '../../core/counted';
import { carryPlan, leftText } from '../../core/sets/carry';
import { withPlanned } from '../../core/sets/plan';
import { knownOf, type SaidOf } from '../../core/sets/said';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { Later, useLater } from '../../ui/later';
import { TOLD_SIZES } from '../../ui/told-sizes';
import styles from './registers.module.css';
import { readSome } from '../../bench/registers/run-reading';
import { besideEachOther, NOW, useWitnesses } from './use-witnesses';
import { ValueDetail } from './value-detail';

const ROW_PX = 30;
const NOBODY: SaidOf = new Map();
const NONE: readonly Witness[] = [];
/** More witnesses than this do not fit beside each other. */
const MOST_BESIDE = 3;

/** Every value in a row, witnesses beside each other, what follows in words; one of them in full at the right. */
export function ValuesPart({ index }: { readonly index: SheetIndex }) {
  const { key } = useCurrent();
  const all = useWitnesses(index);
  const beside = useRegisters((state) => state.beside);
  const find = useRegisters((state) => state.find);
  const only = useRegisters((state) => state.only) as Only;
  const group = useRegisters((state) => state.group);
  const chosen = useRegisters((state) => state.chosen);
  const plan = usePlan(key).present;
  const witnesses = useMemo(() => besideEachOther(all, beside), [all, beside]);
  const compared = useLater(witnesses, NONE);
  const rows = useMemo(() => compareSets(compared), [compared]);
  const wanted = useLater(find, find);
  const shown = useMemo(
    () => findRows(rows, wanted, only, compared, plan, group),
    [rows, wanted, only, compared, plan, group],
  );
  const groups = useMemo(() => groupsIn(rows), [rows]);
  const row = rows.find(({ number }) => number === chosen) ?? shown[0] ?? null;
  return (
    <div className={styles.stack}>
      <div className={styles.row}>
        <TypedField
          label="Find: number, name, symptom"
          width={230}
          value={find}
          onChange={(text) => registersStore.setState({ find: text })}
        />
        <ChoiceField
          label="Show"
          width={160}
          value={only}
          onChange={(value) => registersStore.setState({ only: value })}
          options={ONLY.map(({ id, name }) => [id, name] as const)}
        />
        {groups.length > 1 && (
          <ChoiceField
            label="Where"
            width={150}
            value={groups.includes(group) ? group : ''}
            onChange={(value) => registersStore.setState({ group: value })}
            options={[['', 'everywhere'], ...groups.map((one) => [one, one] as const)]}
          />
        )}
        {Array.from({ length: MOST_BESIDE }, (_, i) => (
          <ChoiceField
            key={i}
            label={['Beside each other', 'and', 'and also'][i] ?? ''}
            width={150}
            value={witnesses[i]?.id ?? ''}
            onChange={(id) => {
              const ids = witnesses.map((witness) => witness.id);
              ids[i] = id;
              registersStore.setState({ beside: [...new Set(ids)].filter((one) => one !== '') });
            }}
            options={[
              ...(i > 0 ? ([['', 'nobody']] as const) : []),
              ...all.map((witness) => [witness.id, witness.name] as const),
            ]}
          />
        ))}
      </div>
      <Later>
        <div className={styles.values}>
          <div className={styles.stack}>
            <ValueList rows={shown} witnesses={compared} chosen={row?.number ?? ''} planned={plan} />
            <ListFoot
              index={index}
              drive={all[0]?.said ?? NOBODY}
              rows={rows}
              shown={shown}
              witnesses={compared}
              planKey={key}
            />
          </div>
          {row ? (
            <ValueDetail key={row.number} row={row} index={index} witnesses={all} />
          ) : (
            <Panel title="No value">None is left by what you look for.</Panel>
          )}
        </div>
      </Later>
    </div>
  );
}

interface FootProps {
  readonly index: SheetIndex;
  /** What the drive is known to hold. */
  readonly drive: SaidOf;
  readonly rows: readonly CompareRow[];
  readonly shown: readonly CompareRow[];
  readonly witnesses: readonly Witness[];
  readonly planKey: string;
}

/** How many there are, and the differences that are shown as a plan in one press. */
function ListFoot({ index, drive, rows, shown, witnesses, planKey }: FootProps) {
  const bench = useBench();
  const { drive: at, isOpen } = useCurrent();
  const running = useRegisters((state) => state.running.has(planKey));
  const differing = rows.filter(({ verdict, aside }) => verdict === 'differs' && aside === null).length;
  const [first, second] = witnesses;
  const from = [second, first].find((witness) => witness && witness.kind !== 'plan' && witness.id !== NOW);
  const settings = shown.filter(({ verdict, aside }) => verdict === 'differs' && aside === null);
  const carry = from
    ? carryPlan(
        from,
        index,
        settings.map(({ number }) => number),
        knownOf(index, drive),
      )
    : null;
  const take = (): void => {
    if (carry)
      changePlan(planKey, (plan) =>
        [...carry.plan].reduce((next, [number, value]) => withPlanned(next, number, value), plan),
      );
  };
  return (
    <div className={styles.foot}>
      <span className={styles.soft}>
        {shown.length === rows.length
          ? counted(rows.length, 'value')
          : `${shown.length} of ${counted(rows.length, 'value')}`}
        ;{' '}
        {differing === 0
          ? 'no setting differs'
          : `${counted(differing, 'setting')} differ${differing === 1 ? 's' : ''}`}
      </span>
      {shown.length < rows.length && (
        <ActButton
          variant="outlined"
          color="inherit"
          off={whyOff(
            [!isOpen, LINE_CLOSED],
            [running, 'a reading or writing is under way'],
            [shown.length === 0, 'no row is shown'],
          )}
          onClick={() => at && void readSome(bench, at, index, new Set(shown.map(({ number }) => number)))}
        >
          Read these {shown.length}
        </ActButton>
      )}
      {from && carry && (
        <ActButton
          variant="outlined"
          color="inherit"
          off={carry.plan.size === 0 ? 'none of the rows shown is a setting that differs' : ''}
          onClick={take}
        >
          Plan {counted(carry.plan.size, 'value')} from {from.name}
        </ActButton>
      )}
      {carry && carry.left.length > 0 && <span className={styles.why}>{leftText(carry.left)}.</span>}
    </div>
  );
}

interface ListProps {
  readonly rows: readonly CompareRow[];
  readonly witnesses: readonly Witness[];
  readonly chosen: string;
  readonly planned: ReadonlyMap<string, unknown>;
}

/** The mark and the words of a verdict; a row that is set aside says why instead. */
function verdictText({ verdict, aside, follows }: CompareRow): string {
  if (verdict === 'differs') return `≠ ${aside ? ASIDE_TEXT[aside] : follows || 'differs'}`;
  return verdict === 'same' ? '= same' : '';
}

function ValueList({ rows, witnesses, chosen, planned }: ListProps) {
  const box = useRef<HTMLDivElement>(null);
  // eslint-disable-next-line react-hooks/incompatible-library -- the list is virtual: it must measure as it scrolls
  const list = useVirtualizer<HTMLElement, HTMLElement>({
    ...TOLD_SIZES,
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW_PX,
    overscan: 12,
  });
  const at = rows.findIndex(({ number }) => number === chosen);
  const press = (event: KeyboardEvent): void => {
    const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 12, PageUp: -12 }[event.key] ?? 0;
    if (by === 0) return;
    event.preventDefault();
    const next = Math.min(rows.length - 1, Math.max(0, at + by));
    registersStore.setState({ chosen: rows[next]?.number ?? '' });
    list.scrollToIndex(next);
  };
  const columns = `86px minmax(110px, 1.2fr) repeat(${witnesses.length}, minmax(90px, 1fr)) minmax(140px, 2fr)`;
  return (
    <div role="grid" aria-label="Values" aria-rowcount={rows.length + 1} className={styles.table}>
      <div role="row" className={styles.head} style={{ gridTemplateColumns: columns }}>
        {['number', 'name', ...witnesses.map(({ name }) => name), 'what follows'].map((heading, i) => (
          // Two files may have one name.
          <span key={i} role="columnheader">
            {heading}
          </span>
        ))}
      </div>
      <div
        ref={box}
        className={styles.list}
        role="rowgroup"
        aria-label="Rows; arrows walk through them"
        tabIndex={0}
        onKeyDown={press}
        data-takes-keys
      >
        <div className={styles.rows} style={{ height: list.getTotalSize() }}>
          {list.getVirtualItems().map(({ index, start }) => {
            const row = rows[index];
            if (!row) return null;
            const { number, name, texts } = row;
            return (
              <div
                key={number}
                role="row"
                aria-rowindex={index + 2}
                aria-selected={number === chosen}
                data-number={number}
                className={styles.line}
                style={{ top: start, gridTemplateColumns: columns }}
                onClick={() => registersStore.setState({ chosen: number })}
              >
                <span role="gridcell" className={styles.mono}>
                  {planned.has(number) ? '✎ ' : ''}
                  {number}
                </span>
                <span role="gridcell">{name}</span>
                {texts.map((text, i) => (
                  <span role="gridcell" key={witnesses[i]?.id ?? i} className={styles.mono} title={text}>
                    {text}
                  </span>
                ))}
                <span role="gridcell" className={styles.soft} title={row.follows}>
                  {verdictText(row)}
                </span>
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}
