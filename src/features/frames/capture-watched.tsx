'use client';

import Button from '@mui/material/Button';
import { lazy, Suspense, useState } from 'react';
import type { Stood, WatchedBlock, WatchedItem } from '../../core/process-image/block-watch';
import { msText } from '../../ui/format';
import { HeadRow } from '../../ui/head-row';
import { Facts } from '../../ui/panel';
import { useLongList } from '../../ui/use-long-list';
import styles from './frames.module.css';

/** Charts come when one is looked at. A page whose server is gone goes on without them. */
const ItemChart = lazy(() =>
  import('./capture-item-chart').then(
    ({ ItemChart: chart }) => ({ default: chart }),
    () => ({ default: () => <p className={styles.soft}>The chart could not be loaded; the table tells the same.</p> }),
  ),
);

/** The usual height of an item. */
const ROW_PX = 38;
const seconds = (us: number): string => `${(us / 1e6).toFixed(2)} s`;
/** What never came is nothing. */
const number = (value: number): string =>
  Number.isFinite(value) ? `${Number.isInteger(value) ? value : Number(value.toPrecision(7))}` : '';
const stoodText = ({ us, fromUs, cycles }: Stood): string =>
  Number.isNaN(us) ? `${cycles} cycles` : `${seconds(us)} from ${seconds(fromUs)} on`;

/** A block of an exchange of others: how it goes round, and what its items do. */
export function WatchedPanel({ told: { facts, items, findings } }: { readonly told: WatchedBlock }) {
  // By its place: two items of a block can have one name.
  const [shown, setShown] = useState<number | null>(null);
  const item = shown === null ? undefined : items[shown];
  return (
    <>
      <Facts
        rows={[
          ['cycles', `${facts.cycles}, ${facts.lost} of them without a good answer`],
          ...(Number.isNaN(facts.meanUs)
            ? []
            : ([
                [
                  'time',
                  `mean ${msText(facts.meanUs)}, shortest ${msText(facts.leastUs)}, longest ${msText(facts.worstUs)} at ${seconds(facts.worstAtUs)}, jitter ${msText(facts.worstUs - facts.leastUs)}; ${facts.late} more than half a cycle late`,
                ],
              ] as const)),
        ]}
      />
      <ul aria-label="What is to be seen in it">
        {findings.map((text, i) => (
          <li key={`${i} ${text}`}>{text}.</li>
        ))}
      </ul>
      <ItemRows items={items} shown={shown} onShow={setShown} />
      {item && (
        <Suspense fallback={<div className={styles.itemChart} />}>
          <ItemChart item={item} />
        </Suspense>
      )}
    </>
  );
}

interface ItemRowsProps {
  readonly items: readonly WatchedItem[];
  readonly shown: number | null;
  readonly onShow: (place: number | null) => void;
}

function ItemRows({ items, shown: chosen, onShow }: ItemRowsProps) {
  const { scroller, shown, before, after, measure, isLong } = useLongList<HTMLDivElement>(items.length, ROW_PX);
  return (
    <div ref={scroller} className={isLong ? styles.longTable : styles.scrollX}>
      <table className={styles.table} aria-label="Items of what goes round" aria-rowcount={items.length + 1}>
        <HeadRow names={['item', 'last', 'least', 'most', 'changes', 'stood longest', 'widest step', '']} />
        <tbody>
          {before > 0 && <tr style={{ height: before }} />}
          {shown.map((at) => {
            const item = items[at];
            return item ? (
              <Row
                key={at}
                place={at}
                measure={measure}
                item={item}
                isShown={at === chosen}
                onShow={() => onShow(at === chosen ? null : at)}
              />
            ) : null;
          })}
          {after > 0 && <tr style={{ height: after }} />}
        </tbody>
      </table>
    </div>
  );
}

function Row({
  item: { name, last, least, most, changes, stood, step },
  place,
  measure,
  isShown,
  onShow,
}: {
  readonly item: WatchedItem;
  readonly place: number;
  readonly measure: (row: HTMLElement | null) => void;
  readonly isShown: boolean;
  readonly onShow: () => void;
}) {
  return (
    <tr ref={measure} data-index={place}>
      <th scope="row">{name}</th>
      <td>{number(last)}</td>
      <td>{number(least)}</td>
      <td>{number(most)}</td>
      <td>{changes}</td>
      <td>{stood ? stoodText(stood) : ''}</td>
      <td>
        {step
          ? `${number(step.from)} → ${number(step.to)}${Number.isNaN(step.atUs) ? '' : ` at ${seconds(step.atUs)}`}`
          : ''}
      </td>
      <td>
        <Button
          size="small"
          variant={isShown ? 'outlined' : 'text'}
          color="inherit"
          aria-pressed={isShown}
          aria-label={`Curve of ${name}`}
          onClick={onShow}
        >
          Curve
        </Button>
      </td>
    </tr>
  );
}
