'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { useTyped } from '../../bench/hooks/use-typed';
import { liveOf, turningOf } from '../../bench/state/known-state';
import {
  besideOf,
  planFaults,
  saidByPlan,
  turningFaults,
  whyNotPlanned,
  withoutPlanned,
  withPlanned,
  type Plan,
  type PlanFault,
} from '../../core/sets/plan';
import { patternOfCells } from '../../core/drive/seen';
import { knownOf, saidText, wordsOfSaid } from '../../core/sets/said';
import { carried } from '../../core/sets/carry';
import { readTyped } from '../../core/sets/typed-value';
import type { Witness } from '../../core/sets/witness';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import { fieldIn, leastOfField, mostOfField, withField, type WordField } from '../../core/values/word-field';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Warning } from '../../ui/panel';
import { saidFirst } from './use-witnesses';
import { changePlan, registersStore, usePlan, useRegisters } from '../../bench/registers/registers-store';
import styles from './registers.module.css';
import { readSome } from '../../bench/registers/run-reading';
import { writePlan } from './run-writing';

/** What is planned for one value, and the ways to plan it; live, each choice goes to the drive at once. */
export function PlanForm({
  parameter,
  index,
  witnesses,
}: {
  readonly parameter: PlacedParameter;
  readonly index: SheetIndex;
  readonly witnesses: readonly Witness[];
}) {
  const bench = useBench();
  const { key, drive, isOpen, name, view, places } = useCurrent();
  const plan = usePlan(key).present;
  const turning = useBenchState((state) => turningOf(index, view, state.nowUs));
  const running = useRegisters((state) => state.running.has(key));
  const { number } = parameter;
  const [typed, setTyped] = useTyped('planned value', key, number, '');
  const planned = plan.get(number);
  const [held, factory] = saidFirst(witnesses);
  const beside = besideOf(held, factory);
  const never = whyNotPlanned(parameter);
  const words = [planned?.words, heldBy(witnesses[0], number), heldBy(witnesses[1], number)].find((one) => one);
  const knownBeside = knownOf(index, new Map([...beside, ...saidByPlan(plan)]));
  const read = typed.trim() === '' ? null : readTyped(index, parameter, typed, knownBeside);
  const faultsOf = (own: Plan): readonly PlanFault[] => [
    ...planFaults(index, own, held, factory),
    ...turningFaults(index, own, liveOf(index, view, 'control-word')?.word),
  ];
  const isLive = useRegisters((state) => state.live === key);
  const put = (words: readonly number[], reason: string): void => {
    setTyped('');
    const alone: Plan = new Map([[number, { words, reason: `${reason}, live` }]]);
    const isRefused = faultsOf(alone).some(({ isBad }) => isBad);
    // What the drive would refuse, or cannot be reached for, is planned instead, where its reasons are said.
    if (isLive && drive && isOpen && !running && !isRefused)
      return void writePlan(bench, drive, name, index, alone, held);
    changePlan(key, (before) => withPlanned(before, number, { words, reason }));
  };
  const faults = planned ? faultsOf(plan).filter((fault) => fault.number === number) : [];
  const takes = witnesses.filter(({ kind, said }) => kind !== 'plan' && said.get(number)?.kind === 'value');
  return (
    <>
      <h3 className={styles.part}>{isLive ? 'Write at once' : planned ? '✎ Planned' : 'Plan a value'}</h3>
      {isLive && (
        <Warning>
          Live: what is chosen or typed here goes to {name} at once, and is read back.
          {places?.writeKept && ' It stands in working memory: a plan can store it, else it is lost without power.'} It
          ends when you leave this stage.
        </Warning>
      )}
      {never !== '' ? (
        <p className={styles.soft}>{never}.</p>
      ) : (
        <>
          {planned && (
            <p>
              <strong className={styles.mono}>
                {saidText(index, parameter, { kind: 'value', words: planned.words, atMs: null }, saidByPlan(plan))}
              </strong>{' '}
              <span className={styles.soft}>{planned.reason}; it stands in the plan, not in the drive</span>
            </p>
          )}
          {faults.map(({ text }) => (
            <Warning key={text}>{text}.</Warning>
          ))}
          <div className={styles.row}>
            {parameter.choices ? (
              <ChoiceField
                label={isLive ? 'Write at once' : 'Plan'}
                width={200}
                value=""
                onChange={(value) => value !== '' && put(wordsOfSaid(parameter, Number(value)), 'chosen')}
                options={[
                  ['', 'choose a value'],
                  ...parameter.choices.map((choice) => [`${choice.value}`, `${choice.value} ${choice.name}`] as const),
                ]}
              />
            ) : (
              <form
                className={styles.row}
                onSubmit={(event) => {
                  event.preventDefault();
                  if (read?.ok) put(read.value, 'typed');
                }}
              >
                <TypedField
                  label={`${isLive ? 'Write at once' : 'Plan'}${parameter.unit ? `, ${parameter.unit}` : ''}`}
                  width={170}
                  value={typed}
                  error={read && !read.ok ? read.error : ''}
                  onChange={setTyped}
                />
                <ActButton type="submit" variant="outlined" off={read?.ok ? '' : 'no value is typed'}>
                  {isLive ? `Write it to ${name}` : 'Plan it'}
                </ActButton>
              </form>
            )}
            {planned && (
              <Button
                variant="text"
                color="inherit"
                onClick={() => changePlan(key, (before) => withoutPlanned(before, number))}
              >
                Take it out of the plan
              </Button>
            )}
          </div>
          {parameter.fields && words && (
            <FieldChoices
              parameter={parameter}
              fields={parameter.fields}
              words={words}
              onWords={(next) => put(next, 'by its fields')}
            />
          )}
          <div className={styles.row}>
            {takes.map((witness) => {
              const taken = carried(witness, index, number, knownBeside);
              return (
                <ActButton
                  key={witness.id}
                  variant="text"
                  color="inherit"
                  off={taken.ok ? '' : taken.error}
                  onClick={() => taken.ok && put(taken.value, `from ${witness.name}`)}
                >
                  {isLive ? 'Write' : 'Plan'} as {witness.name}
                </ActButton>
              );
            })}
          </div>
          {parameter.write === 'standstill' && turning !== false && (
            <p className={styles.soft}>
              It is taken at standstill only
              {turning ? ', and the shaft turns now' : '; whether the shaft stands is not known'}.
            </p>
          )}
        </>
      )}
      <div className={styles.row}>
        <ActButton
          variant="outlined"
          color="inherit"
          off={whyOff([!isOpen, LINE_CLOSED], [running, 'a reading or writing is under way'])}
          onClick={() => drive && void readSome(bench, drive, index, new Set([number]))}
        >
          Read it from {name}
        </ActButton>
        <Button
          variant="text"
          color="inherit"
          aria-pressed={isLive}
          onClick={() => registersStore.setState({ live: isLive ? '' : key })}
        >
          {isLive ? 'End live writing' : 'Write live'}
        </Button>
      </div>
    </>
  );
}

const heldBy = (witness: Witness | undefined, number: string): readonly number[] | undefined => {
  const said = witness?.said.get(number);
  return said?.kind === 'value' ? said.words : undefined;
};

interface FieldsProps {
  readonly parameter: PlacedParameter;
  readonly fields: readonly WordField[];
  readonly words: readonly number[];
  readonly onWords: (words: readonly number[]) => void;
}

/** A selector for each field of a word: one is changed, the others stay as they are held. */
function FieldChoices({ parameter, fields, words, onWords }: FieldsProps) {
  const word = patternOfCells(parameter, words);
  if (word === null) return null;
  return (
    <div className={styles.row}>
      {fields.map((field) => {
        const value = fieldIn(word, field);
        const known = field.choices ?? [];
        const isNamed = known.some((choice) => choice.value === value);
        return (
          <ChoiceField
            key={field.name}
            label={field.name}
            width={150}
            value={`${value}`}
            onChange={(next) => onWords(wordsOfSaid(parameter, withField(word, field, Number(next))))}
            options={[
              ...(isNamed ? [] : [[`${value}`, `${value}, no name`] as const]),
              ...(known.length > 0
                ? known.map((choice) => [`${choice.value}`, `${choice.value} ${choice.name}`] as const)
                : Array.from(
                    { length: Math.min(256, mostOfField(field) - leastOfField(field) + 1) },
                    (_, i) => `${leastOfField(field) + i}`,
                  )
                    .map((one) => [one, one] as const)
                    .filter(([one]) => one !== `${value}`)),
            ]}
          />
        );
      })}
    </div>
  );
}
