'use client';

import { asNumber } from '../../core/as-number';
import { useMemo } from 'react';
import { useCurrent } from '../../bench/hooks/use-current';
import { counted } from '../../core/counted';
import { INTENTS, type Intent } from '../../core/motor/intents';
import { readPlate, type Nameplate } from '../../core/motor/nameplate';
import { parseQuantity } from '../../core/scaling/quantity';
import { withPlanned, whyNotPlanned } from '../../core/sets/plan';
import { proposalsOf } from '../../core/sets/from-plate';
import { saidText } from '../../core/sets/said';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { HeadRow } from '../../ui/head-row';
import { ActButton, whyOff } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Facts, Panel, Warning } from '../../ui/panel';
import { changePlan, registersStore } from '../../bench/registers/registers-store';
import { useForm } from '../../bench/hooks/use-typed';
import styles from './registers.module.css';
import { useWitnesses } from './use-witnesses';

const FIELDS: readonly (readonly [key: keyof Nameplate, label: string, unit: string])[] = [
  ['powerKw', 'Power', 'kW'],
  ['voltageV', 'Voltage', 'V'],
  ['currentA', 'Current', 'A'],
  ['frequencyHz', 'Frequency', 'Hz'],
  ['speedRpm', 'Speed', 'rpm'],
  ['powerFactor', 'Power factor, cos φ', ''],
];

interface Typed {
  readonly value: number | null;
  readonly error: string;
}

function readField(text: string, unit: string): Typed {
  if (text.trim() === '') return { value: null, error: '' };
  const read = parseQuantity(text, unit);
  if (!read.ok) return { value: null, error: read.error.text };
  const value = asNumber(read.value);
  return value > 0 ? { value, error: '' } : { value: null, error: 'more than 0' };
}

/** A motor's plate and what the drive is for: what follows from them, with its working, as a plan. */
export function PlatePart({ index }: { readonly index: SheetIndex }) {
  const { key } = useCurrent();
  const { text, put } = useForm('plate', key);
  const [drive] = useWitnesses(index);
  const fields = FIELDS.map(([field, label, unit]) => ({ field, label, unit, ...readField(text(field), unit) }));
  const plate = Object.fromEntries(fields.map(({ field, value }) => [field, value])) as unknown as Nameplate;
  const intent = INTENTS.find(({ id }) => id === text('intent'))?.id ?? null;
  const bad = fields.some(({ error }) => error !== '');
  return (
    <div className={styles.stack}>
      <Panel
        title="The motor’s plate"
        aside="as it is connected: the voltage and the current of star, or those of delta"
      >
        <div className={styles.row}>
          {fields.map(({ field, label, unit, error }) => (
            <TypedField
              key={field}
              label={`${label}${unit === '' ? '' : `, ${unit}`}`}
              width={140}
              value={text(field)}
              error={error}
              onChange={(value) => put(field, value)}
            />
          ))}
          <ChoiceField
            label="What it is for"
            width={150}
            value={intent ?? ''}
            onChange={(value) => put('intent', value)}
            options={[['', 'not said'], ...INTENTS.map(({ id, name }) => [id, name] as const)]}
          />
        </div>
        <PlateFacts plate={plate} />
      </Panel>
      <Proposals index={index} plate={plate} intent={intent} drive={drive?.said ?? new Map()} bad={bad} planKey={key} />
    </div>
  );
}

function PlateFacts({ plate }: { readonly plate: Nameplate }) {
  const { poles, synchronousRpm, slip, efficiency, torqueNm, doubts } = readPlate(plate);
  const rows = (
    [
      ['poles', poles],
      ['synchronous speed', synchronousRpm],
      ['slip', slip],
      ['efficiency', efficiency],
      ['rated torque', torqueNm],
    ] as const
  ).flatMap(([name, worked]) => (worked ? [[name, worked.working] as const] : []));
  return (
    <>
      {rows.length > 0 && <Facts rows={rows} />}
      {doubts.map((text) => (
        <Warning key={text}>{text}.</Warning>
      ))}
    </>
  );
}

interface ProposalsProps {
  readonly index: SheetIndex;
  readonly plate: Nameplate;
  readonly intent: Intent | null;
  readonly drive: Parameters<typeof proposalsOf>[3];
  readonly bad: boolean;
  readonly planKey: string;
}

function Proposals({ index, plate, intent, drive, bad, planKey }: ProposalsProps) {
  const asked = JSON.stringify(plate);
  const found = useMemo(
    () => proposalsOf(index, JSON.parse(asked) as Nameplate, intent, drive),
    [index, asked, intent, drive],
  );
  const given = found.flatMap(({ parameter, words, reason }) =>
    parameter && words && whyNotPlanned(parameter) === '' ? [{ number: parameter.number, words, reason }] : [],
  );
  const take = (): void => {
    changePlan(planKey, (plan) =>
      given.reduce((next, { number, words, reason }) => withPlanned(next, number, { words, reason }), plan),
    );
    registersStore.setState({ part: 'plan' });
  };
  if (found.length === 0)
    return (
      <Panel title="What follows">
        <p className={styles.soft}>Type what the plate says, or say what the drive is for.</p>
      </Panel>
    );
  return (
    <Panel title="What follows" aside="the plant and the maker of the machine go before it">
      <div className={styles.scroll}>
        <table className={styles.found} aria-label="What plate and use ask for">
          <HeadRow names={['setting', 'becomes', 'why']} />
          <tbody>
            {found.map(({ role, parameter, words, reason }) => (
              <tr key={role}>
                <td>{parameter ? `${parameter.number} ${parameter.name}` : role.replaceAll('-', ' ')}</td>
                <td className={styles.mono}>
                  {parameter && words ? saidText(index, parameter, { kind: 'value', words, atMs: null }, drive) : '–'}
                </td>
                <td className={styles.soft}>{reason}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <ActButton
        variant="contained"
        off={whyOff(
          [bad, 'a field above shows what cannot be read'],
          [given.length === 0, 'the sheet has none of these settings'],
        )}
        onClick={take}
      >
        Plan {counted(given.length, 'value')}
      </ActButton>
    </Panel>
  );
}
