import { totalUs, type Stretch } from '../../core/line/budget';
import styles from './line.module.css';

const WIDTH = 1040;
const HEIGHT = 76;
const BAR_TOP = 22;
const BAR = 26;
/** A stretch narrower than this has no room for its name. */
const NAME_ROOM = 66;

const LOOK: Readonly<Record<Stretch['kind'], { readonly fill: string; readonly name: string }>> = {
  request: { fill: 'var(--bujo-palette-bench-copperWash)', name: '▸ request' },
  'reply-delay': { fill: 'none', name: 'reply delay' },
  reply: { fill: 'var(--bujo-palette-bench-verdigrisWash)', name: '◂ reply' },
  gap: { fill: 'none', name: 'silence' },
};

/** A step that gives 5 to 12 marks: 1, 2 or 5 times a power of ten, in microseconds. */
function markStep(us: number): number {
  const rough = us / 8;
  const power = 10 ** Math.floor(Math.log10(rough));
  return ([1, 2, 5, 10].find((factor) => factor * power >= rough) ?? 10) * power;
}

/** Request, delay, reply and silence on one time axis. */
export function TimeRuler({ stretches }: { readonly stretches: readonly Stretch[] }) {
  const total = Math.max(1, totalUs(stretches));
  const x = (us: number): number => (us / total) * WIDTH;
  const step = markStep(total);
  const marks = Array.from({ length: Math.floor(total / step) + 1 }, (_, i) => i * step);
  const placed = stretches.map((stretch, i) => ({ ...stretch, startUs: totalUs(stretches.slice(0, i)) }));
  return (
    <svg
      className={styles.picture}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      role="img"
      aria-label={`One exchange of ${(total / 1000).toFixed(2)} ms`}
    >
      {placed.map(({ kind, us, startUs }) => (
        <g key={kind}>
          <rect
            x={x(startUs)}
            y={BAR_TOP}
            width={Math.max(0, x(us))}
            height={BAR}
            fill={LOOK[kind].fill}
            stroke="var(--bujo-palette-bench-ink)"
            strokeDasharray={LOOK[kind].fill === 'none' ? '4 4' : undefined}
          />
          {x(us) > NAME_ROOM ? (
            <text x={x(startUs + us / 2)} y={BAR_TOP + BAR / 2 + 5} textAnchor="middle">
              {LOOK[kind].name}
            </text>
          ) : (
            x(us) > 12 && (
              <text x={x(startUs + us / 2)} y={BAR_TOP - 7} textAnchor="middle" className={styles.small}>
                {LOOK[kind].name}
              </text>
            )
          )}
        </g>
      ))}
      {marks.map((us) => (
        <g key={us}>
          <line
            x1={x(us)}
            x2={x(us)}
            y1={BAR_TOP + BAR}
            y2={BAR_TOP + BAR + 7}
            stroke="var(--bujo-palette-bench-ink)"
          />
          <text
            x={Math.min(x(us), WIDTH - 30)}
            y={HEIGHT - 4}
            textAnchor={us === 0 ? 'start' : 'middle'}
            className={styles.small}
          >
            {us === 0 ? '0' : `${us / 1000} ms`}
          </text>
        </g>
      ))}
    </svg>
  );
}
