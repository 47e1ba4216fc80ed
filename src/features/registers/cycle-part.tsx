'use client';

import Button from '@mui/material/Button';
import { useState, type ReactNode } from 'react';
import { useBench, useBenchState, useDrafts } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useNoStop } from '../../bench/hooks/use-no-stop';
import { useTyped } from '../../bench/hooks/use-typed';
import { textOf } from '../../bench/state/forms';
import { liveIn } from '../../bench/state/known-state';
import { isUnderWay, lastRun, type RunView } from '../../bench/state/runs';
import { RTU } from '../../core/modbus/framing';
import { counted } from '../../core/counted';
import { blocksName, cycleBlocks, cycleRequests, type CycleBlocks } from '../../core/process-image/cycle-blocks';
import { blocksInTurn, LIFE_FORMS } from '../../core/process-image/life-sign';
import { putBetween } from '../../core/process-image/moved';
import { outputBlock, type OutputBlock } from '../../core/process-image/output-block';
import { CYCLE_MS, cycleProcedure, INPUT, MOST_LOST, RUN_WITHIN_MS } from '../../core/procedure/cycle-procedure';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { wordMayTurn } from '../../core/drive/turning';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { msText } from '../../ui/format';
import { Facts, Panel } from '../../ui/panel';
import { UnreadForm, useUnread } from '../../ui/unread';
import { LifeFields, useLifeSigns } from './cycle-life';
import { MovedPanel, type LastPut } from './cycle-moved';
import { fieldOf, InTable, OutTable } from './cycle-tables';
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
  return <WithBlocks index={index} all={made.value} />;
}

/** The blocks that are chosen, where the drive has several. */
function WithBlocks({ index, all }: { readonly index: SheetIndex; readonly all: readonly CycleBlocks[] }) {
  const { key } = useCurrent();
  const [chosen, setChosen] = useTyped('cycle life', key, 'blocks', '');
  const names = all.map(blocksName);
  const [first] = all;
  const blocks = all[names.indexOf(chosen)] ?? first;
  if (!blocks) return null;
  const choice = all.length > 1 && (
    <ChoiceField
      label="Over the registers"
      width={320}
      value={blocksName(blocks)}
      onChange={setChosen}
      options={names.map((name) => [name, name] as const)}
    />
  );
  // Of another drive, or other registers, nothing was put in yet.
  return <Played key={`${key} ${blocksName(blocks)}`} index={index} blocks={blocks} choice={choice} />;
}

function Played({
  index,
  blocks,
  choice,
}: {
  readonly index: SheetIndex;
  readonly blocks: CycleBlocks;
  readonly choice: ReactNode;
}) {
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
  const life = useLifeSigns(index, blocks);
  const [lastOut, setLastOut] = useState<OutputBlock | null>(null);
  const [lastPut, setLastPut] = useState<LastPut | null>(null);
  const everyMs = /^\d{1,5}$/.test(every.trim()) ? Number(every) : NaN;
  const lostMost = /^\d{1,2}$/.test(lost.trim()) ? Number(lost) : NaN;
  const isRegisters = blocks.kind === 'registers';
  const own = view && view.procedure.station === drive?.station ? view : null;
  const isRunning = own !== null && isUnderWay(own);
  const inTurn = output.words && blocksInTurn(output.words, life.signs.own);
  const requests =
    drive && inTurn
      ? cycleRequests(
          blocks,
          drive.station,
          inTurn,
          way === 'one' ? 'one' : 'two',
          framing ?? RTU,
          index.sheet.uss?.pkwWords,
        )
      : null;
  const controlAt = blocks.out.findIndex(({ parameter }) => parameter?.role === 'control-word');
  const turns = inTurn?.some((words) => wordMayTurn(index, words[controlAt] ?? 0)) === true;
  const off = whyOff(
    [!isOpen, LINE_CLOSED],
    [isBusy, 'another procedure runs on this line'],
    [unread.why !== '', 'a field shows something that is not taken'],
    [output.words === null, output.why],
    [life.fault !== '', `the controller’s sign of life: ${life.fault}`],
    [requests?.ok === false, requests?.ok === false ? requests.error : ''],
    [turns && everyMs > RUN_WITHIN_MS, `a block that asks it to run goes round within ${RUN_WITHIN_MS} ms`],
    [turns && noStop.isSo, 'its sheet says no way to stop this drive, and the block asks it to run'],
  );
  const begin = (): void => {
    if (!line || !drive || !requests?.ok) return;
    const rules = { everyMs, lostMost, turns, life: life.signs.back };
    const run = bench.start(line.id, cycleProcedure(drive.station, `the controller of ${name}`, requests.value, rules));
    // What the inputs were when the block changed: what moves after it is laid beside that.
    const items = isRunning && lastOut ? putBetween(lastOut.items, output.items) : [];
    const before = own?.run?.kept[INPUT];
    setLastPut(items.length > 0 && before ? { run, items, before } : null);
    setLastOut(output);
  };
  return (
    <UnreadForm unread={unread}>
      <div className={registers.stack}>
        <Panel title="Play the controller" aside={`${name}: what it gets at every beat, and what it gives back`}>
          <div className={registers.stack}>
            <div className={registers.row}>
              {choice}
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
            <LifeFields blocks={blocks} life={life} />
          </div>
          <p className={registers.soft}>
            The cycle alone repeats what is in the block. When it ends, by a press, by answers that stay away or by a
            fault of the drive, the drive is stopped if this bench set it in motion; nothing begins again by itself.
          </p>
          {own && <Times view={own} everyMs={everyMs} />}
        </Panel>
        {lastPut && <MovedPanel index={index} inputs={blocks.in} last={lastPut} view={own} />}
        <Panel title="To the drive" aside="what is typed here goes out with the next press above">
          <OutTable
            index={index}
            output={output}
            lives={life.signs.own && { at: life.signs.own.at, how: LIFE_FORMS[life.form] }}
          />
        </Panel>
        <Panel title="From the drive" aside={own ? '' : 'nothing came yet'}>
          <InTable index={index} words={blocks.in} view={own} />
        </Panel>
      </div>
    </UnreadForm>
  );
}

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
                [
                  'cycles',
                  `${cycle.done} with their answers, ${cycle.lost} lost, ${counted(cycle.missed, 'beat')} left out`,
                ],
                [
                  'time',
                  `mean ${msText(cycle.sumUs / cycle.intervals)} of ${everyMs} ms, shortest ${msText(cycle.leastUs)}, worst ${msText(cycle.worstUs)}; jitter ${msText(cycle.worstUs - cycle.leastUs)}, from the shortest to the worst`,
                ],
              ] as const)
            : []),
        ]}
      />
    </div>
  );
}
