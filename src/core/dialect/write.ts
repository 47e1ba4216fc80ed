import { concatBytes } from '../bytes/concat';
import { textToBytes } from '../bytes/text';
import type { Direction } from '../direction';
import { fault, type Fault, type FaultCode } from '../fault';
import { done, failed, type Result } from '../result';
import { checkBytes, leadOf } from './check';
import type { Dialect, DialectField, DialectMessage } from './dialect';
import { literalBytes, startsWith } from './literal';
import { writeNumber } from './number-text';
import { readDialect, spanStart } from './read';

type Bytes = Result<Uint8Array, readonly Fault[]>;

const no = (text: string, code: FaultCode = 'value-out-of-range'): Extract<Bytes, { ok: false }> =>
  failed([fault(code, 0, 0, text)]);

/**
 * Builds a line with its check. Faults: `missing-field`, `value-out-of-range`, `unknown-function`, `not-allowed`, and whatever the reader would
 * say against the line.
 */
export function encodeDialect(dialect: Dialect, message: DialectMessage, direction: Direction): Bytes {
  const isBare =
    direction === 'response' && dialect.reply.bareMarks && (message.kind === 'good' || message.kind === 'error');
  const body = direction === 'request' ? requestBody(dialect, message) : replyBody(dialect, message);
  if (!body.ok) return body;
  if (isBare) return body;
  const hasStation = direction === 'request' || dialect.reply.station === true;
  const station = hasStation ? stationBytes(dialect, message) : done(new Uint8Array(0));
  if (!station.ok) return station;
  const bytes = framed(dialect, concatBytes(station.value, body.value));
  const { faults } = readDialect(
    dialect,
    bytes,
    direction,
    message.command === undefined ? undefined : { command: message.command },
  );
  return faults.length > 0 ? failed(faults) : done(bytes);
}

/** Opening, check and closing around a body. */
export function framed(dialect: Dialect, body: Uint8Array): Uint8Array {
  const { check } = dialect;
  const [open, close] = [literalBytes(dialect.open), literalBytes(dialect.close)];
  const inner = concatBytes(open, body);
  if (!check) return concatBytes(inner, close);
  const start = spanStart(dialect);
  if (check.afterClose) {
    const whole = concatBytes(inner, close);
    return concatBytes(whole, leadOf(check), checkBytes(check, whole.subarray(start)));
  }
  return concatBytes(inner, leadOf(check), checkBytes(check, inner.subarray(start)), close);
}

/**
 * A line that lacks opening, check or closing, with what it lacks; one that has its closing stays as it is. What was given with its opening does
 * not get a second one.
 */
export function completedLine(dialect: Dialect, bytes: Uint8Array): Uint8Array {
  const [open, close] = [literalBytes(dialect.open), literalBytes(dialect.close)];
  for (let at = 0; close.length > 0 && at + close.length <= bytes.length; at++)
    if (startsWith(bytes, at, close)) return bytes;
  return framed(dialect, open.length > 0 && startsWith(bytes, 0, open) ? bytes.subarray(open.length) : bytes);
}

/** A line that has its closing but no check, with one; another stays as it is. */
export function checkedLine(dialect: Dialect, bytes: Uint8Array): Uint8Array {
  const close = literalBytes(dialect.close);
  const body = bytes.length - close.length;
  const isClosed = dialect.check !== undefined && body > 0 && startsWith(bytes, body, close);
  return isClosed ? completedLine(dialect, bytes.subarray(0, body)) : bytes;
}

function stationBytes({ station }: Dialect, message: DialectMessage): Bytes {
  if (!station) return done(new Uint8Array(0));
  if (message.station === undefined) return no('station is missing', 'missing-field');
  const text = writeNumber(message.station, station);
  return text.ok
    ? done(concatBytes(textToBytes(text.value), literalBytes(station.after)))
    : no(`station: ${text.error}`);
}

function requestBody(dialect: Dialect, { kind, command: id, values = [] }: DialectMessage): Bytes {
  const command = dialect.commands.find((one) => one.id === id);
  if (!command) return no(`there is no command ${id ?? ''}`, 'unknown-function');
  if (kind === 'value' || kind === 'good' || kind === 'error')
    return no(`a request does not say “${kind}”`, 'not-allowed');
  const mark = dialect.marks[kind];
  if (mark === undefined || !command.access.includes(kind))
    return no(`${command.verb} knows no ${kind}`, 'not-allowed');
  const fields = kind === 'read' ? (command.asks ?? []) : command.fields;
  const list = valueBytes(dialect, fields, values);
  return list.ok ? done(concatBytes(textToBytes(command.verb), literalBytes(mark), list.value)) : list;
}

function replyBody(dialect: Dialect, { kind, command: id, values = [], error }: DialectMessage): Bytes {
  const { reply } = dialect;
  switch (kind) {
    case 'good':
      return done(literalBytes(reply.good));
    case 'error': {
      if (error === undefined) return no('error is missing', 'missing-field');
      const text = writeNumber(error, reply.error);
      return text.ok
        ? done(concatBytes(literalBytes(reply.error.mark), textToBytes(text.value)))
        : no(`error: ${text.error}`);
    }
    case 'value': {
      const command = dialect.commands.find((one) => one.id === id);
      if (!command) return no(`there is no command ${id ?? ''}`, 'unknown-function');
      const list = valueBytes(dialect, command.fields, values);
      const verb = textToBytes(reply.verb ? command.verb : '');
      return list.ok ? done(concatBytes(verb, literalBytes(reply.mark), list.value)) : list;
    }
    default:
      return no(`a reply does not say “${kind}”`, 'not-allowed');
  }
}

function valueBytes(dialect: Dialect, fields: readonly DialectField[], values: readonly (number | string)[]): Bytes {
  if (values.length !== fields.length)
    return no(`${values.length} values are given, ${fields.length} are wanted`, 'missing-field');
  const parts: Uint8Array[] = [];
  for (const [i, field] of fields.entries()) {
    const text = fieldText(field, values[i] ?? '');
    if (!text.ok) return no(`${field.name}: ${text.error}`);
    if (i > 0) parts.push(literalBytes(dialect.separator));
    parts.push(textToBytes(text.value));
  }
  return done(concatBytes(...parts));
}

function fieldText(field: DialectField, value: number | string): Result<string, string> {
  if (field.base === 'text') return typeof value === 'string' ? done(value) : failed('text is wanted');
  return typeof value === 'number' ? writeNumber(value, field) : failed('a number is wanted');
}

/** The line with its check made right, where the line has one and its frame can be found. */
export function sealDialect(dialect: Dialect, bytes: Uint8Array): Uint8Array {
  const { check } = dialect;
  const [open, close] = [literalBytes(dialect.open), literalBytes(dialect.close)];
  if (!check) return bytes.slice();
  const { fields } = readDialect(dialect, bytes, 'request');
  const place = fields.find(({ path }) => path === 'check');
  if (!place) return bytes.slice();
  const lead = leadOf(check).length;
  const bodyEnd = check.afterClose ? place.start - lead - close.length : place.start - lead;
  return framed(dialect, bytes.slice(open.length, bodyEnd));
}

/** The first command that can be read without naming anything, as a harmless question; null where the dialect has none. */
export function firstRead(dialect: Dialect, station: number): Uint8Array | null {
  const command = dialect.commands.find(({ access, asks = [] }) => access.includes('read') && asks.length === 0);
  if (!command) return null;
  const built = encodeDialect(
    dialect,
    { ...(dialect.station ? { station } : {}), kind: 'read', command: command.id },
    'request',
  );
  return built.ok ? built.value : null;
}
