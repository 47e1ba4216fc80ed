import type { Cable, CableEnd } from '../../core/cable/cable';
import { colourOf, type CableFault } from '../../core/cable/check-cable';
import { connectorOf, SIGNAL_TEXT } from '../../core/cable/connectors';
import styles from './line.module.css';

const WIDTH = 640;
const PITCH = 30;
const TOP = 44;
const LEFT = 190;
const RIGHT = WIDTH - 190;

/** Pins from top to bottom as the connector's own drawing has them, so that counting from the wrong side shows. */
const pinsOf = ({ connector }: CableEnd): readonly string[] => connectorOf(connector)?.pins ?? [];

const yOf = (pins: readonly string[], pin: string): number => TOP + Math.max(0, pins.indexOf(pin)) * PITCH;

/** Both connectors with their signals and the cores between them, from the same netlist as the list and the faults. */
export function CablePicture({ cable, faults }: { readonly cable: Cable; readonly faults: readonly CableFault[] }) {
  const [a, b] = cable.ends;
  const [left, right] = [pinsOf(a), pinsOf(b)];
  const height = TOP + Math.max(left.length, right.length) * PITCH + 6;
  const wrong = new Set(faults.filter(({ weight }) => weight === 'fault').map(({ core }) => core));
  return (
    <svg
      className={styles.picture}
      viewBox={`0 0 ${WIDTH} ${height}`}
      role="img"
      aria-label={`Cable from ${a.name} to ${b.name} with ${cable.cores.length} cores`}
    >
      {cable.cores.map((core, i) => {
        if (!left.includes(core.from) || !right.includes(core.to)) return null;
        const [y1, y2] = [yOf(left, core.from), yOf(right, core.to)];
        const bad = wrong.has(i);
        const middle = (LEFT + RIGHT) / 2;
        return (
          <g key={i}>
            <path
              d={`M ${LEFT} ${y1} C ${middle} ${y1}, ${middle} ${y2}, ${RIGHT} ${y2}`}
              fill="none"
              stroke={bad ? 'var(--bujo-palette-bench-alarm)' : 'var(--bujo-palette-bench-ink)'}
              strokeWidth={bad ? 3 : 2}
              strokeDasharray={bad ? '7 5' : undefined}
            />
            <text x={LEFT + 34} y={y1 - 5} className={styles.core}>
              {i + 1} {core.colour ?? colourOf(cable.ends, core)} {bad ? '✗' : ''}
            </text>
          </g>
        );
      })}
      <End end={a} x={LEFT} anchor="end" />
      <End end={b} x={RIGHT} anchor="start" />
    </svg>
  );
}

function End({ end, x, anchor }: { readonly end: CableEnd; readonly x: number; readonly anchor: 'start' | 'end' }) {
  const pins = pinsOf(end);
  const outward = anchor === 'end' ? -1 : 1;
  return (
    <g>
      <text x={x} y={18} textAnchor={anchor} fontWeight={700}>
        {end.name} · {connectorOf(end.connector)?.name ?? end.connector}
      </text>
      {pins.map((pin) => {
        const y = yOf(pins, pin);
        const signal = end.pinout[pin];
        return (
          <g key={pin}>
            <rect
              x={anchor === 'end' ? x - 24 : x}
              y={y - 11}
              width={24}
              height={22}
              fill="var(--bujo-palette-bench-byte)"
              stroke="var(--bujo-palette-bench-ink)"
            />
            <text x={x + outward * 12} y={y + 5} textAnchor="middle">
              {pin}
            </text>
            <text x={x + outward * 32} y={y + 5} textAnchor={anchor} className={signal ? undefined : styles.small}>
              {signal ? SIGNAL_TEXT[signal] : 'not used'}
            </text>
          </g>
        );
      })}
    </g>
  );
}
