import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useForm } from '../../bench/hooks/use-typed';
import { liveIn } from '../../bench/state/known-state';
import type { RunView } from '../../bench/state/runs';
import { hexNumber } from '../../core/bytes/hex';
import { wordText } from '../../core/drive/describe';
import { patternIn } from '../../core/drive/seen';
import { INPUT } from '../../core/procedure/cycle-procedure';
import type { CycleWord } from '../../core/process-image/cycle-blocks';
import { itemName, itemsOf, type CycleItem, type OutputBlock } from '../../core/process-image/output-block';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { TypedField } from '../../ui/fields';
import { ageText } from '../../ui/format';
import { HeadRow } from '../../ui/head-row';
import styles from './block-part.module.css';
import registers from './registers.module.css';

/** The field of the form in which an item's value is typed. */
export const fieldOf = ({ cells: [first] }: CycleItem): string => `${first ?? ''}`;

/** What goes to the drive, each value as it is typed. */
export function OutTable({
  index,
  output,
  lives,
}: {
  readonly index: SheetIndex;
  readonly output: OutputBlock;
  /** The word that carries the controller’s sign of life, and how; null where none does. */
  readonly lives: { readonly at: number; readonly how: string } | null;
}) {
  const { key, view } = useCurrent();
  const { put } = useForm('cycle block', key);
  const nowUs = useBenchState((state) => state.nowUs);
  return (
    <div className={registers.scroll}>
      <table className={registers.found} aria-label={`Block to ${index.sheet.name}`}>
        <HeadRow names={['item', 'value', 'that is']} />
        <tbody>
          {output.items.map(({ item, text, error, meaning, isHeld }) => {
            const name = itemName(item);
            const held = isHeld && item.parameter ? liveIn(item.parameter, view.values) : undefined;
            return (
              <tr key={name}>
                <td>{name}</td>
                <td className={styles.known}>
                  <TypedField
                    label={`${name}, to the drive`}
                    width={220}
                    value={text}
                    error={error}
                    onChange={(next) => put(fieldOf(item), next)}
                  />
                </td>
                <td className={registers.mono}>
                  {meaning}
                  {lives?.at === item.at && <span className={registers.soft}> from there {lives.how}</span>}
                  {/* It goes out over and over: whoever changed it at the drive since then is undone by it. */}
                  {held && <span className={registers.soft}> as read {ageText(nowUs - held.atUs)}</span>}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

/** What comes from it, with the age of what was told and of its last change. */
export function InTable({
  index,
  words,
  view,
}: {
  readonly index: SheetIndex;
  readonly words: readonly CycleWord[];
  readonly view: RunView | null;
}) {
  const nowUs = useBenchState((state) => (view ? state.nowUs : 0));
  const told = new Map(view?.run?.kept[INPUT]);
  const atUs = view?.run?.cycle?.inputUs ?? null;
  const changedUs = new Map(view?.run?.cycle?.changedUs);
  return (
    <div className={registers.scroll}>
      <table className={registers.found} aria-label={`Block from ${index.sheet.name}`}>
        <HeadRow names={['item', 'raw', 'that is', 'age', 'changed last']} />
        <tbody>
          {itemsOf(words).map((item) => {
            const { parameter, cells } = item;
            const raw = cells.map((cell) => told.get(cell));
            const changed = Math.max(...cells.map((cell) => changedUs.get(cell) ?? -Infinity));
            const pattern = parameter ? patternIn(parameter, (cell) => told.get(cell)) : undefined;
            return (
              <tr key={cells[0]}>
                <td>{itemName(item)}</td>
                <td className={registers.mono}>
                  {raw.map((word) => (word === undefined ? '····' : hexNumber(word))).join(' ')}
                </td>
                <td>{parameter && pattern !== undefined ? wordText(index, parameter, pattern) : ''}</td>
                <td className={registers.mono}>{atUs === null ? '' : ageText(nowUs - atUs)}</td>
                <td className={registers.mono}>{changed === -Infinity ? '' : ageText(nowUs - changed)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
