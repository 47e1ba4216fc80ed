'use client';

import TextField from '@mui/material/TextField';
import { liveOf } from '../../bench/state/known-state';
import { useCurrent } from '../../bench/hooks/use-current';
import { useForm } from '../../bench/hooks/use-typed';
import { parseQuantity } from '../../core/scaling/quantity';
import { exactText, fractionText, parseRational, type Rational } from '../../core/scaling/rational';
import { jerkFromTime, rampFromAcceleration, rampFromTime, timeFromJerk } from '../../core/scaling/ramp';
import { rolePattern, roleValue } from '../../core/drive/role-value';
import type { PartProps } from './parts';
import styles from './scaling.module.css';

/** Ramp time, acceleration and jerk as one thing said three times, over a named reference speed: whichever is edited, the others follow exactly. */
export function RampPart({ index, scale: { chain, fullValue } }: PartProps) {
  const { key, view } = useCurrent();
  const { text: field, put: set } = useForm('ramp', key);
  const valueOf = (role: 'maximum-speed' | 'ramp-time') =>
    roleValue(index, role, rolePattern(index, role, liveOf(index, view, role)?.word));
  const most = valueOf('maximum-speed');
  const ramps = valueOf('ramp-time');
  const named = most ?? fullValue;
  const referenceText = field('reference', exactText(named));
  const secondsText = field('seconds', ramps ? exactText(ramps) : '5');
  const jerkSecondsText = field('jerk seconds', '0.5');
  const reference = parseQuantity(referenceText, chain.unit);
  const seconds = parseQuantity(secondsText, 's');
  const jerkSeconds = parseQuantity(jerkSecondsText, 's');
  const ramp = reference.ok && seconds.ok ? rampFromTime(reference.value, seconds.value) : null;
  const acceleration = ramp?.ok ? ramp.value.acceleration : null;
  const jerk = acceleration && jerkSeconds.ok ? jerkFromTime(acceleration, jerkSeconds.value) : null;
  const trouble = ramp && !ramp.ok ? ramp.error.text : jerk && !jerk.ok ? jerk.error.text : '';
  return (
    <div className={styles.pairs}>
      <TextField
        label={`reference speed, ${chain.unit}`}
        helperText={most ? `the drive’s maximum is ${exactText(named)}` : `full scale is ${exactText(named)}`}
        value={referenceText}
        onChange={(event) => set('reference', event.target.value)}
      />
      <TextField label="ramp time, s" value={secondsText} onChange={(event) => set('seconds', event.target.value)} />
      <Follower
        label={`acceleration, ${chain.unit}/s`}
        value={acceleration}
        onValue={(value) => {
          const back = reference.ok ? rampFromAcceleration(reference.value, value) : null;
          if (back?.ok) set('seconds', exactText(back.value.seconds));
        }}
      />
      <TextField
        label="time to full acceleration, s"
        value={jerkSecondsText}
        onChange={(event) => set('jerk seconds', event.target.value)}
      />
      <Follower
        label={`jerk, ${chain.unit}/s²`}
        value={jerk?.ok ? jerk.value : null}
        onValue={(value) => {
          const back = acceleration ? timeFromJerk(acceleration, value) : null;
          if (back?.ok) set('jerk seconds', exactText(back.value));
        }}
      />
      {trouble !== '' && <p className={styles.trouble}>{trouble}</p>}
    </div>
  );
}

/** A field that follows from others and can be typed over. */
function Follower({
  label,
  value,
  onValue,
}: {
  readonly label: string;
  readonly value: Rational | null;
  readonly onValue: (value: Rational) => void;
}) {
  return (
    <TextField
      key={value ? fractionText(value) : ''}
      label={label}
      defaultValue={value ? exactText(value) : ''}
      onBlur={(event) => {
        const parsed = parseRational(event.target.value);
        if (parsed.ok) onValue(parsed.value);
      }}
      onKeyDown={(event) => event.key === 'Enter' && (event.target as HTMLInputElement).blur()}
    />
  );
}
