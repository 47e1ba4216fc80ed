'use client';

import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { decimalText, type Rational } from '../../core/scaling/rational';
import { drawn, ticksBetween, type SpeedScale, type Tick } from '../../core/scaling/speed-scale';
import styles from './scaling.module.css';

/** Geometry of the picture in its own units. */
const WIDTH = 1080;
const LEFT = 120;
const RIGHT = WIDTH - 34;
const ROWS_TOP = 40;
const ROW = 38;
const MOST_MARKS = 12;

/** A limit that shades everything beyond it. */
export interface Limit {
  readonly from: Rational;
  readonly to: Rational;
  readonly text: string;
}

/** The part of the scales that is seen, in the chain's unit; for drawing only. */
export interface Range {
  readonly low: number;
  readonly high: number;
}

interface ScalePictureProps {
  readonly scale: SpeedScale;
  readonly range: Range;
  readonly wanted: Rational;
  readonly sent: Rational;
  readonly sentText: string;
  readonly live: Rational | null;
  readonly liveText: string;
  readonly limits: readonly Limit[];
  /** Called with a number of counts to move by. */
  readonly onStep: (counts: bigint) => void;
  /** Called while the hairline is dragged: where to, and how fine the hand is there, in the chain's unit. */
  readonly onDrag: (value: number, finest: number) => void;
  readonly onZoom: (by: number) => void;
}

interface Row {
  readonly name: string;
  readonly unit: string;
  readonly ticks: readonly Tick[];
  /** So many of this row's unit are one of the chain's. */
  readonly per: number;
}

function rowsOf({ chain, fullValue, fullRaw, other, machine }: SpeedScale, { low, high }: Range): readonly Row[] {
  const row = (name: string, unit: string, per: number, base: 'ten' | 'sixteen' = 'ten', whole = false): Row => ({
    name,
    unit,
    per,
    ticks: ticksBetween(low * per, high * per, MOST_MARKS, base, whole),
  });
  const counts = drawn(fullRaw) / drawn(fullValue);
  return [
    row(chain.unit === 'Hz' ? 'Frequency' : 'Reference', chain.unit, 1),
    ...(other ? [row(other.unit === 'rpm' ? 'Shaft' : 'Frequency', other.unit, drawn(other.factor))] : []),
    row('Share', '% of full scale', 100 / drawn(fullValue)),
    ...(machine ? [row('Machine', machine.unit, drawn(machine.factor))] : []),
    row('On the wire', 'decimal', counts, 'ten', true),
    row('In hex', '', counts, 'sixteen', true),
  ];
}

/** Where a limit's words stand: at its left edge, or beside the hairline's flag where that would cover them. */
export function besideFlag(edge: number, width: number, flagLeft: number, flagRight: number): number {
  const at = Math.min(edge, RIGHT - width);
  if (at >= flagRight || at + width <= flagLeft) return at;
  return flagRight + 6 + width <= RIGHT ? flagRight + 6 : flagLeft - 6 - width;
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
 * one what the drive says. It is dragged, or stepped by one count with the arrow keys; + and - zoom until single counts are seen.
 */
export function ScalePicture(props: ScalePictureProps) {
  const { scale, range, wanted, sent, sentText, live, liveText, limits, onStep, onDrag, onZoom } = props;
  const picture = useRef<SVGSVGElement>(null);
  const rows = rowsOf(scale, range);
  const bottom = ROWS_TOP + rows.length * ROW;
  const span = range.high - range.low;
  const x = (value: number): number =>
    LEFT + Math.max(-0.02, Math.min(1.02, (value - range.low) / span)) * (RIGHT - LEFT);
  const press = (event: KeyboardEvent): void => {
    const counts = KEYS[event.key];
    const zoom = event.key === '+' ? 0.5 : event.key === '-' ? 2 : null;
    if (counts === undefined && zoom === null) return;
    event.preventDefault();
    if (counts !== undefined) onStep(counts);
    if (zoom !== null) onZoom(zoom);
  };
  const drag = (event: PointerEvent): void => {
    const box = picture.current?.getBoundingClientRect();
    if (!box || (event.buttons & 1) === 0) return;
    const perPixel = (WIDTH / box.width / (RIGHT - LEFT)) * span;
    const at = ((event.clientX - box.left) * WIDTH) / box.width;
    const share = Math.max(0, Math.min(1, (at - LEFT) / (RIGHT - LEFT)));
    onDrag(range.low + share * span, perPixel);
  };
  const flag = Math.max(10 + 5 * sentText.length, 40);
  const hair = x(drawn(sent));
  const flagAt = Math.max(LEFT, Math.min(RIGHT, hair));
  const isSeen = (value: Rational): boolean => drawn(value) >= range.low && drawn(value) <= range.high;
  return (
    <div className={styles.scroll}>
      <svg
        ref={picture}
        className={styles.picture}
        viewBox={`0 0 ${WIDTH} ${bottom + 14}`}
        role="slider"
        tabIndex={0}
        data-takes-keys
        aria-label="Hairline over the scales"
        aria-valuetext={sentText}
        aria-valuenow={drawn(sent)}
        aria-valuemin={range.low}
        aria-valuemax={range.high}
        onKeyDown={press}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          drag(event);
        }}
        onPointerMove={drag}
      >
        {limits.map(({ from, to, text }) => {
          const [left, right] = [x(drawn(from)), x(drawn(to))];
          return right - left < 1 ? null : (
            <g key={text}>
              <rect
                className={styles.limit}
                x={left}
                y={ROWS_TOP - 22}
                width={right - left}
                height={bottom - ROWS_TOP + 10}
              />
              <text
                className={styles.limitText}
                x={besideFlag(left, 6.2 * text.length, flagAt - flag, flagAt + flag)}
                y={12}
              >
                {text}
              </text>
            </g>
          );
        })}
        {rows.map((row, i) => (
          <ScaleRow key={row.name + row.unit} row={row} y={ROWS_TOP + i * ROW} x={x} />
        ))}
        {isSeen(wanted) && (
          <line className={styles.wanted} x1={x(drawn(wanted))} x2={x(drawn(wanted))} y1={26} y2={bottom} />
        )}
        <line className={styles.hair} x1={hair} x2={hair} y1={26} y2={bottom} data-testid="hairline" />
        <rect className={styles.flag} x={flagAt - flag} y={6} width={2 * flag} height={20} />
        <text className={styles.flagText} x={flagAt} y={21} textAnchor="middle">
          {sentText}
        </text>
        {live && isSeen(live) && (
          <>
            <line className={styles.live} x1={x(drawn(live))} x2={x(drawn(live))} y1={ROWS_TOP - 18} y2={bottom} />
            <text
              className={styles.liveText}
              x={x(drawn(live)) + (x(drawn(live)) > WIDTH / 3 ? -6 : 6)}
              y={bottom + 12}
              textAnchor={x(drawn(live)) > WIDTH / 3 ? 'end' : 'start'}
            >
              ◂ {liveText}
            </text>
          </>
        )}
      </svg>
    </div>
  );
}

function ScaleRow({ row, y, x }: { readonly row: Row; readonly y: number; readonly x: (value: number) => number }) {
  return (
    <g>
      <text className={styles.name} x={0} y={y + 2}>
        {row.name}
      </text>
      <text className={styles.unit} x={0} y={y + 17}>
        {row.unit}
      </text>
      <line x1={LEFT} x2={RIGHT} y1={y} y2={y} />
      {row.ticks.map(({ at, major, text }) => (
        <g key={at}>
          <line x1={x(at / row.per)} x2={x(at / row.per)} y1={y} y2={y - (major ? 10 : 5)} />
          {major && (
            <text x={x(at / row.per)} y={y + 15} textAnchor="middle">
              {text}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

/** `50 Hz` */
export const limitText = (value: Rational, unit: string): string => `${decimalText(value, 2, false)} ${unit}`;
