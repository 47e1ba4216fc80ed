'use client';

import type { ReactNode } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import { isUnderWay, lastRun } from '../../bench/state/runs';
import { useForm } from '../../bench/hooks/use-typed';
import { asNumber } from '../../core/as-number';
import { axisPlace, wayName, type Axis } from '../../core/motion/axis';
import { PACE_FIELDS, PACE_ROLES, paceUnit, type AxisKnown } from '../../core/motion/axis-pace';
import { checkMove, lengthOf, OWN_PACE, type CheckedMove, type MoveWish } from '../../core/motion/check-move';
import { ROUND_WAY_TEXT, roundWayOf } from '../../core/motion/round';
import type { PlaceLink } from '../../core/places/place-link';
import { add, decimalText, type Rational } from '../../core/scaling/rational';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { trialOfMove, type Rounds } from '../../core/trial/move-trial';
import { ActButton, whyOff } from '../../ui/act-button';
import { axisMark, endMarks, turnMarks } from '../../ui/axis-marks';
import { AxisPicture, type AxisMark } from '../../ui/axis-picture';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Facts, Panel } from '../../ui/panel';
import { UnreadForm, useUnread } from '../../ui/unread';
import { RunBar } from './run-bar';
import { RunResult } from './run-result';
import { Asking } from './trial-panel';
import styles from './trials.module.css';
import { useAxis, type SeenAxis } from './use-axis';
import { useCompiled } from './use-compiled';
import { useDrawing } from './use-drawing';
import { useRunTrial } from './use-run-trial';
import { useSame } from './use-same';

/** What a panel of things that are done by hand is given. */
export interface MoveProps {
  /** A run stands below it: what would be done now is not drawn then. */
  readonly isRunShown: boolean;
  readonly index: SheetIndex;
  readonly places: PlaceLink;
}

/** A move by hand: worked out and drawn before it is fired, run and judged as a trial. */
export function MovePanel(props: MoveProps) {
  const own = useAxis(props.index);
  return own ? (
    <Move {...props} {...own}>
      <Steps index={props.index} places={props.places} {...own} />
    </Move>
  ) : null;
}

const MOST_TIMES = 1000;
const LONGEST_DWELL_S = 3600;

const useTypedMove = () => useForm('move', useCurrent().key);

function Move({
  isRunShown,
  index,
  places,
  axis,
  known,
  isLost,
  children,
}: MoveProps & SeenAxis & { readonly children: ReactNode }) {
  const unread = useUnread();
  const { name } = useCurrent();
  const { text, put } = useTypedMove();
  const wish: MoveWish = {
    to: text('to'),
    relative: text('kind', 'by') === 'by',
    speed: text('speed'),
    acceleration: text('acceleration'),
    deceleration: text('deceleration'),
    jerk: text('jerk'),
  };
  const checked = checkMove(axis, wish, known);
  const rounds = roundsOf(text('times'), text('dwell', '1'));
  const trials = useSame([trialOfMove(axis, wish, checked, 'rounds' in rounds ? rounds.rounds : null)]);
  const [compiled] = useCompiled(trials, index, places);
  const drawing = useDrawing(index);
  const live = useBenchState((state) => lastRun(state, state.lineId, 'trial'));
  const running = live !== null && isUnderWay(live) ? live : null;
  const fault = (field: string): string =>
    wish.to.trim() === '' && field === 'to' ? '' : (checked.faults.find((one) => one.field === field)?.text ?? '');
  const off = whyOff(
    [wish.to.trim() === '', 'where to is not said yet'],
    [unread.why !== '', unread.why],
    [checked.start === null, 'where it stands was not read just now: press Read once, or Watch'],
    [!wish.relative && isLost, 'home is not known since power came: look for home first, or move by a distance'],
    [checked.distance?.num === 0n, 'it stands there already'],
  );
  return (
    <UnreadForm unread={unread}>
      <Panel
        title="A move"
        aside={`of ${name}, in ${axis.unit}; another unit of the same kind, or “2 turns” of the motor, is taken too`}
      >
        <div className={styles.row}>
          <ChoiceField
            label="Move"
            width={150}
            value={wish.relative ? 'by' : 'to'}
            onChange={(value) => put('kind', value)}
            options={[
              ['by', 'by a distance'],
              ['to', 'to a position'],
            ]}
          />
          <TypedField
            label={wish.relative ? `by, ${axis.unit}` : `to, ${axis.unit}`}
            width={150}
            value={wish.to}
            error={fault('to')}
            onChange={(value) => put('to', value)}
          />
          {PACE_FIELDS.filter((field) => axisPlace(index, PACE_ROLES[field])).map((field) => (
            <TypedField
              key={field}
              label={`${field}, ${paceUnit(axis, field)}`}
              width={150}
              value={wish[field]}
              error={fault(field)}
              placeholder={ownText(known, PACE_ROLES[field])}
              onChange={(value) => put(field, value)}
            />
          ))}
          <TypedField
            label="there and back, times"
            width={150}
            value={text('times')}
            error={'times' in rounds ? rounds.times : ''}
            placeholder="only there"
            onChange={(value) => put('times', value)}
          />
          <TypedField
            label="rest at each end, s"
            width={130}
            value={text('dwell', '1')}
            error={'dwell' in rounds ? rounds.dwell : ''}
            onChange={(value) => put('dwell', value)}
          />
        </div>
        <Before axis={axis} checked={checked} known={known} />
        {checked.doubts.map((doubt) => (
          <p key={doubt} className={styles.soft}>
            {doubt}.
          </p>
        ))}
        <RunBar compiled={compiled} index={index} running={running} drawing={drawing} off={off} />
        {running && <Asking view={running} />}
      </Panel>
      {children}
      {!isRunShown && compiled && off === '' && (
        <RunResult index={index} compiled={compiled} row={null} drawing={drawing} />
      )}
    </UnreadForm>
  );
}

const ownText = (known: AxisKnown, role: Parameters<AxisKnown>[0]): string => {
  const value = known(role);
  return value ? `its own, ${decimalText(value, 3, false)}` : 'its own';
};

/** How often there and back, or what is wrong with that. */
function roundsOf(
  times: string,
  dwell: string,
): { readonly rounds: Rounds | null } | { readonly times: string } | { readonly dwell: string } {
  const [count, seconds] = [times, dwell].map((text) => (text.trim() === '' ? 0 : Number(text.replace(',', '.'))));
  if (count === undefined || !Number.isInteger(count) || count < 0 || count > MOST_TIMES)
    return { times: `a number from 1 to ${MOST_TIMES}` };
  if (seconds === undefined || !(seconds >= 0 && seconds <= LONGEST_DWELL_S))
    return { dwell: `0 to ${LONGEST_DWELL_S} s` };
  return { rounds: count === 0 ? null : { times: count, dwellS: seconds } };
}

/** The move in load units, turns and seconds, and drawn on its axis, before it is fired. */
function Before({ axis, checked, known }: { axis: Axis; checked: CheckedMove; known: AxisKnown }) {
  const { start, end, distance, turns, written, plan } = checked;
  const show = (value: Rational): string => `${decimalText(value, 3, false)} ${axis.unit}`;
  const rows = [
    ['goes', start && end && distance ? `from ${show(start)} to ${show(end)}: ${wayText(axis, distance, show)}` : ''],
    ['goes round', roundText(axis, known)],
    ['motor turns', turns ? decimalText(turns, 3, false) : ''],
    ['goes out as', written ? `${written.place.number} ${written.place.name} ← ${written.counts} counts` : ''],
    [
      'shape',
      plan && plan.phases.length > 0
        ? `${plan.shape}, highest speed ${plan.peak.toPrecision(4)} ${axis.unit}/s, ${plan.seconds.toFixed(2)} s`
        : '',
    ],
  ].filter((row): row is [string, string] => row[1] !== '');
  return (
    <>
      <AxisPicture
        label={`The axis of the drive${rows[0] ? `: it ${rows[0].join(' ')}` : ''}`}
        marks={marksOf(axis, checked, known)}
        arrow={start && distance ? { from: asNumber(start), to: asNumber(add(start, distance)) } : null}
      />
      {rows.length > 0 && <Facts rows={rows} />}
    </>
  );
}

/** One turn, and by which way the drive goes to a place; empty of one that goes straight. */
function roundText({ round, unit }: Axis, known: AxisKnown): string {
  if (!round) return '';
  const way = roundWayOf(round, known('round-way'));
  const turn = `one turn is ${decimalText(round.turn, 3, false)} ${unit}`;
  return way ? `${turn}; to a place it goes ${ROUND_WAY_TEXT[way]}` : turn;
}

const wayText = (axis: Axis, distance: Rational, show: (value: Rational) => string): string =>
  distance.num === 0n
    ? 'no way'
    : `${show({ ...distance, num: distance.num < 0n ? -distance.num : distance.num })} ${wayName(axis, distance)}`;

/** One that goes round is drawn on past its turn, so that its way is one arrow. */
function marksOf(axis: Axis, { start, end, distance }: CheckedMove, known: AxisKnown): readonly AxisMark[] {
  const there = axis.round && start && distance ? add(start, distance) : end;
  return [
    ...endMarks(axis, known),
    ...turnMarks(
      axis,
      [start, there].flatMap((place) => (place ? [asNumber(place)] : [])),
    ),
    ...axisMark(axis, 'here', start, 'stands at'),
    ...axisMark(axis, 'target', end, 'goes to').map((mark) => ({ ...mark, at: there ? asNumber(there) : mark.at })),
  ];
}

/** Why a step cannot be made of what is typed, whatever stands in its way; empty where it can. Its direction is the button's. */
function stepTrouble(axis: Axis, size: string): string {
  const way = lengthOf(axis, size);
  if (!way.ok) return way.error;
  return way.value.num > 0n ? '' : 'more than 0: the button says which way';
}

/** Moves by one distance either way, a press each. */
function Steps({ index, places, axis, known }: { index: SheetIndex; places: PlaceLink; axis: Axis; known: AxisKnown }) {
  const unread = useUnread();
  const { text, put } = useTypedMove();
  const drawing = useDrawing(index);
  const run = useRunTrial(index, drawing);
  const size = text('step', axis.unit === 'counts' ? '100' : `1 ${axis.unit}`);
  const trouble = stepTrouble(axis, size);
  const ways = ([`-${size}`, size] as const).map((to) => {
    const wish: MoveWish = { ...OWN_PACE, to, relative: true };
    const checked = checkMove(axis, wish, known);
    return { checked, trial: trialOfMove(axis, wish, checked, null) };
  });
  const trials = useSame(ways.map(({ trial }) => trial));
  const compiled = useCompiled(trials, index, places);
  return (
    <UnreadForm unread={unread}>
      <Panel title="A step" aside="by one distance either way, a press each">
        <div className={styles.row}>
          <TypedField
            label="a step of"
            width={150}
            value={size}
            error={trouble}
            onChange={(value) => put('step', value)}
          />
          {ways.map(({ checked }, i) => {
            const own = compiled[i];
            const way = i === 0 ? axis.backward : axis.forward;
            const off = whyOff(
              [trouble !== '', trouble],
              [!own, 'it cannot be worked out'],
              [checked.faults.length > 0, checked.faults[0]?.text ?? ''],
              [checked.start === null, 'where it stands was not read just now'],
            );
            return (
              <ActButton
                key={way}
                variant="outlined"
                off={off || (own ? run.whyNot(own) : '')}
                onClick={() => own && run.begin(own)}
              >
                {size} {way}
              </ActButton>
            );
          })}
        </div>
      </Panel>
    </UnreadForm>
  );
}
