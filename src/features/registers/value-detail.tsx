'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { dateText } from '../../ui/format';
import { notationsOf } from '../../core/registers/notation';
import { turningOf } from '../../bench/state/known-state';
import type { CompareRow } from '../../core/sets/compare-sets';
import { planFaults, saidByPlan, whyNotPlanned, withoutPlanned, withPlanned } from '../../core/sets/plan';
import { knownOf, patternOfSaid, saidText, wordsOfSaid, type Said, type SaidOf } from '../../core/sets/said';
import { readTyped } from '../../core/sets/typed-value';
import type { Witness } from '../../core/sets/witness';
import { placeText, type PlacedParameter, type SheetIndex } from '../../core/sheet/index-sheet';
import { rangeText } from '../../core/sheet/limits';
import { sourceText } from '../../core/sheet/source';
import { fieldIn, mostOfField, withField, type WordField } from '../../core/values/word-field';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Facts, Panel, Warning } from '../../ui/panel';
import { changePlan, usePlan, useRegisters } from './registers-store';
import styles from './registers.module.css';
import { readValues } from './run-reading';

interface DetailProps {
  readonly row: CompareRow;
  readonly index: SheetIndex;
  readonly witnesses: readonly Witness[];
}

/** One value in full: how it is reached, what it may hold, who says what of it, and what is planned for it. */
export function ValueDetail({ row, index, witnesses }: DetailProps) {
  const { parameter, number, name, sentence, follows } = row;
  const own = index.byNumber.get(number);
  return (
    <Panel title={`${number} ${name}`} aside={parameter.path}>
      {sentence !== '' && <p>{[sentence, follows].filter((part) => part !== '').join('; ')}.</p>}
      <SaidTable number={number} index={index} witnesses={witnesses} />
      {own ? (
        <PlanForm parameter={own} index={index} witnesses={witnesses} />
      ) : (
        <p className={styles.soft}>The sheet of this station does not have it: another revision does.</p>
      )}
      <h3 className={styles.sub}>What the sheet says</h3>
      <Facts rows={factsOf(index, parameter)} />
    </Panel>
  );
}

/** When it may be written, in words. */
const WRITE_TEXT = { always: 'at any time', standstill: 'at standstill only', never: 'never' } as const;

function factsOf(index: SheetIndex, parameter: PlacedParameter): readonly (readonly [string, string])[] {
  const { place, others, type, order, choices, bitNames, write, effect, kept, sizeBound, note, source, lockedBy } =
    parameter;
  const notations = place.kind === 'register' ? notationsOf(place.table, place.address) : null;
  const said: readonly (readonly [string, string | undefined])[] = [
    ['reached', [placeText(place), ...others.map(placeText)].join('; also ')],
    [
      'address',
      notations
        ? [notations.hex, notations.reference5, notations.reference6, `${notations.fromOne} counted from 1`]
            .filter((one) => one !== null)
            .join(', ')
        : undefined,
    ],
    ['working', place.kind === 'register' && parameter.working !== placeText(place) ? parameter.working : undefined],
    ['type', [type, order].filter(Boolean).join(', order ')],
    [
      'range',
      choices || type === 'text' || type === 'bytes' || parameter.fields ? undefined : rangeText(index, parameter),
    ],
    ['names', choices?.map(({ value, name }) => `${value} ${name}`).join(', ')],
    ['bits', bitNames?.map(({ bit, name }) => `${bit} ${name}`).join(', ')],
    ['written', write ? WRITE_TEXT[write] : 'not said'],
    ['locked', lockedBy ? `until ${lockedBy.parameter} holds ${lockedBy.value}` : undefined],
    ['takes effect', effect === 'restart' ? 'after a restart' : effect === 'now' ? 'at once' : undefined],
    ['without power', kept === undefined ? undefined : kept ? 'kept' : 'lost: working memory only'],
    ['size', sizeBound ? 'belongs to the drive’s size: not carried to another one' : undefined],
    ['note', note],
    ['source', source ? sourceText(source) : undefined],
  ];
  return said.flatMap(([what, text]) => (text === undefined || text === '' ? [] : [[what, text] as const]));
}

function SaidTable({
  number,
  index,
  witnesses,
}: {
  readonly number: string;
  readonly index: SheetIndex;
  readonly witnesses: readonly Witness[];
}) {
  const rows = witnesses.flatMap((witness) => {
    const parameter = witness.index.byNumber.get(number);
    const said = witness.said.get(number);
    return parameter && said ? [{ witness, parameter, said }] : [];
  });
  return (
    <table className={styles.found} aria-label="Who says what">
      <tbody>
        {rows.map(({ witness, parameter, said }) => (
          <tr key={witness.id}>
            <th scope="row">
              {witness.name}
              {witness.index !== index && `, by revision ${witness.index.sheet.revision}`}
            </th>
            <td className={styles.mono}>{saidText(witness.index, parameter, said, witness.said)}</td>
            <td className={styles.soft}>{rawText(parameter, said)}</td>
          </tr>
        ))}
        {rows.length === 0 && (
          <tr>
            <td>Nobody has said anything of it yet.</td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

function rawText({ secret }: PlacedParameter, said: Said): string {
  if (said.kind !== 'value' || secret) return '';
  const hex = said.words.map((word) => word.toString(16).toUpperCase().padStart(4, '0')).join(' ');
  const when = said.atMs === null ? '' : `, ${dateText(said.atMs)}`;
  return `0x${hex}${when}`;
}

/** What the drive is known to hold, what it leaves the factory with where that is not known. */
export const besideOf = (witnesses: readonly Witness[]): SaidOf => {
  const [drive, factory] = witnesses;
  return new Map([...(factory?.said ?? []), ...[...(drive?.said ?? [])].filter(([, { kind }]) => kind === 'value')]);
};

function PlanForm({
  parameter,
  index,
  witnesses,
}: {
  readonly parameter: PlacedParameter;
  readonly index: SheetIndex;
  readonly witnesses: readonly Witness[];
}) {
  const bench = useBench();
  const { key, drive, isOpen, name, view } = useCurrent();
  const plan = usePlan(key).present;
  const turning = useBenchState((state) => turningOf(index, view, state.nowUs));
  const running = useRegisters((state) => state.running.has(key));
  const [typed, setTyped] = useState('');
  const { number } = parameter;
  const planned = plan.get(number);
  const beside = besideOf(witnesses);
  const never = whyNotPlanned(parameter);
  const held = [planned?.words, heldBy(witnesses[0], number), heldBy(witnesses[1], number)].find((words) => words);
  const read =
    typed.trim() === ''
      ? null
      : readTyped(index, parameter, typed, knownOf(index, new Map([...beside, ...saidByPlan(plan)])));
  const put = (words: readonly number[], reason: string): void => {
    changePlan(key, (before) => withPlanned(before, number, { words, reason }));
    setTyped('');
  };
  const faults = planned ? planFaults(index, plan, beside).filter((fault) => fault.number === number) : [];
  const takes = witnesses.filter(({ kind, said }) => kind !== 'plan' && said.get(number)?.kind === 'value');
  return (
    <>
      <h3 className={styles.sub}>{planned ? '✎ Planned' : 'Plan a value'}</h3>
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
                label="Plan"
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
                  label={`Plan${parameter.unit ? `, ${parameter.unit}` : ''}`}
                  width={170}
                  value={typed}
                  error={read && !read.ok ? read.error : ''}
                  onChange={setTyped}
                />
                <ActButton type="submit" variant="outlined" off={read?.ok ? '' : 'no value is typed'}>
                  Plan it
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
          {parameter.fields && held && (
            <FieldChoices
              parameter={parameter}
              fields={parameter.fields}
              words={held}
              onWords={(words) => put(words, 'by its fields')}
            />
          )}
          <div className={styles.row}>
            {takes.map((witness) => {
              const said = witness.said.get(number);
              return (
                <Button
                  key={witness.id}
                  variant="text"
                  color="inherit"
                  onClick={() => said?.kind === 'value' && put(said.words, `from ${witness.name}`)}
                >
                  Plan as {witness.name}
                </Button>
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
          onClick={() => drive && readValues(bench, drive, index, new Set([number]))}
        >
          Read it from {name}
        </ActButton>
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
  const word = patternOfSaid(parameter, words);
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
                    { length: Math.min(256, mostOfField(field) + 1) },
                    (_, i) => [`${i}`, `${i}`] as const,
                  ).filter(([one]) => one !== `${value}`)),
            ]}
          />
        );
      })}
    </div>
  );
}
