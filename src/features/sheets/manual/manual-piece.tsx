'use client';

import Button from '@mui/material/Button';
import { useEffect, useRef, useState } from 'react';
import { useBench } from '../../../bench/bench-context';
import { messageOf } from '../../../core/message-of';
import type { Source } from '../../../core/sheet/source';
import styles from '../sheets.module.css';
import own from './manual.module.css';
import { openManual, type Manual, type PageSize } from './pdf-document';

type FromManual = Extract<Source, { kind: 'manual' }>;
/** Points of the page that are shown above and below the piece. */
const AROUND = 60;

/** The piece of the manual's page that an entry is from, shown when it is asked for. */
export function ManualPiece({ source }: { readonly source: FromManual }) {
  const bench = useBench();
  const [opened, setOpened] = useState<{ readonly manual: Manual; readonly size: PageSize } | null>(null);
  const [said, setSaid] = useState('');
  const { piece, page } = source;
  useEffect(() => () => opened?.manual.close(), [opened]);
  if (!piece || page === undefined) return null;
  const show = async (): Promise<void> => {
    const paper = await bench.paper(piece.file);
    if (!paper)
      return setSaid(
        `${source.text} is not kept in this browser: open it under From the manual, and take a table from it`,
      );
    const manual = await openManual(paper.file, paper.name);
    if (!manual.ok) return setSaid(manual.error);
    setSaid('');
    setOpened({ manual: manual.value, size: await manual.value.size(Math.min(page, manual.value.pages)) });
  };
  return (
    <div className={styles.stack}>
      <div className={styles.row}>
        <Button
          variant="outlined"
          color="inherit"
          onClick={() => (opened ? setOpened(null) : void show().catch((error: unknown) => setSaid(messageOf(error))))}
        >
          {opened ? 'Hide the page' : 'Show it on the page'}
        </Button>
        {said !== '' && <span className={styles.bad}>{said}</span>}
      </div>
      {opened && <PieceOfPage {...opened} page={page} piece={piece} />}
    </div>
  );
}

interface PieceProps {
  readonly manual: Manual;
  readonly size: PageSize;
  readonly page: number;
  readonly piece: NonNullable<FromManual['piece']>;
}

function PieceOfPage({ manual, size, page, piece }: PieceProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const box = useRef<HTMLDivElement>(null);
  const [said, setSaid] = useState('');
  useEffect(() => {
    const [paper, width] = [canvas.current, box.current?.clientWidth];
    if (!paper || !width) return undefined;
    const drawing = manual.draw(page, paper, Math.round(width * devicePixelRatio));
    drawing.done.catch((error: unknown) => setSaid(messageOf(error)));
    return drawing.cancel;
  }, [manual, page]);
  const height = Math.min(size.height, piece.height + 2 * AROUND);
  const top = Math.max(0, Math.min(size.height - height, piece.y - AROUND));
  return (
    <div ref={box} className={own.piece} style={{ aspectRatio: `${size.width} / ${height}` }}>
      <canvas
        ref={canvas}
        role="img"
        aria-label={`The piece of page ${page} of ${manual.name} that this entry is from`}
        // A percentage counts from the box's height, which shows only a part of the page.
        style={{ top: `${(-top / height) * 100}%` }}
      />
      <svg viewBox={`0 ${top} ${size.width} ${height}`} aria-hidden>
        <rect className={own.mark} x={piece.x - 4} y={piece.y - 3} width={piece.width + 8} height={piece.height + 6} />
      </svg>
      {said !== '' && <p className={own.said}>This page cannot be drawn: {said}</p>}
    </div>
  );
}
