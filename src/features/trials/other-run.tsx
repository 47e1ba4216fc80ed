import { useMemo, useState, type ReactNode } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { stationKey } from '../../bench/state/bench-state';
import { referenceScale } from '../../core/drive/reference-scale';
import { axisOf } from '../../core/motion/axis';
import { sheetOfRun } from '../../core/sheet/plain-text';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { CompiledTrial } from '../../core/trial/compile';
import { laidIn, movesAxis, type Band } from '../../core/trial/expect';
import { NO_LINE, sinceBegin, type SeenLine } from '../../core/trial/seen-line';
import type { TrialRunRow } from '../../store/database';
import { ChoiceField } from '../../ui/fields';
import { dateText } from '../../ui/format';
import { useTrials } from './trials-store';

/** So many of them are offered, the newest first. */
const MOST_OFFERED = 50;
const NONE = 'none';

/** The line of a run by its own time, as it lies in a band. */
export function lineIn(band: Band | null, row: TrialRunRow | null): SeenLine {
  const line = sinceBegin(row?.samples ?? NO_LINE, row?.run ?? null);
  return band ? laidIn(band, line) : line;
}

const nameOf = ({ name, startedMs }: TrialRunRow): string => `${name}, ${dateText(startedMs)}`;

/** The unit of what is drawn of a trial on a drive. */
const unitOf = (index: SheetIndex, { steps }: CompiledTrial): string | undefined =>
  movesAxis(steps) ? axisOf(index)?.unit : referenceScale(index)?.chain.unit;

/**
 * Another run of the same trial, of this drive or of another one whose line has the same unit, to be laid under a run: the last one before it of the same
 * drive, where nobody chooses.
 */
export function useOtherRun(
  compiled: CompiledTrial,
  row: TrialRunRow | null,
  band: Band | null,
): { readonly line: { readonly line: SeenLine; readonly name: string } | null; readonly choice: ReactNode } {
  const runs = useTrials((state) => state.runs);
  const sheets = useBenchState((state) => state.sheets);
  const here = useBenchState((state) => stationKey(state.lineId, state.station));
  const [chosen, setChosen] = useState('');
  const offered = useMemo(
    () =>
      [...runs.values()]
        .filter((one) => {
          const index = sheetOfRun(sheets, one.sheet);
          return (
            one.compiled.trial.id === compiled.trial.id &&
            one.id !== row?.id &&
            one.samples.length > 0 &&
            index !== null &&
            unitOf(index, one.compiled) === band?.unit
          );
        })
        .sort((a, b) => b.startedMs - a.startedMs)
        .slice(0, MOST_OFFERED),
    [runs, sheets, compiled, row?.id, band?.unit],
  );
  const drive = row ? stationKey(row.line, row.station) : here;
  const usual = offered.find(
    (one) => stationKey(one.line, one.station) === drive && one.startedMs < (row?.startedMs ?? Infinity),
  );
  const other = chosen === NONE ? undefined : (offered.find(({ id }) => id === chosen) ?? usual);
  const line = useMemo(() => (other ? { line: lineIn(band, other), name: nameOf(other) } : null), [band, other]);
  return {
    line,
    choice: offered.length > 0 && (
      <ChoiceField
        label="Another run laid under it, dashed"
        width={360}
        value={other?.id ?? NONE}
        onChange={setChosen}
        options={[[NONE, 'none'], ...offered.map((one) => [one.id, nameOf(one)] as const)]}
      />
    ),
  };
}
