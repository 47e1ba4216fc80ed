'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { axisOf, axisPlace, type Axis } from '../../core/motion/axis';
import { AXIS_SETTINGS, axisDoubts, homeShows, type AxisValues } from '../../core/motion/axis-settings';
import { HOMING_METHODS } from '../../core/motion/homing-methods';
import { decimalText } from '../../core/scaling/rational';
import { besideOf, saidByPlan } from '../../core/sets/plan';
import { patternOfCells } from '../../core/drive/seen';
import { knownOf, saidText, type SaidOf } from '../../core/sets/said';
import { valueIn } from '../../core/drive/describe';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { useCurrent } from '../../bench/hooks/use-current';
import { axisMark, endMarks, turnMarks } from '../../ui/axis-marks';
import { AxisPicture, type AxisMark } from '../../ui/axis-picture';
import { HeadRow } from '../../ui/head-row';
import { Panel, Warning } from '../../ui/panel';
import { HomingPicture } from './homing-picture';
import { usePlan } from '../../bench/registers/registers-store';
import styles from './registers.module.css';
import { saidFirst, useWitnesses } from './use-witnesses';
import { PlanForm } from './value-plan';

/** The axis of a positioning drive: its ends, its window, its watch, its home, as they are and as they are planned, in load units and in counts. */
export function PositionPart({ index }: { readonly index: SheetIndex }) {
  const axis = axisOf(index);
  return axis ? (
    <PositionOf axis={axis} index={index} />
  ) : (
    <Panel title="Position and limits">
      The sheet gives no position and no target: this drive turns at a speed and is not sent to places.
    </Panel>
  );
}

function PositionOf({ axis, index }: { readonly axis: Axis; readonly index: SheetIndex }) {
  const { key } = useCurrent();
  const plan = usePlan(key).present;
  const witnesses = useWitnesses(index);
  const [held, factory] = saidFirst(witnesses);
  const [chosen, setChosen] = useState('');
  const after: SaidOf = new Map([...besideOf(held, factory), ...saidByPlan(plan)]);
  const value = valuesOf(index, after);
  const settings = AXIS_SETTINGS.map(({ group, settings: all }) => ({
    group,
    rows: all.flatMap(([role, purpose]) => {
      const place = axisPlace(index, role);
      return place ? [{ place, purpose }] : [];
    }),
  })).filter(({ rows }) => rows.length > 0);
  const parameter = index.byNumber.get(chosen);
  const doubts = axisDoubts(axis, value);
  const isRead = settings.some(({ rows }) => rows.some(({ place }) => held.get(place.number)?.kind === 'value'));
  const number = value('homing-method');
  const method = number === null ? undefined : HOMING_METHODS.get(Number(number.num));
  return (
    <div className={styles.stack}>
      <Panel
        title="The axis"
        aside={`in ${axis.unit}, 1 ${axis.unit} = ${decimalText(countsPer(axis), 3, false)} counts; with the plan as if it were written`}
      >
        <AxisPicture label="The axis with its ends, limits and home" marks={marksOf(axis, value)} arrow={null} />
        {!isRead && (
          <p className={styles.soft}>None of it was read yet: what is shown is what it leaves the factory with.</p>
        )}
        {doubts.map((text) => (
          <Warning key={text}>{text}.</Warning>
        ))}
      </Panel>
      <div className={styles.sides}>
        <Panel title="Its settings" aside="choose one to plan it">
          <div className={styles.scroll}>
            <table className={`${styles.found} ${styles.settings}`} aria-label="Settings of the axis">
              <HeadRow names={['setting', 'the drive now, in counts and units', 'the plan', 'what it is for']} />
              {settings.map(({ group, rows }) => (
                <tbody key={group}>
                  <tr>
                    <th colSpan={4} scope="rowgroup">
                      {group}
                    </th>
                  </tr>
                  {rows.map(({ place, purpose }) => (
                    <tr key={place.number} aria-current={place.number === chosen ? 'true' : undefined}>
                      <td>
                        <Button
                          variant="text"
                          color={place.number === chosen ? 'primary' : 'inherit'}
                          aria-pressed={place.number === chosen}
                          onClick={() => setChosen(place.number)}
                        >
                          {place.number} {place.name}
                        </Button>
                      </td>
                      <td className={styles.mono}>
                        {saidText(index, place, held.get(place.number), held) || 'not read'}
                      </td>
                      <td className={styles.mono}>
                        {plan.has(place.number)
                          ? `✎ ${saidText(index, place, saidByPlan(plan).get(place.number), after)}`
                          : ''}
                      </td>
                      <td className={styles.soft}>{purpose}</td>
                    </tr>
                  ))}
                </tbody>
              ))}
            </table>
          </div>
        </Panel>
        <div className={styles.stack}>
          {parameter && (
            <Panel title={`${parameter.number} ${parameter.name}`} aside={parameter.note}>
              <PlanForm parameter={parameter} index={index} witnesses={witnesses} />
            </Panel>
          )}
          <Panel title="How home is looked for" aside={number === null ? '' : `method ${number.num}`}>
            {method && number !== null ? (
              <HomingPicture number={Number(number.num)} method={method} />
            ) : (
              <p className={styles.soft}>
                {number === null
                  ? 'The sheet has no homing method.'
                  : 'The standard gives this number no meaning: it is the drive’s own.'}
              </p>
            )}
          </Panel>
        </div>
      </div>
    </div>
  );
}

const countsPer = ({ one }: Axis) => ({ num: one.den, den: one.num });

/** Values by role, of what is said; choices and methods as the number that the drive counts. */
const valuesOf =
  (index: SheetIndex, said: SaidOf): AxisValues =>
  (role) => {
    const place = axisPlace(index, role);
    const own = place && said.get(place.number);
    const pattern = place && own?.kind === 'value' ? patternOfCells(place, own.words) : null;
    return place && pattern !== null ? valueIn(index.sheet, place, pattern, knownOf(index, said)) : null;
  };

function marksOf(axis: Axis, value: AxisValues): readonly AxisMark[] {
  const offset = value('home-offset');
  return [
    ...endMarks(axis, value),
    ...turnMarks(axis, []),
    ...axisMark(axis, 'home', offset && homeShows(axis, offset), 'home'),
    ...axisMark(axis, 'here', value('actual-position'), 'stood at'),
  ];
}
