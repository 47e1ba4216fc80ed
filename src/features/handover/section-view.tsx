'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench } from '../../bench/bench-context';
import { drawCurve, PICTURE } from '../../core/handover/curve';
import { MARK_TEXT, type Block, type Row, type Section, type Source, type Table } from '../../core/handover/document';
import { sourceText } from '../../core/handover/source-text';
import { TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { useHandover } from './handover-store';
import styles from './handover.module.css';
import { PersonTicks } from './person-ticks';
import { PhotosPart } from './photos-part';
import { changeVisit } from './record-acts';
import { SourcePopover } from './source-popover';

/** More rows of a table come when they are asked for: a page of thousands is read by nobody. */
const ROWS_AT_ONCE = 150;

interface SectionProps {
  readonly section: Section;
  /** A closed record is only looked at. */
  readonly isClosed: boolean;
}

/** One section as it will stand on the page; each line leads to where it is from. */
export function SectionView({ section, isClosed }: SectionProps) {
  const bench = useBench();
  const remark = useHandover(({ visit }) => visit.remarks[section.id] ?? '');
  const [looked, setLooked] = useState<{ readonly from: Source; readonly at: HTMLElement } | null>(null);
  const look = (from: Source, at: HTMLElement): void => setLooked({ from, at });
  return (
    <Panel title={section.title}>
      {isClosed ? (
        section.remark !== '' && <p className={styles.remark}>{section.remark}</p>
      ) : (
        <TypedField
          label="Your remark in this section"
          width="100%"
          value={remark}
          onChange={(text) =>
            changeVisit(bench, (now) => ({ ...now, remarks: { ...now.remarks, [section.id]: text.slice(0, 8000) } }))
          }
        />
      )}
      {section.id === 'photographs' && !isClosed && <PhotosPart />}
      {section.id === 'leaving' && !isClosed && <PersonTicks />}
      {section.blocks.map((block, i) => (
        <BlockView key={i} block={block} onLook={look} />
      ))}
      {looked && <SourcePopover from={looked.from} anchor={looked.at} onClose={() => setLooked(null)} />}
    </Panel>
  );
}

type OnLook = (from: Source, at: HTMLElement) => void;

function BlockView({ block, onLook }: { readonly block: Block; readonly onLook: OnLook }) {
  switch (block.kind) {
    case 'text':
      return <p className={styles.text}>{block.text}</p>;
    case 'table':
      return <TableView table={block} onLook={onLook} />;
    case 'exchange':
      return <ExchangeView block={block} onLook={onLook} />;
    case 'curve':
      return <CurveView block={block} />;
    case 'picture':
      return <PictureView block={block} />;
  }
}

function PictureView({
  block: { title, put, width, height, jpeg },
}: {
  readonly block: Extract<Block, { kind: 'picture' }>;
}) {
  return (
    <figure className={styles.figure}>
      <figcaption>
        {title} <span className={styles.soft}>put here {put}</span>
      </figcaption>
      {/* eslint-disable-next-line @next/next/no-img-element -- it comes from nowhere */}
      <img
        className={styles.picture}
        src={`data:image/jpeg;base64,${jpeg}`}
        width={width}
        height={height}
        alt={`photograph: ${title}`}
      />
    </figure>
  );
}

function TableView({ table: { title, head, rows }, onLook }: { readonly table: Table; readonly onLook: OnLook }) {
  const [most, setMost] = useState(ROWS_AT_ONCE);
  const isMarked = rows.some(({ mark }) => mark !== undefined);
  return (
    <div className={styles.scroll}>
      <table className={styles.table}>
        <caption>{title}</caption>
        <thead>
          <tr>
            {isMarked && <th scope="col">mark</th>}
            {head.map((name, i) =>
              name === '' ? (
                <td key={i} />
              ) : (
                <th key={i} scope="col">
                  {name}
                </th>
              ),
            )}
            <th scope="col">from</th>
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, most).map((row) => (
            <RowView key={row.key} row={row} isMarked={isMarked} onLook={onLook} />
          ))}
        </tbody>
      </table>
      {rows.length > most && (
        <Button variant="text" color="inherit" onClick={() => setMost(rows.length)}>
          Show all {rows.length}
        </Button>
      )}
    </div>
  );
}

function RowView({
  row: { cells, mark, from },
  isMarked,
  onLook,
}: {
  readonly row: Row;
  readonly isMarked: boolean;
  readonly onLook: OnLook;
}) {
  return (
    <tr>
      {isMarked && <td className={mark === 'bad' ? styles.bad : styles.mark}>{mark ? MARK_TEXT[mark] : ''}</td>}
      {cells.map((cell, i) => (
        <td key={i}>{cell}</td>
      ))}
      <td>
        <SourceButton from={from} onLook={onLook} />
      </td>
    </tr>
  );
}

const SourceButton = ({ from, onLook }: { readonly from: Source; readonly onLook: OnLook }) => (
  <button type="button" className={styles.from} onClick={(event) => onLook(from, event.currentTarget)}>
    {sourceText(from)}
  </button>
);

function ExchangeView({
  block: { title, frames, from },
  onLook,
}: {
  readonly block: Extract<Block, { kind: 'exchange' }>;
  readonly onLook: OnLook;
}) {
  return (
    <figure className={styles.figure}>
      <figcaption>
        {title} <SourceButton from={from} onLook={onLook} />
      </figcaption>
      {frames.map(({ way, hex, said, parts }) => (
        <div key={way}>
          <p className={styles.text}>
            <b>{way}</b> <code>{hex}</code> {said}
          </p>
          <ul className={styles.parts}>
            {parts.map(({ hex: bytes, label, text }, i) => (
              <li key={i}>
                <code>{bytes}</code> <span>{label}</span> {text}
              </li>
            ))}
          </ul>
        </div>
      ))}
    </figure>
  );
}

function CurveView({ block }: { readonly block: Extract<Block, { kind: 'curve' }> }) {
  const { width, height, left, bottom, top } = PICTURE;
  const { band, line, least, most, longest } = drawCurve(block);
  return (
    <figure className={styles.figure}>
      <figcaption>{block.title}: what was expected (the band) and what came (the line)</figcaption>
      <svg
        className={styles.curve}
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={`${block.title}: expected and seen over time`}
      >
        <polygon className={styles.band} points={band} />
        <polyline className={styles.line} points={line} />
        <path className={styles.axis} d={`M${left},${top} V${height - bottom} H${width}`} />
        <text x={left - 4} y={top + 8} textAnchor="end">
          {most}
        </text>
        <text x={left - 4} y={height - bottom} textAnchor="end">
          {least}
        </text>
        <text x={2} y={(height - bottom) / 2}>
          {block.unit}
        </text>
        <text x={width} y={height - 6} textAnchor="end">
          {longest} s
        </text>
      </svg>
    </figure>
  );
}
