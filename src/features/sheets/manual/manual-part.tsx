'use client';

import Button from '@mui/material/Button';
import { useEffect, useRef, useState } from 'react';
import { useBench } from '../../../bench/bench-context';
import { wholeIn } from '../../../core/bytes/whole';
import { counted } from '../../../core/counted';
import type { Frame, PlacedText } from '../../../core/tables/page-lines';
import { messageOf } from '../../../core/message-of';
import type { Sheet } from '../../../core/sheet/sheet';
import type { Source } from '../../../core/sheet/source';
import { ActButton } from '../../../ui/act-button';
import { TypedField } from '../../../ui/fields';
import { FileButton } from '../../../ui/file-button';
import { Panel } from '../../../ui/panel';
import { PartField } from '../../../ui/part-field';
import styles from '../sheets.module.css';
import { SettingsRow, TableReadingPanels, useTableReading } from '../table-reading';
import { nextPageWith, piecesWith } from './find-text';
import { MOST_PAGES, useFramedTable } from './framed-table';
import own from './manual.module.css';
import { findInManual, frameTable, goOnThrough, leafTo, setColumns, showManual, useManual } from './manual-store';
import { columnsText, frameText, readColumns, readFrame } from './millimetres';
import { PageView } from './page-view';
import { openManual, type Manual } from './pdf-document';

/** The drive's manual as a PDF: leafed, searched, a table framed on its page and read. */
export function ManualPart({ sheet }: { readonly sheet: Sheet }) {
  const manual = useManual((state) => state.manual);
  const [said, setSaid] = useState('');
  const [isOpening, setOpening] = useState(false);
  const open = async (file: File): Promise<void> => {
    setOpening(true);
    const opened = await openManual(file, file.name);
    setOpening(false);
    setSaid(opened.ok ? '' : opened.error);
    if (opened.ok) showManual(opened.value);
  };
  return (
    <div className={styles.stack}>
      <Panel
        title={manual ? manual.name : 'The manual itself'}
        aside={
          manual
            ? counted(manual.pages, 'page')
            : 'a PDF is opened on this computer and sent nowhere; nothing is taken before you say so'
        }
        tools={
          <FileButton
            label="Manual file"
            accept=".pdf,application/pdf"
            disabled={isOpening}
            onFile={(file) => void open(file)}
          >
            {isOpening ? 'Opening…' : manual ? 'Open another PDF' : 'Open a PDF'}
          </FileButton>
        }
      >
        {said !== '' && <p className={styles.bad}>{said}</p>}
        {manual ? (
          <Leaf manual={manual} />
        ) : (
          <p className={styles.soft}>
            Open the manual, leaf to its table of parameters and draw a frame around it. Rows and columns are found by
            the places of the letters; what was made of each is shown before it is taken, and each entry keeps the piece
            of the page that it is from.
          </p>
        )}
      </Panel>
      {manual && <Framed sheet={sheet} manual={manual} />}
    </div>
  );
}

/** The page that is looked at: by number, by steps, by a text on it. */
function Leaf({ manual }: { readonly manual: Manual }) {
  const page = useManual((state) => state.page);
  const wanted = useManual((state) => state.find);
  const [said, setSaid] = useState('');
  const run = useRef(0);
  // Leaving the view ends a search.
  useEffect(
    () => () => {
      run.current++;
    },
    [],
  );
  const find = async (): Promise<void> => {
    const mine = ++run.current;
    const found = await nextPageWith(manual, wanted, page + 1, (looked) => {
      if (mine !== run.current) return false;
      if (looked > 0 && looked % 10 === 0) setSaid(`looked at ${looked} of ${manual.pages} pages`);
      return true;
    });
    if (mine !== run.current) return;
    setSaid(
      found === null
        ? `“${wanted}” stands on none of the ${manual.pages} pages, as far as they hold text`
        : found === page
          ? 'on this page only'
          : '',
    );
    if (found !== null) leafTo(found);
  };
  return (
    <div className={own.leaf}>
      <ActButton
        variant="outlined"
        color="inherit"
        off={page === 1 ? 'this is the first page' : ''}
        onClick={() => leafTo(page - 1)}
      >
        Page before
      </ActButton>
      <PartField
        label={`Page, of ${manual.pages}`}
        width={110}
        value={`${page}`}
        read={(text) => {
          const number = wholeIn(text);
          return number !== null && number >= 1 && number <= manual.pages ? { number } : `1 to ${manual.pages}`;
        }}
        onValue={({ number }) => leafTo(number)}
      />
      <ActButton
        variant="outlined"
        color="inherit"
        off={page === manual.pages ? 'this is the last page' : ''}
        onClick={() => leafTo(page + 1)}
      >
        Page after
      </ActButton>
      <form
        className={own.leaf}
        onSubmit={(event) => {
          event.preventDefault();
          if (wanted.trim() !== '') void find();
        }}
      >
        <TypedField label="Find in the manual" width={230} value={wanted} onChange={findInManual} note={said} />
        <ActButton
          type="submit"
          variant="outlined"
          color="inherit"
          off={wanted.trim() === '' ? 'nothing to look for is typed' : ''}
        >
          Next page with it
        </ActButton>
      </form>
    </div>
  );
}

/** The places of a text on a page. */
function useMarks(manual: Manual, page: number, text: string): readonly PlacedText[] {
  const [marks, setMarks] = useState<readonly PlacedText[]>([]);
  useEffect(() => {
    let isOver = false;
    manual.text(page).then(
      (placed) => !isOver && setMarks(piecesWith(placed, text)),
      () => undefined,
    );
    return () => {
      isOver = true;
    };
  }, [manual, page, text]);
  return marks;
}

/** The page with its frame, and beside it what was read there. */
function Framed({ sheet, manual }: { readonly sheet: Sheet; readonly manual: Manual }) {
  const bench = useBench();
  const page = useManual((state) => state.page);
  const through = useManual((state) => state.through);
  const frame = useManual((state) => state.frame);
  const fixed = useManual((state) => state.columns);
  const marks = useMarks(
    manual,
    page,
    useManual((state) => state.find),
  );
  const found = useFramedTable();
  const table = found?.kind === 'table' ? found.table : null;
  const reading = useTableReading(table?.text ?? '');
  const source = (line: number): Source => {
    const place = table?.places[line - 1];
    return {
      kind: 'manual',
      text: manual.name,
      ...(place ? { page: place.page, piece: { file: manual.digest, ...rounded(place.frame) } } : {}),
    };
  };
  const keep = (): void =>
    void bench
      .keepPaper({ digest: manual.digest, name: manual.name, file: manual.file })
      .catch((error: unknown) =>
        bench.state.setState({ refused: `${manual.name} is not kept beside its entries: ${messageOf(error)}` }),
      );
  return (
    <div className={own.beside}>
      <div className={styles.stack}>
        <PageView
          manual={manual}
          page={page}
          frame={frame}
          columns={table?.columns ?? []}
          marks={marks}
          onFrame={frameTable}
        />
      </div>
      <div className={styles.stack}>
        <Panel
          title="The table on it"
          aside={[
            frame ? 'as framed' : 'the whole page; draw a frame on it to read a part',
            ...(reading ? [`${counted(reading.adopted.length, 'entry', 'entries')} found below`] : []),
          ].join(', ')}
          tools={
            frame === null ? undefined : (
              <Button variant="text" color="inherit" onClick={() => frameTable(null)}>
                The whole page
              </Button>
            )
          }
        >
          <div className={styles.row}>
            <PartField
              label="Frame in mm"
              width={210}
              value={frameText(frame)}
              note="left, top, right, bottom"
              read={(text) => {
                const read = text.trim() === '' ? null : readFrame(text);
                return typeof read === 'string' ? read : { read };
              }}
              onValue={({ read }) => frameTable(read)}
            />
            <PartField
              label="It goes on to page"
              width={140}
              value={`${through}`}
              read={(text) => {
                const number = wholeIn(text);
                const last = Math.min(manual.pages, page + MOST_PAGES - 1);
                return number !== null && number >= page && number <= last ? { number } : `${page} to ${last}`;
              }}
              onValue={({ number }) => goOnThrough(number)}
            />
            <PartField
              label="Columns begin at, in mm"
              width={260}
              value={columnsText(fixed ?? table?.columns ?? [])}
              note={fixed ? 'set by hand; empty it to find them anew' : 'found by the gaps between them'}
              read={(text) => {
                const read = text.trim() === '' ? null : readColumns(text);
                return typeof read === 'string' ? read : { read };
              }}
              onValue={({ read }) => setColumns(read)}
            />
            <SettingsRow reading={reading} />
          </div>
          {found?.kind === 'no-text' && (
            <p className={styles.bad}>
              {through > page ? 'These pages hold' : 'This page holds'} no text, only a picture: it was scanned. Let a
              program that recognises text go over the file first, or type the rows under From a table.
            </p>
          )}
          {found?.kind === 'failed' && <p className={styles.bad}>It cannot be read: {found.why}</p>}
          {table && reading?.adopted.length === 0 && (
            <p className={styles.soft}>No entry was found {frame ? 'in the frame' : 'on this page'}.</p>
          )}
        </Panel>
        {reading && reading.adopted.length > 0 && (
          <TableReadingPanels sheet={sheet} reading={reading} sourceOf={source} onTaken={keep} />
        )}
      </div>
    </div>
  );
}

const rounded = ({ x, y, width, height }: Frame): Frame => ({
  x: Math.round(x),
  y: Math.round(y),
  width: Math.round(width),
  height: Math.round(height),
});
