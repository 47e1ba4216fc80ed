import { valueAt, type Trend } from '../../core/trace/trend';
import { clockText } from '../../ui/format';
import styles from './words.module.css';

/** Two moments that were pressed, the older press first; none, one or two. */
export type Cursors = readonly number[];

/** A third press moves the cursor that was set first. */
export const withCursor = (cursors: Cursors, x: number): Cursors => [...cursors, x].slice(-2);

const number = (value: number | null): string => (value === null ? 'not known' : String(Number(value.toFixed(3))));

interface CursorTextProps {
  readonly trend: Trend;
  readonly cursors: Cursors;
  readonly unit: string;
  readonly startMs: number;
}

/** What the curves held at the cursors, and what changed between them. */
export function CursorText({ trend, cursors, unit, startMs }: CursorTextProps) {
  if (cursors.length === 0) return <p>Press into the picture to set a cursor, and again for a second one.</p>;
  const [a = 0, b] = cursors.toSorted((x, y) => x - y);
  const rows = [
    ['reference', trend.reference],
    ['actual', trend.actual],
  ] as const;
  return (
    <table className={styles.bits} aria-label="Values at the cursors">
      <thead>
        <tr>
          <th scope="col" />
          <th scope="col">A {clockText(startMs + a * 1000)}</th>
          {b !== undefined && <th scope="col">B {clockText(startMs + b * 1000)}</th>}
          {b !== undefined && <th scope="col">B − A, {number(b - a)} s</th>}
        </tr>
      </thead>
      <tbody>
        {rows.map(([name, points]) => {
          const [first, second] = [valueAt(points, a), b === undefined ? null : valueAt(points, b)];
          return (
            <tr key={name}>
              <td>
                {name}, {unit}
              </td>
              <td>{number(first)}</td>
              {b !== undefined && <td>{number(second)}</td>}
              {b !== undefined && <td>{first === null || second === null ? '' : number(second - first)}</td>}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
