'use client';

import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { stationName } from '../../bench/state/bench-state';
import { counted } from '../../core/counted';
import type { LineTiming } from '../../core/line/budget';
import { RTU } from '../../core/modbus/framing';
import type { CycleWay } from '../../core/process-image/cycle-blocks';
import { lineCycle } from '../../core/process-image/line-cycle';
import { pinnedIn } from '../../core/sheet/shelf';
import { ChoiceField } from '../../ui/fields';
import { msText } from '../../ui/format';
import { HeadRow } from '../../ui/head-row';
import { Panel } from '../../ui/panel';
import styles from './line.module.css';

/** What goes round on the whole line: each drive's share of the cycle by its sheet's blocks, and what one more would cost. */
export function LineCyclePanel({
  timing,
  replyDelayUs,
  wantedMs,
}: {
  readonly timing: LineTiming;
  readonly replyDelayUs: number;
  /** Null where none is typed. */
  readonly wantedMs: number | null;
}) {
  const { line, framing } = useCurrent();
  const sheets = useBenchState((state) => state.sheets);
  const [chosen, setWay] = useTyped('cycle', '', 'way', 'two');
  const way: CycleWay = chosen === 'one' ? 'one' : 'two';
  if (!line) return null;
  const drives = line.stations.map((station) => ({
    station: station.station,
    name: stationName(station),
    index: pinnedIn(sheets, station.sheet),
  }));
  const { drives: shares, us, own, left } = lineCycle(timing, drives, way, framing ?? RTU, replyDelayUs);
  const fits =
    wantedMs === null
      ? ''
      : us <= wantedMs * 1000
        ? `, within the ${wantedMs} ms wanted`
        : `: more than the ${wantedMs} ms wanted`;
  return (
    <Panel
      title="What goes round on this line"
      aside={shares.length === 0 ? 'nothing, by the sheets of its drives' : `shortest cycle ${msText(us)}${fits}`}
      tools={
        framing && (
          <ChoiceField
            label="By"
            width={220}
            value={way}
            onChange={setWay}
            options={[
              ['two', '16 (10h), then a read'],
              ['one', '23 (17h), both at once'],
            ]}
          />
        )
      }
    >
      {shares.length > 0 && (
        <table className={styles.table} aria-label="Each drive’s share of the cycle">
          <HeadRow names={['drive', 'to it', 'from it', 'exchanges', 'time', 'share']} />
          <tbody>
            {shares.map((share) => (
              <tr key={share.station}>
                <td>{share.name}</td>
                <td className={styles.mono}>{counted(share.out, 'byte')}</td>
                <td className={styles.mono}>{counted(share.in, 'byte')}</td>
                <td className={styles.mono}>{share.exchanges}</td>
                <td className={styles.mono}>{msText(share.us)}</td>
                <td className={styles.mono}>{Math.round((100 * share.us) / us)} %</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {shares.length > 0 && (
        <p className={styles.soft}>
          One more drive like {shares.at(-1)?.name} makes it {msText(us + (shares.at(-1)?.us ?? 0))}. In{' '}
          {Math.round(100 * own)} % of the cycle the controller itself sends; the rest are answers, thinking and
          silence.
        </p>
      )}
      {left.map(({ station, name, why }) => (
        <p key={station} className={styles.soft}>
          {name} is not in it: {why}.
        </p>
      ))}
    </Panel>
  );
}
