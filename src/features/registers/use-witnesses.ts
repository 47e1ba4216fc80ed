'use client';

import { useMemo } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { stationKey } from '../../bench/state/bench-state';
import { saidByPlan } from '../../core/sets/plan';
import type { SaidOf } from '../../core/sets/said';
import { defaultWitness, type Witness } from '../../core/sets/witness';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { pinnedIn, type Sheets } from '../../core/sheet/shelf';
import type { SetRow } from '../../store/database';
import { usePlan, useRegisters } from '../../bench/registers/registers-store';
import { nowId } from '../../bench/registers/run-reading';

/** The chosen drive as it was read last, whichever drive that is. */
export const NOW = 'now';

const NOTHING: SaidOf = new Map();
/** What the drive says, and what the factory: they are the first of all witnesses. */
export const saidFirst = ([drive, factory]: readonly Witness[]): readonly [held: SaidOf, factory: SaidOf] => [
  drive?.said ?? NOTHING,
  factory?.said ?? NOTHING,
];

/** Who is laid beside whom: those that were chosen and are still there, else the drive and the factory. */
export function besideEachOther(all: readonly Witness[], beside: readonly string[]): readonly Witness[] {
  const found = beside.flatMap((id) => all.find((witness) => witness.id === id) ?? []);
  return found.length > 0 ? found : all.slice(0, 2);
}

const witnessOf = (row: SetRow, name: string, sheets: Sheets, index: SheetIndex): Witness => ({
  id: row.id,
  kind: row.kind === 'now' ? 'drive' : row.kind,
  name,
  // What was said then is read with the sheet of then.
  index: pinnedIn(sheets, row.sheet) ?? index,
  said: row.reading.said,
});

/** Everybody who says something of the chosen drive's values: the factory, the drive, the plan, visits, files, drives of the same kind. */
export function useWitnesses(index: SheetIndex): readonly Witness[] {
  const { key } = useCurrent();
  const job = useBenchState((state) => state.job);
  const sheets = useBenchState((state) => state.sheets);
  const sets = useRegisters((state) => state.sets);
  const plan = usePlan(key).present;
  return useMemo(() => {
    const now = sets.get(nowId(job?.id ?? '', key));
    const rows = [...sets.values()].filter((row) => row.job === job?.id);
    const own = rows.filter((row) => row.kind !== 'now' && stationKey(row.line, row.station) === key);
    const others = rows.filter(
      (row) => row.kind === 'now' && row.sheet.slug === index.sheet.slug && stationKey(row.line, row.station) !== key,
    );
    const nameOf = (row: SetRow): string => {
      const line = job?.lines.find(({ id }) => id === row.line);
      const station = line?.stations.find((one) => one.station === row.station);
      return `${row.station} · ${station?.name ?? 'a drive'}`;
    };
    return [
      {
        ...(now ? witnessOf(now, '', sheets, index) : { kind: 'drive' as const, index, said: new Map() }),
        id: NOW,
        name: 'the drive now',
      },
      defaultWitness(index),
      { id: 'plan', kind: 'plan' as const, name: 'the plan', index, said: saidByPlan(plan) },
      ...own.map((row) => witnessOf(row, row.name, sheets, index)),
      ...others.map((row) => witnessOf(row, nameOf(row), sheets, index)),
    ];
  }, [index, job, key, plan, sets, sheets]);
}
