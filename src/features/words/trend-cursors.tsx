import Slider from '@mui/material/Slider';
import { valueAt, type Trend } from '../../core/trace/trend';
import { clockText } from '../../ui/format';
import styles from './words.module.css';

/** Two moments in seconds of the session, the earlier one first. */
export type Cursors = readonly [number, number];

/** Cursors that stand apart in a picture which shows these seconds. */
export const cursorsIn = (from: number, to: number): Cursors => [from + (to - from) / 3, to - (to - from) / 3];

/** A press moves the cursor that is nearer. */
export const withCursor = ([a, b]: Cursors, x: number): Cursors => {
  const moved = Math.abs(x - a) < Math.abs(x - b) ? [x, b] : [a, x];
  return [Math.min(...moved), Math.max(...moved)];
};

const number = (value: number | null): string => (value === null ? 'not known' : String(Number(value.toFixed(3))));

interface CursorTextProps {
  readonly trend: Trend;
  readonly cursors: Cursors;
  readonly unit: string;
  readonly currentUnit: string;
  readonly startMs: number;
}

/** What the curves held at the cursors, and what changed between them. */
export function CursorText({ trend, cursors, unit, currentUnit, startMs }: CursorTextProps) {
  const [a, b] = cursors;
  const rows = [
    ['reference', unit, trend.reference],
    ['actual', unit, trend.actual],
    ...(trend.current.length > 0 ? [['current', currentUnit, trend.current] as const] : []),
  ] as const;
  return (
    <table className={styles.bits} aria-label="Values at the cursors">
      <thead>
        <tr>
          <th scope="col" />
          <th scope="col">A {clockText(startMs + a * 1000)}</th>
          <th scope="col">B {clockText(startMs + b * 1000)}</th>
          <th scope="col">B − A, {number(b - a)} s</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, of, points]) => {
          const [first, second] = [valueAt(points, a), valueAt(points, b)];
          return (
            <tr key={name}>
              <td>
                {name}, {of}
              </td>
              <td>{number(first)}</td>
              <td>{number(second)}</td>
              <td>{first === null || second === null ? '' : number(second - first)}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

interface CursorSliderProps {
  readonly cursors: Cursors;
  readonly onChange: (cursors: Cursors) => void;
  /** The seconds that the picture shows. */
  readonly min: number;
  readonly max: number;
  readonly startMs: number;
}

/** The same two cursors for the keyboard: an arrow moves one by a hundredth of what the picture shows. */
export function CursorSlider({ cursors, onChange, min, max, startMs }: CursorSliderProps) {
  return (
    <Slider
      size="small"
      min={min}
      max={max}
      step={(max - min) / 100}
      value={[...cursors]}
      onChange={(_, [a = min, b = max]) => onChange([a, b])}
      getAriaLabel={(thumb) => `cursor ${thumb === 0 ? 'A' : 'B'}`}
      getAriaValueText={(second) => clockText(startMs + second * 1000)}
    />
  );
}
