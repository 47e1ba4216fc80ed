import type { Dialect, DialectCommand, DialectField } from './dialect';
import { ACCESSES } from './roles';
import { ACCESS_NAMES } from './read';

/** One way to use a command, as a line of help. */
export interface HelpLine {
  readonly syntax: string;
  readonly meaning: string;
}

const fieldHelp = ({ name, unit, min, max }: DialectField): string => {
  const range = min === undefined && max === undefined ? '' : ` ${min ?? '…'} to ${max ?? '…'}`;
  return `${name}${unit ? ` in ${unit}` : ''}${range}`;
};

const slots = (fields: readonly DialectField[], separator: string): string =>
  fields.map(({ name }) => `{${name}}`).join(separator);

/** What one command offers, made from its description. */
export function commandHelp(dialect: Dialect, command: DialectCommand): readonly HelpLine[] {
  return ACCESSES.filter((access) => command.access.includes(access) && dialect.marks[access] !== undefined).map(
    (access) => {
      const fields = access === 'read' ? (command.asks ?? []) : command.fields;
      const details = fields.map(fieldHelp).join(', ');
      return {
        syntax: `${command.verb}${dialect.marks[access] ?? ''}${slots(fields, dialect.separator)}`,
        meaning: `${ACCESS_NAMES[access]} ${command.name}${details ? `: ${details}` : ''}`,
      };
    },
  );
}

/** How every line of this dialect is built, in one line. */
export function frameHelp({ open, station, check, close, reply }: Dialect): string {
  const checkText = check ? `{check ${check.algorithm}}` : '';
  const parts = [
    open,
    station ? `{station}${station.after}` : '',
    '{command}',
    check && !check.afterClose ? `${check.lead ?? ''}${checkText}` : '',
    close,
    check?.afterClose ? `${check.lead ?? ''}${checkText}` : '',
  ];
  return `${parts.join('')} · good: ${reply.good || 'the value alone'} · refused: ${reply.error.mark}{number}`;
}
