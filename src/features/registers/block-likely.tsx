'use client';

import Button from '@mui/material/Button';
import { useMemo } from 'react';
import type { Block } from '../../core/process-image/blocks';
import { likelyReadings, type BlockReading, type KnownItem } from '../../core/process-image/likely';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { Panel } from '../../ui/panel';
import registers from './registers.module.css';

/** So many ways are shown; what comes behind them has little that speaks for it. */
const SHOWN = 4;

interface LikelyProps {
  readonly index: SheetIndex | null;
  readonly own: BlockReading;
  readonly otherSide: Block | null;
  readonly bytes: Uint8Array;
  readonly known: ReadonlyMap<string, KnownItem>;
  readonly onTake: (reading: BlockReading) => void;
}

/** What may be wrong with a block whose values look wrong: ranked, with what speaks for each and against it; nothing is changed without a press. */
export function BlockLikely({ index, own, otherSide, bytes, known, onTake }: LikelyProps) {
  const all = useMemo(() => likelyReadings(index, own, otherSide, bytes, known), [index, own, otherSide, bytes, known]);
  const best = all[0]?.score ?? 0;
  const ties = all.filter(({ score }) => score === best).length;
  return (
    <Panel
      title="How else it can be read"
      aside={
        ties > 1
          ? `${ties} ways are equally likely: put in what you know of a value`
          : 'the likeliest first; what you know of a value decides'
      }
    >
      <table className={registers.found} aria-label="Ways to read the block">
        <tbody>
          {all.slice(0, SHOWN).map((reading) => {
            const { block, order, skip, mistake, evidence } = reading;
            const isOwn = block.id === own.block.id && order === own.order && skip === own.skip;
            return (
              <tr key={`${block.id} ${order} ${skip}`} aria-current={isOwn ? 'true' : undefined}>
                <th scope="row">{isOwn ? 'as it is read now' : mistake}</th>
                <td>
                  {evidence.length === 0 && <span className={registers.soft}>nothing speaks for it or against it</span>}
                  {evidence.map(({ text, weight }) => (
                    <div key={text}>
                      {weight > 0 ? '+' : '−'} {text}
                    </div>
                  ))}
                </td>
                <td>
                  {!isOwn && (
                    <Button
                      variant="text"
                      color="inherit"
                      sx={{ whiteSpace: 'nowrap' }}
                      aria-label={`Read it so: ${mistake}`}
                      onClick={() => onTake(reading)}
                    >
                      Read it so
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Panel>
  );
}
