'use client';

import type { StateMap, StatePlace } from '../../core/profile/layout';
import styles from './states.module.css';

interface StateMapViewProps {
  readonly map: StateMap;
  /** States that the status word allows; one of several is shown as possible only. */
  readonly here: ReadonlySet<string>;
  readonly target: string | null;
  /** The states that the route passes, first to last. */
  readonly way: readonly string[];
  readonly onTarget: (id: string) => void;
}

/** The states of a profile as a stair, rest at the left and low, what turns at the right and high; the shelf below holds what a drive gets into by itself. */
export function StateMapView({ map, here, target, way, onTarget }: StateMapViewProps) {
  const at = new Map(map.places.map((place) => [place.state.id, place]));
  const x = ({ column }: StatePlace): number => ((column + 0.5) / map.columns) * 100;
  const y = ({ row }: StatePlace): number => ((map.rows - row - 0.5) / map.rows) * 100;
  const legs = new Set(way.slice(1).map((id, i) => [way[i] ?? '', id].sort().join(' ')));
  return (
    <div
      className={styles.map}
      role="group"
      aria-label="Map of states"
      style={{
        gridTemplateColumns: `repeat(${map.columns}, minmax(0, 1fr))`,
        gridTemplateRows: `repeat(${map.rows}, auto)`,
      }}
    >
      <svg className={styles.ways} viewBox="0 0 100 100" preserveAspectRatio="none" aria-hidden="true">
        {map.ways.map(([from, to]) => {
          const [a, b] = [at.get(from), at.get(to)];
          if (!a || !b) return null;
          const onRoute = legs.has([from, to].sort().join(' '));
          return (
            <line
              key={`${from} ${to}`}
              className={onRoute ? styles.onRoute : ''}
              x1={x(a)}
              y1={y(a)}
              x2={x(b)}
              y2={y(b)}
              vectorEffect="non-scaling-stroke"
            />
          );
        })}
      </svg>
      {map.places.map((place) => (
        <StateBox
          key={place.state.id}
          place={place}
          rows={map.rows}
          presence={!here.has(place.state.id) ? 'away' : here.size === 1 ? 'here' : 'maybe'}
          isTarget={target === place.state.id}
          onTarget={onTarget}
        />
      ))}
    </div>
  );
}

const PRESENCE = {
  away: { mark: '', text: '', style: '' },
  here: { mark: '● ', text: 'the drive is here', style: styles.here },
  maybe: { mark: '◐ ', text: 'the drive may be here', style: styles.maybe },
} as const;

function StateBox({
  place: { state, column, row },
  rows,
  presence,
  isTarget,
  onTarget,
}: {
  readonly place: StatePlace;
  readonly rows: number;
  readonly presence: keyof typeof PRESENCE;
  readonly isTarget: boolean;
  readonly onTarget: (id: string) => void;
}) {
  const { mark, text, style } = PRESENCE[presence];
  const common = {
    className: `${styles.state} ${style} ${isTarget ? styles.target : ''} ${row === 0 ? styles.shelf : ''}`,
    style: { gridColumn: column + 1, gridRow: rows - row },
    title: state.note,
    'aria-label': text === '' ? state.name : `${state.name}, ${text}`,
    'data-state': state.id,
    'data-presence': presence,
  };
  const label = (
    <>
      {mark !== '' && <span aria-hidden="true">{mark}</span>}
      {state.name}
    </>
  );
  if (row === 0) return <span {...common}>{label}</span>;
  return (
    <button type="button" {...common} aria-pressed={isTarget} onClick={() => onTarget(state.id)}>
      {label}
    </button>
  );
}
