'use client';

import { ACTIVE, homingPaths, homingText, switchOf, type HomingMethod } from '../../core/motion/homing-methods';
import styles from './registers.module.css';

const WIDTH = 560;
const SIDE = 20;
const AXIS = 26;
/** Height of one way, and how far its turns lie below each other. */
const ROW = 34;
const TURN = 9;

const x = (at: number): number => SIDE + (at / 100) * (WIDTH - 2 * SIDE);

/** How a method looks for home: the switch where it is active, and the way from each kind of place, ending at home. */
export function HomingPicture({ number, method }: { readonly number: number; readonly method: HomingMethod }) {
  const paths = homingPaths(method);
  const own = switchOf(method);
  const [from, to] = own ? ACTIVE[own] : [0, 0];
  const height = AXIS + 38 + paths.length * ROW;
  const home = paths[0]?.at(-1) ?? 50;
  return (
    <figure className={styles.homing}>
      <svg viewBox={`0 0 ${WIDTH} ${height}`} role="img" aria-label={`Homing method ${number}: ${homingText(method)}`}>
        {own && (
          <>
            <rect className={styles.active} x={x(from)} width={x(to) - x(from)} y={AXIS - 6} height={12} />
            <text
              x={(x(from) + x(to)) / 2}
              y={AXIS - 11}
              textAnchor={from === 0 ? 'start' : to === 100 ? 'end' : 'middle'}
            >
              switch active
            </text>
          </>
        )}
        <line className={styles.axis} x1={SIDE} x2={WIDTH - SIDE} y1={AXIS} y2={AXIS} />
        <line className={styles.homeLine} x1={x(home)} x2={x(home)} y1={AXIS - 10} y2={height - 18} />
        <text x={x(home)} y={height - 4} textAnchor={home < 15 ? 'start' : home > 85 ? 'end' : 'middle'}>
          home
        </text>
        {paths.map((path, i) => (
          <Way key={path.join(' ')} path={path} y={AXIS + 22 + i * ROW} />
        ))}
      </svg>
      <figcaption>{homingText(method)}</figcaption>
    </figure>
  );
}

function Way({ path, y }: { readonly path: readonly number[]; readonly y: number }) {
  const points = path.flatMap((at, i) =>
    i === 0
      ? [[x(at), y] as const]
      : [[x(at), y + (i - 1) * TURN] as const, [x(at), y + Math.min(i, path.length - 2) * TURN] as const],
  );
  const [end, before] = [points[points.length - 1], points[points.length - 2]];
  const last = path.length - 1;
  const way = Math.sign((path[last] ?? 0) - (path[last - 1] ?? 0));
  const [startX, startY] = points[0] ?? [0, 0];
  return (
    <g>
      <circle className={styles.begins} cx={startX} cy={startY} r={3.5} />
      <polyline className={styles.way} points={points.map(([px, py]) => `${px},${py}`).join(' ')} />
      {end && before && way !== 0 && (
        <path className={styles.arrives} d={`M ${end[0]} ${end[1]} l ${-8 * way} -4 v 8 z`} />
      )}
      {way === 0 && <circle className={styles.arrives} cx={startX} cy={startY} r={4} />}
    </g>
  );
}
