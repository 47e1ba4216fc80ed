'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState, useDrafts } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useNoStop } from '../../bench/hooks/use-no-stop';
import { useForm, useTyped } from '../../bench/hooks/use-typed';
import { textOf } from '../../bench/state/forms';
import { liveIn } from '../../bench/state/known-state';
import { isUnderWay, lastRun, type RunView } from '../../bench/state/runs';
import { hexNumber } from '../../core/bytes/hex';
import { RTU } from '../../core/modbus/framing';
import { cycleBlocks, cycleRequests, type CycleBlocks, type CycleWord } from '../../core/process-image/cycle-blocks';
import {
  itemName,
  itemsOf,
  outputBlock,
  type CycleItem,
  type OutputBlock,
} from '../../core/process-image/output-block';
import { CYCLE_MS, cycleProcedure, INPUT, MOST_LOST, RUN_WITHIN_MS } from '../../core/procedure/cycle-procedure';
import { wordText } from '../../core/drive/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { patternIn } from '../../core/drive/seen';
import { wordMayTurn } from '../../core/drive/turning';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { ageText } from '../../ui/format';
import { HeadRow } from '../../ui/head-row';
import { Facts, Panel } from '../../ui/panel';
import { UnreadForm, useUnread } from '../../ui/unread';
import styles from './block-part.module.css';
import registers from './registers.module.css';

/** The controller is played: a block goes to the drive at every beat, another comes back, until it is ended. */
export function CyclePart({ index }: { readonly index: SheetIndex }) {
  const { line } = useCurrent();
  const made = cycleBlocks(index);
  if (line?.protocol === 'ascii' || !made.ok)
    return (
      <Panel title="Play the controller">
        {made.ok ? 'On a line of commands nothing goes round.' : `Nothing goes round here: ${made.error}.`}
      </Panel>
    );
  return <Played index={index} blocks={made.value} />;
}

function Played({ index, blocks }: { readonly index: SheetIndex; readonly blocks: CycleBlocks }) {
  const bench = useBench();
  const unread = useUnread();
  const noStop = useNoStop(index);
  const { line, drive, name, framing, isOpen } = useCurrent();
  const view = useBenchState((state) => lastRun(state, line?.id ?? '', 'cycle'));
  const isBusy = useBenchState((state) =>
    state.runs.some((run) => run.line === line?.id && isUnderWay(run) && run.procedure.kind !== 'cycle'),
  );
  const [every, setEvery] = useTyped('cycle', '', 'every', '100');
  const [lost, setLost] = useTyped('cycle', '', 'lost', '2');
  const [way, setWay] = useTyped('cycle', '', 'way', 'two');
  const output = useOutput(index, blocks);
  const everyMs = /^\d{1,5}$/.test(every.trim()) ? Number(every) : NaN;
  const lostMost = /^\d{1,2}$/.test(lost.trim()) ? Number(lost) : NaN;
  const isRegisters = blocks.kind === 'registers';
  const own = view && view.procedure.station === drive?.station ? view : null;
  const isRunning = own !== null && isUnderWay(own);
  const requests =
    drive && output.words
      ? cycleRequests(
          blocks,
          drive.station,
          output.words,
          way === 'one' ? 'one' : 'two',
          framing ?? RTU,
          index.sheet.uss?.pkwWords,
        )
      : null;
  const turns = output.control !== undefined && wordMayTurn(index, output.control);
  const off = whyOff(
    [!isOpen, LINE_CLOSED],
    [isBusy, 'another procedure runs on this line'],
    [unread.why !== '', 'a field shows something that is not taken'],
    [output.words === null, output.why],
    [requests?.ok === false, requests?.ok === false ? requests.error : ''],
    [turns && everyMs > RUN_WITHIN_MS, `a block that asks it to run goes round within ${RUN_WITHIN_MS} ms`],
    [turns && noStop.isSo, 'its sheet says no way to stop this drive, and the block asks it to run'],
  );
  const begin = (): void => {
    if (line && drive && requests?.ok)
      bench.start(
        line.id,
        cycleProcedure(drive.station, `the controller of ${name}`, requests.value, everyMs, lostMost, turns),
      );
  };
  return (
    <UnreadForm unread={unread}>
      <div className={registers.stack}>
        <Panel title="Play the controller" aside={`${name}: what it gets at every beat, and what it gives back`}>
          <div className={registers.row}>
            <TypedField
              label="A cycle every, ms"
              width={140}
              value={every}
              error={
                everyMs >= CYCLE_MS.least && everyMs <= CYCLE_MS.most ? '' : `${CYCLE_MS.least} to ${CYCLE_MS.most}`
              }
              onChange={setEvery}
            />
            <TypedField
              label="Cycles it may lose"
              width={140}
              value={lost}
              error={lostMost <= MOST_LOST ? '' : `0 to ${MOST_LOST}`}
              note="one more in a row ends it"
              onChange={setLost}
            />
            {isRegisters && (
              <ChoiceField
                label="By"
                width={260}
                value={way}
                onChange={setWay}
                options={[
                  ['two', '16 (10h), then a read'],
                  ['one', '23 (17h), both at once'],
                ]}
              />
            )}
            <ActButton
              variant={turns ? 'contained' : 'outlined'}
              color={turns ? 'primary' : 'inherit'}
              off={off}
              onClick={begin}
            >
              {isRunning ? 'Put this block in' : 'Begin the cycle'}
              {turns ? ': the shaft may turn' : ''}
            </ActButton>
            {isRunning && (
              <Button
                variant="outlined"
                color="inherit"
                onClick={() => {
                  bench.tell(own.id, { kind: 'end' });
                  // No run word waits in a field to be sent again by a slip.
                  bench.drafts.getState().clearWords();
                }}
              >
                Controller to stop
              </Button>
            )}
          </div>
          <p className={registers.soft}>
            The cycle alone repeats what is in the block. When it ends, by a press, by answers that stay away or by a
            fault of the drive, the drive is stopped if this bench set it in motion; nothing begins again by itself.
          </p>
          {own && <Times view={own} everyMs={everyMs} />}
        </Panel>
        <Panel title="To the drive" aside="what is typed here goes out with the next press above">
          <OutTable index={index} output={output} />
        </Panel>
        <Panel title="From the drive" aside={own ? '' : 'nothing came yet'}>
          <InTable index={index} words={blocks.in} view={own} />
        </Panel>
      </div>
    </UnreadForm>
  );
}

const fieldOf = ({ cells: [first] }: CycleItem): string => `${first ?? ''}`;

/** The output block as it is typed at this drive. */
function useOutput(index: SheetIndex, { out }: CycleBlocks): OutputBlock {
  const { key, view } = useCurrent();
  const forms = useDrafts((drafts) => drafts.forms);
  return outputBlock(
    index,
    out,
    (item) => textOf(forms, 'cycle block', key, fieldOf(item)),
    (parameter) => liveIn(parameter, view.values)?.word,
  );
}

function OutTable({ index, output }: { readonly index: SheetIndex; readonly output: OutputBlock }) {
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

function InTable({
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
  return (
    <div className={registers.scroll}>
      <table className={registers.found} aria-label={`Block from ${index.sheet.name}`}>
        <HeadRow names={['item', 'raw', 'that is', 'age']} />
        <tbody>
          {itemsOf(words).map((item) => {
            const { parameter, cells } = item;
            const raw = cells.map((cell) => told.get(cell));
            const pattern = parameter ? patternIn(parameter, (cell) => told.get(cell)) : undefined;
            return (
              <tr key={cells[0]}>
                <td>{itemName(item)}</td>
                <td className={registers.mono}>
                  {raw.map((word) => (word === undefined ? '····' : hexNumber(word))).join(' ')}
                </td>
                <td>{parameter && pattern !== undefined ? wordText(index, parameter, pattern) : ''}</td>
                <td className={registers.mono}>{atUs === null ? '' : ageText(nowUs - atUs)}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

const ms = (us: number): string => `${(us / 1000).toFixed(1)} ms`;

/** How the cycle goes: kept, lost, left out. */
function Times({ view: { run }, everyMs }: { readonly view: RunView; readonly everyMs: number }) {
  const cycle = run?.cycle;
  const state = run === null ? 'it begins' : run.phase === 'over' ? `over: ${run.why}` : 'it goes round';
  return (
    <div role="status" aria-label="The cycle">
      <Facts
        rows={[
          ['state', state],
          ...(cycle && cycle.intervals > 0
            ? ([
                ['cycles', `${cycle.done} with their answers, ${cycle.lost} lost, ${cycle.missed} beats left out`],
                [
                  'time',
                  `mean ${ms(cycle.sumUs / cycle.intervals)} of ${everyMs} ms, shortest ${ms(cycle.leastUs)}, worst ${ms(cycle.worstUs)}`,
                ],
              ] as const)
            : []),
        ]}
      />
    </div>
  );
}
