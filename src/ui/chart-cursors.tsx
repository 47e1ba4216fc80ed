import Button from '@mui/material/Button';
import Slider from '@mui/material/Slider';
import styles from './chart-cursors.module.css';

/** Two moments in seconds of the picture, the earlier one first. */
export type Cursors = readonly [number, number];

/** The seconds that a picture shows. */
export interface Shown {
  readonly min: number;
  readonly max: number;
}

/** One curve of a picture as a cursor reads it. */
export interface Curve {
  readonly name: string;
  readonly unit: string;
  /** What it held at a moment; null where nobody knew. */
  readonly at: (second: number) => number | null;
}

/** Cursors that stand apart in a picture which shows these seconds. */
export const cursorsIn = ({ min, max }: Shown): Cursors => [min + (max - min) / 3, max - (max - min) / 3];

/** A press moves the cursor that is nearer. */
export const withCursor = ([a, b]: Cursors, x: number): Cursors => {
  const moved = Math.abs(x - a) < Math.abs(x - b) ? [x, b] : [a, x];
  return [Math.min(...moved), Math.max(...moved)];
};

const number = (value: number | null): string => (value === null ? 'not known' : String(Number(value.toFixed(3))));

interface ChartCursorsProps {
  readonly curves: readonly Curve[];
  /** Null while there are none. */
  readonly cursors: Cursors | null;
  readonly onCursors: (cursors: Cursors | null) => void;
  readonly shown: Shown;
  /** Shows other seconds of the same picture. */
  readonly onShow: (shown: Shown) => void;
  /** A moment in words: of the day, or in seconds from a begin. */
  readonly timeText: (second: number) => string;
}

/** Two cursors of a picture: set and taken away by a button, moved by keys too, with what the curves held there; what lies between them can be shown alone. */
export function ChartCursors({ curves, cursors, onCursors, shown, onShow, timeText }: ChartCursorsProps) {
  return (
    <>
      <Button
        variant="outlined"
        color="inherit"
        aria-pressed={cursors !== null}
        onClick={() => {
          onCursors(cursors ? null : cursorsIn(shown));
          // A picture that moves on cannot be measured.
          if (!cursors) onShow(shown);
        }}
      >
        Cursors
      </Button>
      {cursors && (
        <>
          {' '}
          <Button
            variant="outlined"
            color="inherit"
            disabled={cursors[0] === cursors[1]}
            onClick={() => onShow({ min: cursors[0], max: cursors[1] })}
          >
            Show what lies between
          </Button>
          <CursorSlider cursors={cursors} onChange={onCursors} shown={shown} timeText={timeText} />
          <CursorText curves={curves} cursors={cursors} timeText={timeText} />
        </>
      )}
    </>
  );
}

/** What the curves held at the cursors, and what changed between them. */
function CursorText({
  curves,
  cursors: [a, b],
  timeText,
}: Pick<ChartCursorsProps, 'curves' | 'timeText'> & { readonly cursors: Cursors }) {
  return (
    <table className={styles.table} aria-label="Values at the cursors">
      <thead>
        <tr>
          <th scope="col" />
          <th scope="col">A {timeText(a)}</th>
          <th scope="col">B {timeText(b)}</th>
          <th scope="col">B − A, {number(b - a)} s</th>
        </tr>
      </thead>
      <tbody>
        {curves.map(({ name, unit, at }) => {
          const [first, second] = [at(a), at(b)];
          return (
            <tr key={name}>
              <td>
                {name}, {unit}
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

/** The same two cursors for the keyboard: an arrow moves one by a hundredth of what the picture shows. */
const CursorSlider = ({
  cursors,
  onChange,
  shown: { min, max },
  timeText,
}: Pick<ChartCursorsProps, 'shown' | 'timeText'> & {
  readonly cursors: Cursors;
  readonly onChange: (cursors: Cursors) => void;
}) => (
  <Slider
    size="small"
    min={min}
    max={max}
    step={(max - min) / 100}
    value={[...cursors]}
    onChange={(_, [a = min, b = max]) => onChange([a, b])}
    getAriaLabel={(thumb) => `cursor ${thumb === 0 ? 'A' : 'B'}`}
    getAriaValueText={timeText}
  />
);
