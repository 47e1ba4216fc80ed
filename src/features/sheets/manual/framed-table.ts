import { useEffect, useState } from 'react';
import { askFileWorker } from '../../../bench/workers/ask-file-worker';
import { messageOf } from '../../../core/message-of';
import type { Frame } from '../../../core/tables/page-lines';
import type { FramedPage, PageTable } from '../../../core/tables/page-table';
import { useManual } from './manual-store';
import type { Manual, PageSize } from './pdf-document';

/** More pages than this are not read at once: a table of a manual is shorter. */
export const MOST_PAGES = 80;

/** The frame on one of the table's pages: it begins where it was drawn on the first, at the top of the others, and ends at the same height on all. */
function frameOf(frame: Frame | null, size: PageSize, isFirst: boolean): Frame {
  if (!frame) return { x: 0, y: 0, ...size };
  const top = isFirst ? frame.y : 0;
  return { x: frame.x, width: frame.width, y: top, height: frame.y + frame.height - top };
}

async function framedPages(
  manual: Manual,
  page: number,
  through: number,
  frame: Frame | null,
): Promise<readonly FramedPage[]> {
  const numbers = Array.from({ length: Math.min(MOST_PAGES, through - page + 1) }, (_, i) => page + i);
  const pages: FramedPage[] = [];
  for (const number of numbers)
    pages.push({
      page: number,
      placed: await manual.text(number),
      frame: frameOf(frame, await manual.size(number), number === page),
    });
  return pages;
}

export type FramedTable =
  | { readonly kind: 'table'; readonly table: PageTable }
  /** The pages hold pictures only. */
  | { readonly kind: 'no-text' }
  | { readonly kind: 'failed'; readonly why: string };

/** The rows that stand in the frame; null while they are read. */
export function useFramedTable(): FramedTable | null {
  const manual = useManual((state) => state.manual);
  const page = useManual((state) => state.page);
  const through = useManual((state) => state.through);
  const frame = useManual((state) => state.frame);
  const columns = useManual((state) => state.columns);
  const [found, setFound] = useState<FramedTable | null>(null);
  useEffect(() => {
    if (!manual) return undefined;
    let isOver = false;
    const tell = (told: FramedTable): void => {
      if (!isOver) setFound(told);
    };
    framedPages(manual, page, through, frame)
      .then(async (pages) => {
        if (pages.every(({ placed }) => placed.length === 0)) return tell({ kind: 'no-text' });
        const told = await askFileWorker({ kind: 'page-table', pages, columns });
        if (told.kind === 'page-table') tell({ kind: 'table', table: told.table });
        if (told.kind === 'faults') tell({ kind: 'failed', why: told.faults.map(({ text }) => text).join('; ') });
      })
      .catch((error: unknown) => tell({ kind: 'failed', why: messageOf(error) }));
    return () => {
      isOver = true;
    };
  }, [manual, page, through, frame, columns]);
  return found;
}
