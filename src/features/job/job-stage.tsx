'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { stationKey } from '../../bench/bench-state';
import { knownState } from '../../bench/known-state';
import { UNKNOWN_STATION } from '../../bench/live-values';
import { PROTOCOL_TEXT, type JobLine, type JobStation } from '../../core/job/job';
import { settingsText } from '../../core/line/settings';
import { Panel, StageHead } from '../../ui/panel';
import styles from './job.module.css';
import { ShelfPanel } from './shelf-panel';
import { YardPanel } from './yard-panel';

/** Job: the lines of this visit and the stations on them. Opening a line sends nothing. */
export function JobStage() {
  const job = useBenchState((state) => state.job);
  const phase = useBenchState((state) => state.phase);
  if (phase.kind === 'failed') return <StageHead title="This job could not be opened" aside={phase.reason} />;
  if (!job) return <StageHead title="Opening the job …" />;
  return (
    <div className={styles.stack}>
      <StageHead title={job.name} aside={job.about} />
      <Panel title="Lines" aside="opening a line sends nothing; choose the station that the other stages work on">
        {job.lines.length === 0 && (
          <p>
            This job has no lines yet. Setting up lines is not built; a copy of the demo job brings lines with their
            stand-ins.
          </p>
        )}
        {job.lines.map((line) => (
          <LineRow key={line.id} line={line} />
        ))}
      </Panel>
      <YardPanel />
      <ShelfPanel />
    </div>
  );
}

function LineRow({ line }: { readonly line: JobLine }) {
  const bench = useBench();
  const state = useBenchState(({ lines }) => lines.get(line.id) ?? null);
  const built = line.far === 'yard';
  return (
    <div className={styles.line} role="group" aria-label={`Line ${line.name}`}>
      <div>
        <h3>{line.name}</h3>
        <div className={styles.soft}>
          {[line.medium, line.serial && settingsText(line.serial), PROTOCOL_TEXT[line.protocol]]
            .filter(Boolean)
            .join(' · ')}
        </div>
      </div>
      <div className={styles.stations}>
        {line.stations.map((station) => (
          <StationRow key={station.id} line={line} station={station} disabled={!built} />
        ))}
      </div>
      <div>
        {!built ? (
          <span className={styles.soft}>its stand-in is not built yet</span>
        ) : state?.open ? (
          <Button variant="outlined" color="inherit" onClick={() => bench.close(line.id)}>
            Close {line.name}
          </Button>
        ) : (
          <Button variant="contained" color="secondary" onClick={() => bench.open(line.id)}>
            Open {line.name}
          </Button>
        )}
        {state?.trouble && <div className={styles.soft}>{state.trouble}</div>}
      </div>
    </div>
  );
}

function StationRow({
  line,
  station,
  disabled,
}: {
  readonly line: JobLine;
  readonly station: JobStation;
  readonly disabled: boolean;
}) {
  const bench = useBench();
  const chosen = useBenchState(({ lineId, station: current }) => lineId === line.id && current === station.station);
  const text = useBenchState(({ views, sheets, nowUs }) => {
    const index = station.sheet ? (sheets.get(station.sheet.slug) ?? null) : null;
    return knownState(index, views.get(stationKey(line.id, station.station)) ?? UNKNOWN_STATION, nowUs).text;
  });
  const sheetName = useBenchState(({ sheets }) =>
    station.sheet ? sheets.get(station.sheet.slug)?.sheet.name : undefined,
  );
  return (
    <button
      type="button"
      className={styles.station}
      aria-pressed={chosen}
      disabled={disabled}
      onClick={() => bench.select(line.id, station.station)}
    >
      <strong>
        {station.station} · {station.name}
      </strong>
      <span className={styles.soft}>
        {disabled
          ? 'no sheet yet'
          : [sheetName && `sheet ${sheetName}`, text, station.about].filter(Boolean).join(' · ')}
      </span>
    </button>
  );
}
