'use client';

import Button from '@mui/material/Button';
import type { Dialect } from '../../core/dialect/dialect';
import { ERROR_ROLES, type ErrorRole } from '../../core/dialect/roles';
import { ChoiceField, TypedField } from '../../ui/fields';
import { Panel } from '../../ui/panel';
import { removed, replaced } from './dialect-values';
import styles from './frames.module.css';
import { NumberEntry } from './number-entry';

type DialectError = NonNullable<Dialect['errors']>[number];

const CODE_MAX = 65535;

/** Why a drive refuses, in words. */
const ROLE_TEXT: Readonly<Record<ErrorRole, string>> = {
  unknown: 'no such command',
  form: 'a form that it cannot read',
  limit: 'outside its limits',
  state: 'not in this mode',
  busy: 'a move is under way',
};

/** The numbers with which the drive refuses, and what they mean. */
export function DialectErrors({
  errors,
  onChange,
}: {
  readonly errors: readonly DialectError[];
  readonly onChange: (errors: DialectError[]) => void;
}) {
  const fresh = (): DialectError => ({
    code: Math.max(0, ...errors.map(({ code }) => code)) + 1,
    text: 'what it means',
  });
  return (
    <Panel
      title="Errors"
      aside="the numbers with which the drive refuses"
      tools={
        <Button variant="outlined" color="inherit" onClick={() => onChange([...errors, fresh()])}>
          Add an error
        </Button>
      }
    >
      <ul className={styles.errors} aria-label="Errors">
        {errors.map((error, i) => (
          <li key={`${i}`} className={styles.mark}>
            <NumberEntry
              label="Number"
              width={80}
              least={0}
              most={CODE_MAX}
              value={error.code}
              onChange={(code) => onChange(replaced(errors, i, { ...error, code }))}
            />
            <TypedField
              label="Meaning"
              width={220}
              value={error.text}
              onChange={(text) => onChange(replaced(errors, i, { ...error, text }))}
            />
            <ChoiceField
              label="Sent when"
              width={190}
              value={error.role ?? ''}
              onChange={(role) =>
                onChange(replaced(errors, i, { ...error, role: role === '' ? undefined : (role as ErrorRole) }))
              }
              options={[['', 'some other reason'], ...ERROR_ROLES.map((role) => [role, ROLE_TEXT[role]] as const)]}
            />
            <Button
              variant="text"
              color="inherit"
              onClick={() => onChange(removed(errors, i))}
              aria-label={`Remove error ${error.code}`}
            >
              Remove
            </Button>
          </li>
        ))}
      </ul>
    </Panel>
  );
}
