'use client';

import Button from '@mui/material/Button';
import { useMemo, useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { counted } from '../../core/counted';
import { withLine, type JobLine, type JobStation } from '../../core/job/job';
import { stationAsItWas, stationBack, withoutStation } from '../../core/job/take-away';
import { compareSheets } from '../../core/sheet/compare-sheets';
import { newestOf, pinnedIn, type SheetRef } from '../../core/sheet/shelf';
import { ActButton, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { useLongList } from '../../ui/use-long-list';
import styles from './line.module.css';

interface StationRowsProps {
  readonly line: JobLine;
  /** Lowest and highest station that this kind of line has. */
  readonly range: readonly [number, number];
}

/** Height of a row on a wide screen. */
const ROW_PX = 58;

/** What is typed for a station and not taken over yet. */
interface TypedStation {
  readonly number: string;
  readonly name: string;
  readonly slug: string;
}

/** A station that was changed, here or by undo, is shown as it is now. */
const keyOf = ({ id, station, name, sheet }: JobStation): string => `${id} ${station} ${name} ${sheet?.slug}`;

/**
 * The stations of a line, each to be renamed, renumbered, given another sheet, moved or removed, with a way back. Of many, only those in sight are drawn;
 * what is typed in a row stays while another is looked at.
 */
export function StationRows({ line, range }: StationRowsProps) {
  const { stations } = line;
  const { scroller, shown, before, after, measure, isLong } = useLongList<HTMLDivElement>(stations.length, ROW_PX);
  const [typed, setTyped] = useState<ReadonlyMap<string, TypedStation>>(new Map());
  const sheets = useBenchState((state) => state.sheets);
  const options = useMemo(
    () => [['', 'none'] as const, ...newestOf(sheets).map(({ sheet }) => [sheet.slug, sheet.name] as const)],
    [sheets],
  );
  return (
    <div ref={scroller} className={isLong ? styles.manyStations : styles.stationRows}>
      {before > 0 && <div style={{ height: before }} />}
      {shown.map((at) => {
        const station = stations[at];
        return (
          station && (
            <div key={keyOf(station)} ref={measure} data-index={at}>
              <StationRow
                line={line}
                station={station}
                at={at}
                range={range}
                options={options}
                typed={
                  typed.get(keyOf(station)) ?? {
                    number: `${station.station}`,
                    name: station.name,
                    slug: station.sheet?.slug ?? '',
                  }
                }
                onTyped={(own) => setTyped((all) => new Map([...all, [keyOf(station), own]]))}
                onTaken={() => setTyped((all) => new Map([...all].filter(([key]) => key !== keyOf(station))))}
              />
            </div>
          )
        );
      })}
      {after > 0 && <div style={{ height: after }} />}
    </div>
  );
}

/** Why a text is no number of this station; empty where it is. */
function troubleOf(text: string, line: JobLine, own: JobStation, [least, most]: readonly [number, number]): string {
  const number = /^\s*\d+\s*$/.test(text) ? parseInt(text, 10) : NaN;
  if (!(number >= least && number <= most)) return `${least} to ${most} are stations`;
  return line.stations.some(({ id, station }) => id !== own.id && station === number)
    ? `station ${number} is on this line already`
    : '';
}

function StationRow({
  line,
  station,
  at,
  range,
  options,
  typed,
  onTyped,
  onTaken,
}: {
  readonly line: JobLine;
  readonly station: JobStation;
  readonly at: number;
  readonly range: readonly [number, number];
  readonly options: readonly (readonly [string, string])[];
  readonly typed: TypedStation;
  readonly onTyped: (typed: TypedStation) => void;
  /** What was typed is in the job: should the change be taken back, it is not typed any more. */
  readonly onTaken: () => void;
}) {
  const bench = useBench();
  const sheets = useBenchState((state) => state.sheets);
  const { number, name, slug } = typed;
  const trouble = troubleOf(number, line, station, range);
  const newest = sheets.get(slug)?.sheet;
  const pinned = pinnedIn(sheets, station.sheet)?.sheet;
  const isNewer =
    newest !== undefined && pinned !== undefined && slug === pinned.slug && newest.revision > pinned.revision;
  const put = (change: (own: JobStation) => JobStation): boolean =>
    bench.changeJob(
      (job) =>
        withLine(job, line.id, (own) => ({
          ...own,
          stations: own.stations.map((one) => (one.id === station.id ? change(one) : one)),
        })),
      stationAsItWas(line, station),
    );
  const withSheet = (own: JobStation, sheet: SheetRef | undefined): JobStation => {
    const bare = { ...own };
    delete bare.sheet;
    return sheet ? { ...bare, sheet: { slug: sheet.slug, revision: sheet.revision } } : bare;
  };
  const change = (): void => {
    const to = parseInt(number, 10);
    const sheet = slug === station.sheet?.slug ? station.sheet : newest;
    if (put((own) => ({ ...withSheet(own, sheet), station: to, name: name.trim() }))) onTaken();
  };
  const move = (by: -1 | 1): void =>
    void bench.changeJob((job) =>
      withLine(job, line.id, (own) => {
        const stations = [...own.stations];
        const [moved] = stations.splice(at, 1);
        if (moved) stations.splice(at + by, 0, moved);
        return { ...own, stations };
      }),
    );
  const same =
    number.trim() === `${station.station}` && name.trim() === station.name && slug === (station.sheet?.slug ?? '');
  return (
    <div className={styles.row} role="group" aria-label={`station ${station.station} ${station.name}`}>
      <TypedField
        label="station"
        value={number}
        error={trouble}
        onChange={(text) => onTyped({ ...typed, number: text })}
        width={90}
      />
      <TypedField
        label="name"
        value={name}
        error={name.trim() === '' ? 'it needs a name' : ''}
        onChange={(text) => onTyped({ ...typed, name: text })}
        width={190}
      />
      <ChoiceField
        label="sheet"
        value={slug}
        onChange={(text) => onTyped({ ...typed, slug: text })}
        width={190}
        options={options}
      />
      <ActButton
        variant="outlined"
        color="inherit"
        off={whyOff([same, 'nothing is changed'], [trouble !== '', trouble], [name.trim() === '', 'it needs a name'])}
        onClick={change}
      >
        Change {station.station}
      </ActButton>
      <Button
        variant="text"
        color="inherit"
        disabled={at === 0}
        aria-label={`station ${station.station} up`}
        onClick={() => move(-1)}
      >
        ↑
      </Button>
      <Button
        variant="text"
        color="inherit"
        disabled={at === line.stations.length - 1}
        aria-label={`station ${station.station} down`}
        onClick={() => move(1)}
      >
        ↓
      </Button>
      <Button
        variant="outlined"
        color="inherit"
        onClick={() =>
          bench.changeJob((job) => withoutStation(job, line.id, station.id), stationBack(line, station.id))
        }
      >
        Remove {station.station} · {station.name}
      </Button>
      {isNewer && (
        <span className={styles.soft}>
          It goes by revision {pinned.revision}; revision {newest.revision} differs in{' '}
          {counted(compareSheets(pinned, newest).length, 'point')}.{' '}
          <Button variant="outlined" onClick={() => put((own) => withSheet(own, newest))}>
            Take revision {newest.revision}
          </Button>
        </span>
      )}
    </div>
  );
}
