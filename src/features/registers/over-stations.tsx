'use client';

import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { stationKey, stationName } from '../../bench/state/bench-state';
import { counted } from '../../core/counted';
import { saidText } from '../../core/sets/said';
import type { PlacedParameter } from '../../core/sheet/index-sheet';
import { pinnedIn } from '../../core/sheet/shelf';
import { ActButton, LINE_CLOSED } from '../../ui/act-button';
import { useRegisters } from '../../bench/registers/registers-store';
import styles from './registers.module.css';
import { nowId, readSome } from '../../bench/registers/run-reading';

/** One value over all stations of the line that have it: by its role, since another kind of drive numbers it otherwise. */
export function OverStations({ parameter }: { readonly parameter: PlacedParameter }) {
  const bench = useBench();
  const { line, isOpen } = useCurrent();
  const job = useBenchState((state) => state.job?.id ?? '');
  const sheets = useBenchState((state) => state.sheets);
  const sets = useRegisters((state) => state.sets);
  const rows = (line?.stations ?? []).flatMap((station) => {
    const index = pinnedIn(sheets, station.sheet);
    const own = parameter.role ? index?.byRole.get(parameter.role) : index?.byNumber.get(parameter.number);
    return line && index && own && own.name !== '' ? [{ station, index, own, line: line.id }] : [];
  });
  if (rows.length < 2) return null;
  const read = (): void => {
    for (const { station, index, own, line: id } of rows)
      void readSome(bench, { line: id, station: station.station }, index, new Set([own.number]));
  };
  return (
    <>
      <h3 className={styles.part}>Over the line’s stations</h3>
      <table className={styles.found} aria-label="This value at each station">
        <tbody>
          {rows.map(({ station, index, own, line: id }) => {
            const said = sets.get(nowId(job, stationKey(id, station.station)))?.reading.said;
            return (
              <tr key={station.id}>
                <th scope="row">{stationName(station)}</th>
                <td className={styles.soft}>{own.number}</td>
                <td className={styles.mono}>
                  {said ? saidText(index, own, said.get(own.number), said) || 'not read' : 'not read'}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <ActButton variant="text" color="inherit" off={isOpen ? '' : LINE_CLOSED} onClick={read}>
        Read it from all {counted(rows.length, 'station')}
      </ActButton>
    </>
  );
}
