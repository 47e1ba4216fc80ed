'use client';

import type { KeyboardEvent } from 'react';
import { decimalText, divide, multiply, ratio, type Rational } from '../../core/scaling/rational';
import { synchronousSpeedRpm } from '../../core/scaling/scale';
import { ticksOf, type SpeedScale, type Tick } from '../../core/scaling/speed-scale';
import styles from './scaling.module.css';

/** Geometry of the picture in its own units. */
const WIDTH = 1080;
const LEFT = 120;
const RIGHT = WIDTH - 34;
const ROWS_TOP = 40;
const ROW = 50;
const BOTTOM = ROWS_TOP + 5 * ROW;

/** A limit that shades everything beyond it. */
export interface Limit {
  readonly from: Rational;
  readonly to: Rational;
  readonly text: string;
}

interface ScalePictureProps {
  readonly scale: SpeedScale;
  readonly wanted: Rational;
  readonly sent: Rational;
  readonly sentText: string;
  readonly live: Rational | null;
  readonly liveText: string;
  readonly limits: readonly Limit[];
  /** Called with a number of counts to move by. */
  readonly onStep: (counts: bigint) => void;
}

interface Row {
  readonly name: string;
  readonly unit: string;
  readonly ticks: readonly Tick[];
  /** Full scale in this row's own unit. */
  readonly end: bigint;
  readonly text: (value: bigint) => string;
}

const whole = ({ num, den }: Rational): bigint => num / den;

function rowsOf({ chain, fullValue, fullRaw, poles }: SpeedScale): readonly Row[] {
  const decimal = (value: bigint): string => value.toString();
  const hex = (value: bigint): string => value.toString(16).toUpperCase().padStart(4, '0');
  const row = (
    name: string,
    unit: string,
    end: bigint,
    base: 'ten' | 'sixteen',
    text: (value: bigint) => string,
  ): Row => ({ name, unit, end, ticks: ticksOf(end, 12, base), text });
  return [
    row('Frequency', chain.unit, whole(fullValue), 'ten', decimal),
    row('Shaft', `rpm, ${poles} poles`, whole(synchronousSpeedRpm(fullValue, poles)), 'ten', decimal),
    row('Share', '% of full scale', 100n, 'ten', decimal),
    row('On the wire', 'decimal', whole(fullRaw), 'ten', decimal),
    row('In hex', '', whole(fullRaw), 'sixteen', hex),
  ];
}

/** A number for drawing only: position 0 to 1 along the scales, the sign left out. */
function share(value: Rational, full: Rational): number {
  const exact = divide(multiply(value, ratio(1_000_000n)), full);
  return Math.min(1.02, Math.abs(Number(exact.num / exact.den)) / 1e6);
}

const KEYS: Readonly<Record<string, bigint>> = {
  ArrowRight: 1n,
  ArrowUp: 1n,
  ArrowLeft: -1n,
  ArrowDown: -1n,
  PageUp: 100n,
  PageDown: -100n,
};

/**
 * Parallel scales under one hairline, like a slide rule. The solid hairline is what is sent, the dashed one what was wanted, the dotted
 * one what the drive says. Arrow keys step by one count.
 */
export function ScalePicture({ scale, wanted, sent, sentText, live, liveText, limits, onStep }: ScalePictureProps) {
  const x = (value: Rational): number => LEFT + share(value, scale.fullValue) * (RIGHT - LEFT);
  const press = (event: KeyboardEvent): void => {
    const counts = KEYS[event.key];
    if (counts === undefined) return;
    event.preventDefault();
    onStep(counts);
  };
  const flag = Math.max(10 + 5 * sentText.length, 40);
  return (
    <div className={styles.scroll}>
      <svg
        className={styles.picture}
        viewBox={`0 0 ${WIDTH} ${BOTTOM + 14}`}
        role="slider"
        tabIndex={0}
        data-takes-keys
        aria-label="Hairline over the scales"
        aria-valuetext={sentText}
        aria-valuenow={Math.round(share(sent, scale.fullValue) * 100)}
        aria-valuemin={0}
        aria-valuemax={100}
        onKeyDown={press}
      >
        {limits.map(({ from, to, text }) => (
          <g key={text}>
            <rect
              className={styles.limit}
              x={x(from)}
              y={ROWS_TOP - 22}
              width={Math.max(0, x(to) - x(from))}
              height={BOTTOM - ROWS_TOP + 10}
            />
            <text className={styles.limitText} x={Math.min(x(from), RIGHT - 6.2 * text.length)} y={12}>
              {text}
            </text>
          </g>
        ))}
        {rowsOf(scale).map((row, i) => (
          <ScaleRow key={row.name} row={row} y={ROWS_TOP + i * ROW} />
        ))}
        <line className={styles.wanted} x1={x(wanted)} x2={x(wanted)} y1={26} y2={BOTTOM} />
        <line className={styles.hair} x1={x(sent)} x2={x(sent)} y1={26} y2={BOTTOM} data-testid="hairline" />
        <rect className={styles.flag} x={x(sent) - flag} y={6} width={2 * flag} height={20} />
        <text className={styles.flagText} x={x(sent)} y={21} textAnchor="middle">
          {sentText}
        </text>
        {live && (
          <>
            <line className={styles.live} x1={x(live)} x2={x(live)} y1={ROWS_TOP - 18} y2={BOTTOM} />
            <text
              className={styles.liveText}
              x={x(live) - 6}
              y={BOTTOM + 12}
              textAnchor={share(live, scale.fullValue) > 0.3 ? 'end' : 'start'}
              dx={share(live, scale.fullValue) > 0.3 ? 0 : 12}
            >
              ◂ {liveText}
            </text>
          </>
        )}
      </svg>
    </div>
  );
}

function ScaleRow({ row, y }: { readonly row: Row; readonly y: number }) {
  const at = (value: bigint): number => LEFT + (Number((value * 1_000_000n) / row.end) / 1e6) * (RIGHT - LEFT);
  return (
    <g>
      <text className={styles.name} x={0} y={y + 4}>
        {row.name}
      </text>
      <text className={styles.unit} x={0} y={y + 20}>
        {row.unit}
      </text>
      <line x1={LEFT} x2={RIGHT} y1={y} y2={y} />
      {row.ticks.map(({ value, major }) => (
        <g key={value.toString()}>
          <line x1={at(value)} x2={at(value)} y1={y} y2={y - (major ? 10 : 5)} />
          {major && (
            <text x={at(value)} y={y + 15} textAnchor="middle">
              {row.text(value)}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

/** `50 Hz` */
export const limitText = (value: Rational, unit: string): string => `${decimalText(value, 2, false)} ${unit}`;
