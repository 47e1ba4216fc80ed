'use client';

import Button from '@mui/material/Button';
import type { Dialect } from '../../core/dialect/dialect';
import { MOTION_ROLES, type MotionRole } from '../../core/dialect/roles';
import { ActButton } from '../../ui/act-button';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { removed, replaced } from './dialect-values';
import styles from './frames.module.css';
import { NumberEntry } from './number-entry';

type Motion = NonNullable<Dialect['motion']>;
type MotionBit = Motion['bits'][number];

const EMPTY: Motion = { width: 16, bits: [] };

const WIDTHS = [
  ['8', '8 bits'],
  ['16', '16 bits'],
  ['32', '32 bits'],
] as const;

/** The bits of the word that the command known as `motion-word` reads. */
export function DialectMotion({
  motion = EMPTY,
  onChange,
}: {
  readonly motion: Motion | undefined;
  readonly onChange: (motion: Motion | undefined) => void;
}) {
  const { bits } = motion;
  const put = (next: MotionBit[]): void => onChange(next.length === 0 ? undefined : { ...motion, bits: next });
  const lowestFree = Array.from({ length: motion.width }, (_, bit) => bit).find(
    (bit) => !bits.some((one) => one.bit === bit),
  );
  return (
    <Panel
      title="Motion word"
      aside="its bits; the command that reads it is known to the bench as motion-word"
      tools={
        <ActButton
          variant="outlined"
          color="inherit"
          off={lowestFree === undefined ? 'every bit has its name' : ''}
          onClick={() => put([...bits, { bit: lowestFree ?? 0, name: 'new bit', one: 'yes', zero: 'no' }])}
        >
          Add a bit
        </ActButton>
      }
    >
      {bits.length > 0 && (
        <ChoiceField
          label="Width"
          width={100}
          value={String(motion.width)}
          onChange={(width) => onChange({ ...motion, width: Number(width) as Motion['width'] })}
          options={WIDTHS}
        />
      )}
      <ul className={styles.errors} aria-label="Bits of the motion word">
        {bits.map((bit, i) => {
          const change = (next: Partial<MotionBit>): void => put(replaced(bits, i, { ...bit, ...next }));
          return (
            <li key={`${i}`} className={styles.mark}>
              <NumberEntry
                label="Bit"
                width={60}
                least={0}
                most={motion.width - 1}
                value={bit.bit}
                onChange={(place) => change({ bit: place })}
              />
              <TypedField label="Name" width={130} value={bit.name} onChange={(name) => change({ name })} />
              <TypedField label="At 1" width={200} value={bit.one} onChange={(one) => change({ one })} />
              <TypedField label="At 0" width={200} value={bit.zero} onChange={(zero) => change({ zero })} />
              <ChoiceField
                label="Tells the bench"
                width={150}
                value={bit.role ?? ''}
                onChange={(role) => change({ role: role === '' ? undefined : (role as MotionRole) })}
                options={[['', 'nothing special'], ...MOTION_ROLES.map((role) => [role, role] as const)]}
              />
              <Button
                variant="text"
                color="inherit"
                onClick={() => put(removed(bits, i))}
                aria-label={`Remove bit ${bit.bit}`}
              >
                Remove
              </Button>
            </li>
          );
        })}
      </ul>
    </Panel>
  );
}
