'use client';

import { INPUT } from '../../core/procedure/cycle-procedure';
import type { CycleWord } from '../../core/process-image/cycle-blocks';
import { whatMoved, type PutItem } from '../../core/process-image/moved';
import { itemsOf } from '../../core/process-image/output-block';
import type { Told } from '../../core/places/place-link';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { RunView } from '../../bench/state/runs';
import { HeadRow } from '../../ui/head-row';
import { Panel, Warning } from '../../ui/panel';
import registers from './registers.module.css';

/** What was put into the output block with the last press, and what the inputs were before it. */
export interface LastPut {
  readonly run: string;
  readonly items: readonly PutItem[];
  readonly before: Told;
}

/** Cycles after which what has not moved is said to have stayed. */
const CYCLES_TO_WAIT = 5;

/** Set one thing here, see what moves there. */
export function MovedPanel({
  index,
  inputs,
  last,
  view,
}: {
  readonly index: SheetIndex;
  readonly inputs: readonly CycleWord[];
  readonly last: LastPut;
  readonly view: RunView | null;
}) {
  const run = view?.id === last.run ? view.run : null;
  const told = run?.kept[INPUT];
  const { put, moved, wrong } = whatMoved(index, last.items, itemsOf(inputs), last.before, told ?? last.before);
  const isEarly = (run?.cycle?.done ?? 0) < CYCLES_TO_WAIT;
  return (
    <Panel title="What moved" aside="since the block was put in; what is not named stayed as it was">
      <ul className={registers.soft} aria-label="What was put in">
        {put.map(({ name, text }) => (
          <li key={name}>
            {name}: {text}
          </li>
        ))}
      </ul>
      {moved.length > 0 && (
        <table className={registers.found} aria-label="What moved in the block from the drive">
          <HeadRow names={['item', 'change', 'why']} />
          <tbody>
            {moved.map(({ name, text, why }) => (
              <tr key={name}>
                <td>{name}</td>
                <td>{text}</td>
                <td>{why}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {isEarly ? (
        <p className={registers.soft}>A few cycles more until it can be said what did not follow.</p>
      ) : (
        wrong.map((text) => (
          <Warning key={text}>
            {text.replace(/^./, (first) => first.toUpperCase())}.
            {moved.length === 0 &&
              ' Look at where the drive takes its words from, and whether it takes this block: some must be told to.'}
          </Warning>
        ))
      )}
    </Panel>
  );
}
