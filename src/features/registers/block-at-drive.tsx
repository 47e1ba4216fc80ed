'use client';

import { useCurrent } from '../../bench/hooks/use-current';
import { useOwnSheet } from '../../bench/hooks/use-own-sheet';
import { useForm } from '../../bench/hooks/use-typed';
import { wholeIn } from '../../core/bytes/whole';
import { counted } from '../../core/counted';
import { blockIntoSheet, type BlockAt } from '../../core/process-image/block-into-sheet';
import { remarksOn } from '../../core/process-image/own-block';
import type { OwnBlock } from '../../core/process-image/own-block-schema';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { ActButton, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import registers from './registers.module.css';

const LAST_REGISTER = 0xffff;

/** Where a block of the user's lies at the drive: kept in its sheet, its values are reached there too, and the controller can be played over it. */
export function BlockAtDrive({
  block,
  index,
  notLaidOut,
}: {
  readonly block: OwnBlock;
  readonly index: SheetIndex | null;
  /** Why the block is not what its fields show; empty where it is. */
  readonly notLaidOut: string;
}) {
  const { line, name } = useCurrent();
  const { said, keep } = useOwnSheet();
  const form = useForm('block at the drive', block.id);
  if (!line || line.protocol === 'ascii' || line.protocol === 'raw-tcp') return null;
  const isProcess = line.protocol === 'uss';
  const typed = form.text('first');
  const first = wholeIn(typed);
  const isFirst = first !== null && first >= 0 && first <= LAST_REGISTER;
  const table =
    block.direction === 'from-drive' && form.text('table') === 'input-register' ? 'input-register' : 'holding-register';
  const at: BlockAt | null = isProcess
    ? { kind: 'process-data' }
    : isFirst
      ? { kind: 'registers', table, first }
      : null;
  const made = index && at ? blockIntoSheet(index, block, at) : null;
  const gained = made ? made.further.length + made.fresh.length : 0;
  const isWrong = remarksOn(block).some(({ kind }) => kind === 'wrong');
  return (
    <Panel
      title="The block at the drive"
      aside={`where ${name} has it, so that it is read, written and sent round as such`}
    >
      <div className={registers.stack}>
        <div className={registers.row}>
          {!isProcess && (
            <TypedField
              label="Its first register"
              width={150}
              value={typed}
              error={typed === '' || isFirst ? '' : `0 to ${LAST_REGISTER}`}
              note="counted from 0, as it is sent"
              onChange={(text) => form.put('first', text)}
            />
          )}
          {!isProcess && block.direction === 'from-drive' && (
            <ChoiceField
              label="Read from"
              width={200}
              value={table}
              onChange={(text) => form.put('table', text)}
              options={[
                ['holding-register', 'holding registers'],
                ['input-register', 'input registers'],
              ]}
            />
          )}
          <ActButton
            variant="outlined"
            color="inherit"
            off={whyOff(
              [index === null, 'this drive has no sheet yet'],
              [notLaidOut !== '', notLaidOut],
              [block.items.length === 0, 'the block has no items'],
              [isWrong, 'the block is not right yet: see above'],
              [at === null, 'its first register is not said'],
              [gained === 0, 'the sheet has nothing to gain by it'],
            )}
            onClick={() => index && made && void keep(index.sheet, { parameters: made.parameters })}
          >
            Keep in the sheet: {counted(gained, 'value')}
          </ActButton>
        </div>
        <div className={registers.told}>
          {made && made.further.length > 0 && <p>Reached here too: {made.further.join(', ')}.</p>}
          {made && made.fresh.length > 0 && <p>Entries of their own: {made.fresh.join(', ')}.</p>}
          {made && made.left.length > 0 && (
            <ul className={registers.soft} aria-label="Items that are left out">
              {made.left.map((text) => (
                <li key={text}>{text}.</li>
              ))}
            </ul>
          )}
          <p role="status">{said}</p>
        </div>
      </div>
    </Panel>
  );
}
