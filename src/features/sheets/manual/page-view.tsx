'use client';

import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { messageOf } from '../../../core/message-of';
import type { Frame, PlacedText } from '../../../core/tables/page-lines';
import styles from './manual.module.css';
import { columnsText } from './millimetres';
import type { Manual, PageSize } from './pdf-document';

interface PageViewProps {
  readonly manual: Manual;
  readonly page: number;
  readonly frame: Frame | null;
  readonly columns: readonly number[];
  /** Where the text that was looked for stands. */
  readonly marks: readonly PlacedText[];
  readonly onFrame: (frame: Frame) => void;
}

/** A frame smaller than this, in points, is a slip of the hand. */
const SMALLEST_FRAME = 8;

/** A page as it is printed, with the frame and the columns drawn over it. A frame is drawn with the pointer, or typed beside the page. */
export function PageView({ manual, page, frame, columns, marks, onFrame }: PageViewProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState<PageSize | null>(null);
  const [said, setSaid] = useState('');
  const [drawn, setDrawn] = useState<Frame | null>(null);
  useEffect(() => {
    let isOver = false;
    manual.size(page).then(
      (own) => !isOver && setSize(own),
      (error: unknown) => !isOver && setSaid(messageOf(error)),
    );
    return () => {
      isOver = true;
    };
  }, [manual, page]);
  useEffect(() => {
    const [paper, width] = [canvas.current, box.current?.clientWidth];
    if (!size || !paper || !width) return undefined;
    const drawing = manual.draw(page, paper, Math.round(width * devicePixelRatio));
    drawing.done.then(
      () => setSaid(''),
      (error: unknown) => setSaid(messageOf(error)),
    );
    return drawing.cancel;
  }, [manual, page, size]);
  const at = (event: PointerEvent<SVGSVGElement>): { readonly x: number; readonly y: number } => {
    const { left, top, width, height } = event.currentTarget.getBoundingClientRect();
    const within = (part: number): number => Math.min(1, Math.max(0, part));
    return {
      x: within((event.clientX - left) / width) * (size?.width ?? 0),
      y: within((event.clientY - top) / height) * (size?.height ?? 0),
    };
  };
  const start = useRef<{ readonly x: number; readonly y: number } | null>(null);
  const spanned = (event: PointerEvent<SVGSVGElement>): Frame | null => {
    const [from, to] = [start.current, at(event)];
    if (!from) return null;
    const [x, y] = [Math.min(from.x, to.x), Math.min(from.y, to.y)];
    return { x, y, width: Math.abs(to.x - from.x), height: Math.abs(to.y - from.y) };
  };
  const shown = drawn ?? frame;
  const [top, bottom] = shown ? [shown.y, shown.y + shown.height] : [0, size?.height ?? 0];
  return (
    <div
      className={styles.page}
      ref={box}
      style={{ aspectRatio: size ? `${size.width} / ${size.height}` : '210 / 297' }}
    >
      <canvas ref={canvas} role="img" aria-label={`Page ${page} of ${manual.name}`} />
      {size && (
        <svg
          viewBox={`0 0 ${size.width} ${size.height}`}
          aria-hidden
          data-testid="page-overlay"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            start.current = at(event);
          }}
          onPointerMove={(event) => setDrawn(spanned(event))}
          onPointerUp={(event) => {
            const made = spanned(event);
            start.current = null;
            setDrawn(null);
            if (made && made.width > SMALLEST_FRAME && made.height > SMALLEST_FRAME) onFrame(made);
          }}
          onPointerCancel={() => {
            start.current = null;
            setDrawn(null);
          }}
        >
          {marks.map(({ x, y, width, height }) => (
            <rect key={`${x} ${y}`} className={styles.mark} x={x - 2} y={y - 1} width={width + 4} height={height + 4} />
          ))}
          {shown && <rect className={styles.frame} {...shown} />}
          {columns.slice(1).map((x) => (
            <g key={x} className={styles.column}>
              <line x1={x - 2} x2={x - 2} y1={top} y2={bottom} />
              <text x={x - 1} y={top + 9}>
                {columnsText([x])}
              </text>
            </g>
          ))}
        </svg>
      )}
      {said !== '' && <p className={styles.said}>This page cannot be drawn: {said}</p>}
    </div>
  );
}
