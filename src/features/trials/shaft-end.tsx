import type { ShaftWay } from '../../core/procedure/procedure';
import styles from './shaft-end.module.css';

/** The arrow around the end of a shaft, seen from before it. */
const ARROW = 'M 8 24 A 16 16 0 0 1 36 13 m -8 -2 l 8.5 2.5 l 1 -8.8';

/** A shaft's end with its key, and an arrow by the way that it turns; it turns where motion is wanted. Its way stands beside it in words. */
export function ShaftEnd({ way }: { readonly way: string }) {
  const turns: ShaftWay | undefined = way === 'clockwise' || way === 'counter-clockwise' ? way : undefined;
  if (way === 'it cannot be seen') return null;
  return (
    <svg className={styles.picture} viewBox="0 0 48 48" aria-hidden>
      <g className={turns && styles[turns]}>
        <circle cx={24} cy={24} r={9} />
        <path d="M 21.5 15 h 5 v 4 h -5 z" />
      </g>
      {turns && <path d={ARROW} transform={turns === 'clockwise' ? undefined : 'matrix(-1 0 0 1 48 0)'} />}
    </svg>
  );
}
