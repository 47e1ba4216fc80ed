import type { Dialect, DialectField } from './dialect';
import { literalBytes } from './literal';

/** A fault between fields that each look right, at its path in the dialect. */
export interface DialectFault {
  readonly path: string;
  readonly text: string;
}

const at = (path: string, text: string): DialectFault => ({ path, text });

/** What would make lines ambiguous or impossible to build. An empty list means that reader and writer can rely on the description. */
export function checkDialect(dialect: Dialect): readonly DialectFault[] {
  const { commands, close, marks, separator, reply } = dialect;
  const twice = (key: 'id' | 'verb' | 'role'): readonly DialectFault[] =>
    commands.flatMap((command, i) => {
      const value = command[key];
      const first = commands.findIndex((other) => other[key] === value);
      return value !== undefined && first < i
        ? [at(`commands[${i}].${key}`, `${key} ${value} belongs to ${commands[first]?.name ?? 'another'} already`)]
        : [];
    });
  return [
    ...(literalBytes(close).length === 0 ? [at('close', 'without a closing nobody knows where a line ends')] : []),
    ...twice('id'),
    ...twice('verb'),
    ...twice('role'),
    ...commands.flatMap((command, i) => [
      ...command.access
        .filter((access) => marks[access] === undefined)
        .map((access) => at(`commands[${i}].access`, `no mark says how ${command.verb} is used to ${access}`)),
      ...(command.default && command.default.length !== command.fields.length
        ? [at(`commands[${i}].default`, `${command.fields.length} values are wanted`)]
        : []),
      ...command.fields.flatMap((field, j) => fieldFaults(field, `commands[${i}].fields[${j}]`)),
      ...(command.asks ?? []).flatMap((field, j) => fieldFaults(field, `commands[${i}].asks[${j}]`)),
      ...(separator === '' ? openFields(command.fields, `commands[${i}]`) : []),
    ]),
    ...(reply.verb || reply.mark !== reply.error.mark || reply.mark === ''
      ? []
      : [at('reply.error.mark', 'a value and an error begin alike')]),
  ];
}

const fieldFaults = (
  { sign, base, width, min, max, decimals }: DialectField,
  path: string,
): readonly DialectFault[] => [
  ...(sign === 'twos' && (base !== 'hex' || width === undefined)
    ? [at(path, 'two’s complement needs hex digits of a fixed width')]
    : []),
  ...(decimals !== undefined && base !== 'decimal' ? [at(path, 'a decimal point needs a decimal number')] : []),
  ...(min !== undefined && max !== undefined && min > max
    ? [at(path, `the lowest value ${min} is above the highest ${max}`)]
    : []),
];

/** Without a separator only the last field may be of free width. */
const openFields = (fields: readonly DialectField[], path: string): readonly DialectFault[] =>
  fields
    .slice(0, -1)
    .flatMap(({ width, name }, j) =>
      width === undefined ? [at(`${path}.fields[${j}]`, `without a separator ${name} needs a fixed width`)] : [],
    );
