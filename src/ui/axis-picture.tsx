'use client';

import styles from './axis-picture.module.css';

/** Something that lies at a place of the axis, with its words. */
export interface AxisMark {
  /** `limit` holds the axis by its settings, `end` by a switch or the machine itself; at a `turn` its positions begin anew. */
  readonly kind: 'end' | 'limit' | 'turn' | 'home' | 'here' | 'target';
  readonly at: number;
  readonly text: string;
}

interface AxisPictureProps {
  readonly label: string;
  readonly marks: readonly AxisMark[];
  /** A move along it; null: none. */
  readonly arrow: { readonly from: number; readonly to: number } | null;
}

const WIDTH = 760;
const SIDE = 70;
const HEIGHT = 96;
const LINE = 46;
/** Heights at which the words of each kind stand, so that they do not cover each other. */
const WORDS: Readonly<Record<AxisMark['kind'], number>> = {
  limit: 12,
  here: 30,
  home: 74,
  end: 90,
  turn: 90,
  target: 74,
};
/** Left of this a text begins at its mark, right of its counterpart it ends there. */
const NEAR_SIDE = 110;

/** An axis from end to end, with what lies on it and where it is going. */
export function AxisPicture({ label, marks, arrow }: AxisPictureProps) {
  const places = [...marks.map(({ at }) => at), ...(arrow ? [arrow.from, arrow.to] : [])];
  const [low, high] = [Math.min(...places), Math.max(...places)];
  const span = high - low || 1;
  const x = (at: number): number => SIDE + ((at - low) / span) * (WIDTH - 2 * SIDE);
  const anchor = (at: number): 'start' | 'middle' | 'end' =>
    x(at) < NEAR_SIDE ? 'start' : x(at) > WIDTH - NEAR_SIDE ? 'end' : 'middle';
  return (
    // On a narrow screen it is drawn as large, and scrolled by hand or by keys.
    <div className={styles.scroll} role="group" aria-label="The axis from end to end" tabIndex={0}>
      <svg className={styles.picture} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={label}>
        <line className={styles.line} x1={SIDE - 20} x2={WIDTH - SIDE + 20} y1={LINE} y2={LINE} />
        {marks.map((mark) => (
          <g key={`${mark.kind} ${mark.at}`} className={styles[mark.kind]}>
            <Shape mark={mark} x={x(mark.at)} />
            <text x={x(mark.at)} y={WORDS[mark.kind]} textAnchor={anchor(mark.at)}>
              {mark.text}
            </text>
          </g>
        ))}
        {arrow && arrow.from !== arrow.to && <Arrow from={x(arrow.from)} to={x(arrow.to)} />}
      </svg>
    </div>
  );
}

function Shape({ mark: { kind }, x }: { readonly mark: AxisMark; readonly x: number }) {
  switch (kind) {
    case 'end':
      return <rect x={x - 3} y={LINE - 12} width={6} height={24} />;
    case 'limit':
      return <path d={`M ${x} ${LINE - 14} V ${LINE + 14}`} strokeDasharray="3 3" />;
    case 'turn':
      return <circle cx={x} cy={LINE} r={6} />;
    case 'home':
      return <path d={`M ${x} ${LINE} v 16 m -6 0 h 12`} />;
    case 'here':
      return <path d={`M ${x} ${LINE - 2} l -6 -11 h 12 z`} />;
    case 'target':
      return <path d={`M ${x} ${LINE + 2} l -6 11 h 12 z`} />;
  }
}

function Arrow({ from, to }: { readonly from: number; readonly to: number }) {
  const back = Math.sign(to - from) * Math.min(9, Math.abs(to - from));
  return (
    <g className={styles.arrow}>
      <line x1={from} x2={to - back} y1={LINE} y2={LINE} />
      <path d={`M ${to} ${LINE} l ${-back} -5 v 10 z`} />
    </g>
  );
}
