'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { stationKey, stationName } from '../../bench/state/bench-state';
import { liveOf, turningOf } from '../../bench/state/known-state';
import { counted } from '../../core/counted';
import { planFaults, saidByPlan, turningFaults, withoutPlanned, type Plan } from '../../core/sets/plan';
import { carryPlan, leftText } from '../../core/sets/carry';
import { knownOf, saidText, type SaidOf } from '../../core/sets/said';
import type { Witness } from '../../core/sets/witness';
import { isUndone, keptAsText, writingCounts, type WriteItem } from '../../core/sets/set-writing';
import { writeOrder, WRITE_PHASES, resetBy } from '../../core/sets/write-order';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { pinnedIn } from '../../core/sheet/shelf';
import type { WritingRow } from '../../store/database';
import { HeadRow } from '../../ui/head-row';
import { dateText } from '../../ui/format';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ChoiceField } from '../../ui/fields';
import { Panel, Warning } from '../../ui/panel';
import { UndoButtons } from '../../ui/undo-buttons';
import { exchangeUs } from './exchange-time';
import { KeepPanel } from './keep-panel';
import { changePlan, redoPlan, undoPlan, usePlan, useRegisters } from '../../bench/registers/registers-store';
import styles from './registers.module.css';
import { pause } from '../../bench/registers/run-at';
import { nowId, readSome } from '../../bench/registers/run-reading';
import { goOnWriting, writePlan, writeToAll, type PlanTarget } from './run-writing';
import { saidFirst, useWitnesses } from './use-witnesses';

/** What is to be written, in the order in which it is; and what became of what was written. */
export function PlanPart({ index }: { readonly index: SheetIndex }) {
  const { key } = useCurrent();
  const history = usePlan(key);
  const witnesses = useWitnesses(index);
  const job = useBenchState((state) => state.job?.id ?? '');
  const writings = useRegisters((state) => state.writings);
  const own = [...writings.values()]
    .filter((row) => row.job === job && stationKey(row.line, row.station) === key)
    .sort((a, b) => b.startedMs - a.startedMs);
  return (
    <div className={styles.stack}>
      <Panel
        title={`The plan, ${counted(history.present.size, 'value')}`}
        aside="it stands here, not in the drive, until it is written"
        tools={
          <>
            <UndoButtons
              canUndo={history.past.length > 0}
              canRedo={history.future.length > 0}
              undo={() => undoPlan(key)}
              redo={() => redoPlan(key)}
            />
            {history.present.size > 0 && (
              <Button variant="text" color="inherit" onClick={() => changePlan(key, () => new Map())}>
                Empty it
              </Button>
            )}
          </>
        }
      >
        {history.present.size === 0 ? (
          <p className={styles.soft}>
            Nothing is planned. In Values, type a value, choose one, or take it from the factory, a visit, a file or
            another drive.
          </p>
        ) : (
          <PlannedList index={index} plan={history.present} said={saidFirst(witnesses)} />
        )}
      </Panel>
      <KeepPanel index={index} />
      {own.map((row) => (
        <WritingPanel key={row.id} row={row} index={index} />
      ))}
    </div>
  );
}

interface PlannedProps {
  readonly index: SheetIndex;
  readonly plan: Plan;
  /** By the drive, and by the factory. */
  readonly said: readonly [held: SaidOf, factory: SaidOf];
}

function PlannedList({ index, plan, said: [held, factory] }: PlannedProps) {
  const bench = useBench();
  const { key, drive, line, name, isOpen, view, places } = useCurrent();
  const [memory, setMemory] = useTyped('plan', key, 'memory', 'working');
  const into = memory === 'kept' && places?.writeKept ? 'kept' : undefined;
  const toBeKept = into === 'kept' ? ', to be kept' : '';
  const running = useRegisters((state) => state.running.has(key));
  const turning = useBenchState((state) => turningOf(index, view, state.nowUs));
  const eachUs = useBenchState((state) => exchangeUs(state.entries, line?.id ?? ''));
  const order = writeOrder(index, plan, held);
  const control = liveOf(index, view, 'control-word')?.word;
  const faults = [...planFaults(index, plan, held, factory), ...turningFaults(index, plan, control)];
  const bad = faults.filter(({ isBad }) => isBad).length;
  const said = saidByPlan(plan);
  const parameters = order.flatMap(({ number }) => index.byNumber.get(number) ?? []);
  const needStandstill = parameters.filter(({ write }) => write === 'standstill').length;
  const restarts = parameters.filter(({ effect }) => effect === 'restart').length;
  const cut = order.findIndex(({ phase }) => phase === 'link');
  const keep = index.byRole.get('keep');
  const wears = keep ? 0 : parameters.filter((parameter) => parameter.kept).length;
  return (
    <>
      <div className={styles.scroll}>
        <table className={styles.found} aria-label="The plan in its order">
          <HeadRow names={['', 'number', 'name', 'the drive', 'becomes', 'why', 'when', '']} />
          <tbody>
            {order.map(({ number, phase }, i) => {
              const parameter = index.byNumber.get(number);
              const planned = plan.get(number);
              if (!parameter || !planned) return null;
              const own = faults.filter((fault) => fault.number === number);
              return (
                <tr key={number}>
                  <td>{i + 1}</td>
                  <td className={styles.mono}>{number}</td>
                  <td>{parameter.name}</td>
                  <td className={styles.mono}>{saidText(index, parameter, held.get(number), held) || 'not read'}</td>
                  <td className={styles.mono}>{saidText(index, parameter, said.get(number), said)}</td>
                  <td className={styles.soft}>{planned.reason}</td>
                  <td className={styles.soft}>
                    {WRITE_PHASES.find(({ id }) => id === phase)?.text}
                    {own.map(({ text, isBad }) => (
                      <span key={text} className={isBad ? styles.bad : styles.why}>
                        {text}
                      </span>
                    ))}
                  </td>
                  <td>
                    <Button
                      variant="text"
                      color="inherit"
                      sx={{ py: 0, minWidth: 32 }}
                      aria-label={`Take ${number} out of the plan`}
                      onClick={() => changePlan(key, (before) => withoutPlanned(before, number))}
                    >
                      ×
                    </Button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      {needStandstill > 0 && turning !== false && (
        <Warning>
          {counted(needStandstill, 'value')} of it {needStandstill === 1 ? 'is' : 'are'} taken at standstill only
          {turning ? ', and the shaft turns now' : '; whether the shaft stands is not known'}.
        </Warning>
      )}
      {turning && <Warning>The shaft turns: what takes effect at once changes its motion.</Warning>}
      {cut >= 0 && (
        <Warning>
          From step {cut + 1} on the link is cut where the drive takes a new setting at once: this end is changed in
          Line after it.
        </Warning>
      )}
      <p className={styles.soft}>
        {[
          `${counted(order.length, 'write')}, each read back before the next${eachUs === null ? '' : `, about ${Math.max(1, Math.round((2 * order.length * eachUs) / 1e6))} s by the last exchanges on this line`}`,
          ...(keep ? [`they stand in working memory until ${keep.number} ${keep.name} keeps them`] : []),
          ...(places?.writeKept
            ? [
                into === 'kept'
                  ? 'each is stored at once, in memory that wears with every write'
                  : 'they stand in working memory and are gone with power',
              ]
            : []),
          ...(wears > 0 ? [`${wears} of them are kept at once, in memory that wears with every write`] : []),
          ...(restarts > 0 ? [`${restarts} take effect after a restart`] : []),
        ].join('; ')}
        .
      </p>
      <div className={styles.row}>
        {places?.writeKept && (
          <ChoiceField
            label="Into"
            width={320}
            value={memory}
            onChange={setMemory}
            options={[
              ['working', 'working memory only'],
              ['kept', 'working and non-volatile memory'],
            ]}
          />
        )}
        <ActButton
          variant="contained"
          off={whyOff(
            [!isOpen, LINE_CLOSED],
            [running, 'a reading or writing is under way'],
            [bad > 0, `${counted(bad, 'value')} must not go out so: see the reasons above`],
            [turning === true && needStandstill > 0, 'the shaft turns'],
          )}
          onClick={() => drive && void writePlan(bench, drive, name, index, plan, held, into)}
        >
          Write {counted(order.length, 'value')} to {name} on {line?.name ?? ''}
          {toBeKept}
        </ActButton>
      </div>
      <ToOthers index={index} plan={plan} isOpen={isOpen} into={into} toBeKept={toBeKept} />
    </>
  );
}

interface OthersProps {
  readonly index: SheetIndex;
  readonly plan: Plan;
  readonly isOpen: boolean;
  /** In which memory it goes, as for the drive itself, and in words. */
  readonly into: WritingRow['memory'];
  readonly toBeKept: string;
}

/**
 * The same plan to the other drives of the same kind on this line, one after another: each by its own sheet, judged by what is known of it, without what
 * belongs to the size.
 */
function ToOthers({ index, plan, isOpen, into, toBeKept }: OthersProps) {
  const bench = useBench();
  const { line, station } = useCurrent();
  const job = useBenchState((state) => state.job?.id ?? '');
  const sheets = useBenchState((state) => state.sheets);
  const views = useBenchState((state) => state.views);
  const sets = useRegisters((state) => state.sets);
  const running = useRegisters((state) => state.running);
  const from: Witness = { id: 'plan', kind: 'plan', name: 'the plan', index, said: saidByPlan(plan) };
  const others = (line?.stations ?? []).flatMap((one) => {
    const own = pinnedIn(sheets, one.sheet);
    if (!line || !own || one.station === station?.station || own.sheet.slug !== index.sheet.slug) return [];
    const key = stationKey(line.id, one.station);
    const known = sets.get(nowId(job, key))?.reading.said ?? new Map<string, never>();
    const { plan: carriedThere, left } = carryPlan(from, own, plan.keys(), knownOf(own, known), true);
    const view = views.get(key);
    const control = view && liveOf(own, view, 'control-word')?.word;
    const faults = [...planFaults(own, carriedThere, known), ...turningFaults(own, carriedThere, control)];
    const target: PlanTarget = {
      drive: { line: line.id, station: one.station },
      name: stationName(one),
      index: own,
      plan: carriedThere,
      known,
    };
    return [{ target, left, bad: faults.find(({ isBad }) => isBad), isRunning: running.has(key) }];
  });
  if (others.length === 0) return null;
  const bad = others.find((other) => other.bad);
  return (
    <>
      <p className={styles.soft}>
        {others
          .map(({ target, left }) =>
            [`${target.name}: ${counted(target.plan.size, 'value')}`, leftText(left)]
              .filter((text) => text !== '')
              .join(', '),
          )
          .join('; ')}
        .
      </p>
      <ActButton
        variant="outlined"
        off={whyOff(
          [!isOpen, LINE_CLOSED],
          [others.some(({ isRunning }) => isRunning), 'a reading or writing is under way at one of them'],
          [bad !== undefined, `${bad?.target.name ?? ''}: ${bad?.bad?.text ?? ''}`],
          [others.every(({ target }) => target.plan.size === 0), 'nothing of the plan can be carried'],
        )}
        onClick={() =>
          void writeToAll(
            bench,
            others.map(({ target }) => target),
            into,
          )
        }
      >
        Write it on {line?.name ?? ''} to {others.map(({ target }) => target.name).join(', then ')} too
        {toBeKept}
      </ActButton>
    </>
  );
}

/** A plan that is written, or was: each value with what became of it. */
function WritingPanel({ row, index }: { readonly row: WritingRow; readonly index: SheetIndex }) {
  const bench = useBench();
  const { key, drive, isOpen } = useCurrent();
  const sheets = useBenchState((state) => state.sheets);
  const running = useRegisters((state) => state.running.get(key) ?? null);
  const said = useRegisters((state) => state.said.get(key) ?? '');
  const own = pinnedIn(sheets, row.sheet) ?? index;
  const counts = writingCounts(row.writing);
  const isGoing = running?.id === row.id;
  const left = row.writing.items.filter(({ result }) => isUndone(result)).length;
  const failed = counts.refused + counts['not-reached'];
  const resets = row.writing.items.flatMap(({ number, result }) => {
    const parameter = own.byNumber.get(number);
    return parameter && result.kind === 'equal' ? resetBy(own, parameter) : [];
  });
  return (
    <Panel
      title={`Written to ${row.name}, ${dateText(row.startedMs)}`}
      aside={[
        ...(row.memory === 'kept' ? ['stored at once'] : []),
        `${counts.equal} proved`,
        ...(counts['kept-as'] > 0 ? [`${counts['kept-as']} held otherwise`] : []),
        ...(counts.refused > 0 ? [`${counts.refused} refused`] : []),
        ...(counts['not-reached'] > 0 ? [`${counts['not-reached']} not reached`] : []),
        ...(left > 0 ? [`${left} not done yet`] : []),
        ...(isGoing ? [] : said === '' ? [] : left > 0 ? [said] : []),
      ].join(', ')}
      tools={
        isGoing ? (
          <Button variant="text" color="inherit" disabled={running.isPausing} onClick={() => pause(key)}>
            {running.isPausing ? 'Pausing …' : 'Pause'}
          </Button>
        ) : (
          <>
            {left + failed > 0 && (
              <ActButton
                variant="text"
                color="inherit"
                off={whyOff([!isOpen, LINE_CLOSED], [running !== null, 'something else is under way'])}
                onClick={() => drive && void goOnWriting(bench, drive, own, row)}
              >
                {left > 0 ? `Go on with ${left + failed}` : `Try ${failed} again`}
              </ActButton>
            )}
            {resets.length > 0 && (
              <ActButton
                variant="text"
                color="inherit"
                off={isOpen ? '' : LINE_CLOSED}
                onClick={() => drive && void readSome(bench, drive, own, new Set(resets))}
              >
                Read {resets.length} again that it reset
              </ActButton>
            )}
          </>
        )
      }
    >
      <div className={styles.scroll}>
        <table className={styles.found} aria-label="What became of each value">
          <tbody>
            {row.writing.items.map((item) => (
              <tr key={item.number}>
                <td className={styles.mono}>{item.number}</td>
                <td>{item.name}</td>
                <td className={styles.mono}>{textOf(own, item, item.words)}</td>
                <td>{resultText(own, item)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Panel>
  );
}

function textOf(index: SheetIndex, { number }: WriteItem, words: readonly number[]): string {
  const parameter = index.byNumber.get(number);
  return parameter ? saidText(index, parameter, { kind: 'value', words, atMs: null }, new Map()) : '';
}

/** What became of one value, with its mark. */
function resultText(index: SheetIndex, item: WriteItem): string {
  const { result, words, number } = item;
  const parameter = index.byNumber.get(number);
  switch (result.kind) {
    case 'waiting':
      return '· not written yet';
    case 'sent':
      return '? sent, and no sure answer: it may hold either value';
    case 'confirmed':
      return '· confirmed, not read back yet';
    case 'equal':
      return '✓ read back and equal';
    case 'kept-as':
      return `≠ the drive ${parameter ? keptAsText(parameter, words, result.words) : 'holds another value'}: ${textOf(index, item, result.words)}`;
    case 'refused':
      return `✗ refused: ${result.why}`;
    case 'not-reached':
      return `✗ ${result.why}`;
  }
}
