import type { Field } from '../bytes/field';
import { bytesToHex } from '../bytes/hex';
import { bytesToText } from '../bytes/text';
import { counted } from '../counted';
import type { Direction } from '../direction';
import { fault, type Fault, type FaultCode } from '../fault';
import type { Dialect, DialectCommand, DialectField, DialectMessage } from './dialect';
import { ACCESSES, type Access } from './roles';
import { checkBytes, checkSize, leadOf } from './check';
import { literalBytes, literalText, startsWith } from './literal';
import { numberEnd, readNumber } from './number-text';

export interface DialectReading {
  readonly direction: Direction;
  readonly message: DialectMessage | null;
  readonly faults: readonly Fault[];
  /** Leaves cover every byte once. */
  readonly fields: readonly Field[];
}

/** What a reply to it must look like, where the reply does not say it itself. */
export interface AskedBefore {
  readonly command: string;
}

type Draft = { -readonly [K in keyof DialectMessage]: DialectMessage[K] };

/** Walks over a line, leaving a leaf for every piece that was understood and a fault where it stops. */
class LineCursor {
  readonly bytes: Uint8Array;
  readonly text: string;
  readonly fields: Field[] = [];
  readonly faults: Fault[] = [];
  at: number;
  end: number;

  constructor(bytes: Uint8Array) {
    this.bytes = bytes;
    this.text = bytesToText(bytes);
    this.at = 0;
    this.end = bytes.length;
  }

  leaf(path: string, label: string, start: number, end: number, text: string, value?: number | string): void {
    if (end <= start) return;
    this.fields.push({
      path,
      label,
      start,
      end,
      value: value ?? bytesToHex(this.bytes.subarray(start, end)),
      text,
      codec: 'bytes',
    });
  }

  fault(code: FaultCode, start: number, end: number, text: string): void {
    this.faults.push(
      fault(code, Math.min(start, this.bytes.length), Math.min(Math.max(end, start), this.bytes.length), text),
    );
  }

  /** Takes a fixed text if it stands here. */
  take(path: string, label: string, literal: Uint8Array): boolean {
    if (this.at + literal.length > this.end || !startsWith(this.bytes, this.at, literal)) return false;
    this.leaf(path, label, this.at, this.at + literal.length, literalText(literal));
    this.at += literal.length;
    return true;
  }

  rest(): string {
    return this.text.slice(this.at, this.end);
  }
}

/** Reads one line. A reply that does not repeat its verb needs `asked` to know its fields. Never throws. */
export function readDialect(
  dialect: Dialect,
  bytes: Uint8Array,
  direction: Direction,
  asked?: AskedBefore,
): DialectReading {
  const cursor = new LineCursor(bytes);
  const done = (message: DialectMessage | null): DialectReading => {
    const fields = [...cursor.fields].sort((a, b) => a.start - b.start);
    return { direction, message, faults: cursor.faults, fields: filled(bytes, fields) };
  };
  if (bytes.length === 0) {
    cursor.fault('too-short', 0, 0, 'an empty line');
    return done(null);
  }
  if (direction === 'response' && dialect.reply.bareMarks) {
    const bare = bareReply(dialect, cursor);
    if (bare) return done(bare);
  }
  if (!frame(dialect, cursor)) return done(null);
  const message: Draft = { kind: direction === 'request' ? 'act' : 'value' };
  const isWhole =
    direction === 'request' ? request(dialect, cursor, message) : response(dialect, cursor, message, asked);
  return done(isWhole || message.command !== undefined || message.station !== undefined ? message : null);
}

/** Both ways are tried; the one with fewer faults is told, the request where they have as many. */
export function readEitherWay(dialect: Dialect, bytes: Uint8Array): DialectReading {
  const [request, response] = [readDialect(dialect, bytes, 'request'), readDialect(dialect, bytes, 'response')];
  // A reply without its verb takes any text for a value: that counts only where it is a number.
  const isBareText =
    response.message?.kind === 'value' &&
    response.message.command === undefined &&
    !NUMERIC.test(`${response.message.values?.[0] ?? ''}`);
  if (isBareText) return request;
  return request.faults.length <= response.faults.length ? request : response;
}

const NUMERIC = /^[+-]?[0-9A-F.]+$/;

/** Leaves for what nobody understood. */
function filled(bytes: Uint8Array, fields: readonly Field[]): readonly Field[] {
  const out: Field[] = [];
  let at = 0;
  const gap = (until: number): void => {
    if (until <= at) return;
    const path = out.some((field) => field.path === 'unread') ? `unread[${at}]` : 'unread';
    out.push({
      path,
      label: 'unread',
      start: at,
      end: until,
      value: bytesToHex(bytes.subarray(at, until)),
      text: literalText(bytes.subarray(at, until)),
      codec: 'bytes',
    });
  };
  for (const field of fields) {
    gap(field.start);
    out.push(field);
    at = field.end;
  }
  gap(bytes.length);
  return out;
}

/** Opening, check and closing; what is left between them is the body. False where no body can be found. */
function frame(dialect: Dialect, cursor: LineCursor): boolean {
  const { open, close, check } = dialect;
  const [openBytes, closeBytes] = [literalBytes(open), literalBytes(close)];
  const size = cursor.bytes.length;
  if (!cursor.take('open', 'opening', openBytes)) {
    cursor.fault('missing-start', 0, Math.max(openBytes.length, 1), `a line begins with ${literalText(openBytes)}`);
    return false;
  }
  const tail = check?.afterClose ? checkSize(check) + leadOf(check).length : 0;
  const closeAt = size - tail - closeBytes.length;
  if (closeAt < cursor.at || !startsWith(cursor.bytes, closeAt, closeBytes)) {
    const found = closeBytes.length > 0 ? indexOf(cursor.bytes, closeBytes, cursor.at) : -1;
    if (found >= 0 && !check?.afterClose)
      cursor.fault(
        'trailing-bytes',
        found + closeBytes.length,
        size,
        `${counted(size - found - closeBytes.length, 'byte')} after the closing`,
      );
    else
      cursor.fault(
        'missing-end',
        size,
        size,
        `a line ends with ${literalText(closeBytes)}${tail > 0 ? ' and its check' : ''}`,
      );
    return false;
  }
  cursor.leaf('close', 'closing', closeAt, closeAt + closeBytes.length, literalText(closeBytes));
  cursor.end = closeAt;
  if (check) checkOf(dialect, cursor, closeAt + closeBytes.length);
  return true;
}

function indexOf(bytes: Uint8Array, part: Uint8Array, from: number): number {
  for (let at = from; at + part.length <= bytes.length; at++) if (startsWith(bytes, at, part)) return at;
  return -1;
}

function checkOf(dialect: Dialect, cursor: LineCursor, afterClose: number): void {
  const { check } = dialect;
  if (!check) return;
  const lead = leadOf(check);
  const size = checkSize(check);
  const at = check.afterClose ? afterClose + lead.length : cursor.end - size;
  if (at - lead.length < cursor.at || !startsWith(cursor.bytes, at - lead.length, lead)) {
    cursor.fault(
      'missing-check',
      Math.max(at - lead.length, cursor.at),
      cursor.end,
      `${counted(size, 'character')} of check are wanted before the closing${lead.length > 0 ? `, behind ${literalText(lead)}` : ''}`,
    );
    return;
  }
  const span = cursor.bytes.subarray(spanStart(dialect), at - lead.length);
  const wanted = checkBytes(check, span);
  const good = wanted.every((byte, i) => cursor.bytes[at + i] === byte);
  const shown = check.form === 'binary' ? bytesToHex(wanted, ' ').toUpperCase() : literalText(wanted);
  cursor.leaf('check-lead', 'check mark', at - lead.length, at, literalText(lead));
  cursor.leaf('check', 'check', at, at + size, good ? `good, ${check.algorithm}` : `should be ${shown}`);
  if (!good)
    cursor.fault(
      'checksum-mismatch',
      at,
      at + size,
      `the check is ${literalText(cursor.bytes.subarray(at, at + size))}, these characters give ${shown}`,
    );
  if (!check.afterClose) cursor.end = at - lead.length;
}

/** Where the check's span begins. */
export function spanStart({ open, station, check }: Dialect): number {
  const behindOpen = literalBytes(open).length;
  switch (check?.from) {
    case 'after-open':
      return behindOpen;
    case 'after-station':
      return behindOpen + (station ? station.width + literalBytes(station.after).length : 0);
    default:
      return 0;
  }
}

function stationOf(dialect: Dialect, cursor: LineCursor, message: Draft): boolean {
  const { station } = dialect;
  if (!station) return true;
  const end = numberEnd(cursor.text.slice(0, cursor.end), cursor.at, station);
  const number = readNumber(cursor.text.slice(cursor.at, end), station);
  if (!number.ok) {
    cursor.fault(
      'bad-token',
      cursor.at,
      Math.min(Math.max(end, cursor.at + 1), cursor.end),
      `the station is missing here: ${number.error}`,
    );
    return false;
  }
  message.station = number.value;
  cursor.leaf('station', 'station', cursor.at, end, `${number.value}`, number.value);
  if (number.value < station.min || number.value > station.max)
    cursor.fault(
      'value-out-of-range',
      cursor.at,
      end,
      `station ${number.value}: ${station.min} to ${station.max} exist`,
    );
  cursor.at = end;
  const after = literalBytes(station.after);
  if (cursor.take('station-after', 'mark', after)) return true;
  cursor.fault('bad-token', cursor.at, cursor.at + 1, `${literalText(after)} is wanted behind the station`);
  return false;
}

/** The command whose verb stands here, the longest first. */
function verbOf(dialect: Dialect, cursor: LineCursor): DialectCommand | null {
  const rest = cursor.rest();
  const folded = dialect.anyCase ? rest.toLowerCase() : rest;
  const found = dialect.commands
    .filter(({ verb }) => folded.startsWith(dialect.anyCase ? verb.toLowerCase() : verb))
    .sort((a, b) => b.verb.length - a.verb.length)[0];
  if (!found) return null;
  cursor.leaf('verb', 'verb', cursor.at, cursor.at + found.verb.length, found.name, found.verb);
  cursor.at += found.verb.length;
  return found;
}

function request(dialect: Dialect, cursor: LineCursor, message: Draft): boolean {
  if (!stationOf(dialect, cursor, message)) return false;
  const command = verbOf(dialect, cursor);
  if (!command) {
    const word = /^\w+/.exec(cursor.rest())?.[0].length ?? 1;
    cursor.fault(
      'unknown-function',
      cursor.at,
      cursor.at + word,
      `“${cursor.text.slice(cursor.at, cursor.at + word)}” is no verb of this dialect`,
    );
    return false;
  }
  message.command = command.id;
  const access = accessOf(dialect, cursor, command);
  if (!access) return false;
  message.kind = access;
  const fields = access === 'read' ? (command.asks ?? []) : command.fields;
  const isWhole = values(dialect, cursor, fields, message);
  if (fields.length === 0) delete message.values;
  return isWhole;
}

/** What the marks behind the verb say; the longest mark first, so that `:=` is not read as `:`. */
function accessOf(dialect: Dialect, cursor: LineCursor, command: DialectCommand): Access | null {
  const marks = ACCESSES.flatMap((access) => {
    const mark = dialect.marks[access];
    return mark === undefined ? [] : [{ access, bytes: literalBytes(mark) }];
  }).sort(
    (a, b) =>
      b.bytes.length - a.bytes.length ||
      Number(command.access.includes(b.access)) - Number(command.access.includes(a.access)),
  );
  for (const { access, bytes } of marks) {
    if (cursor.at + bytes.length > cursor.end || !startsWith(cursor.bytes, cursor.at, bytes)) continue;
    const isBare =
      bytes.length === 0 &&
      cursor.at < cursor.end &&
      (access === 'read' ? (command.asks ?? []) : command.fields).length === 0;
    if (isBare) break;
    if (!command.access.includes(access)) {
      cursor.fault(
        'not-allowed',
        cursor.at,
        Math.min(Math.max(cursor.at + bytes.length, cursor.at + 1), cursor.end),
        `${command.verb} knows no ${access}, only ${command.access.join(', ')}`,
      );
      return null;
    }
    cursor.take('mark', ACCESS_NAMES[access], bytes);
    return access;
  }
  const known = marks
    .filter(({ access }) => command.access.includes(access))
    .map(({ bytes }) => (bytes.length === 0 ? 'nothing' : literalText(bytes)));
  cursor.fault('bad-token', cursor.at, cursor.end, `behind ${command.verb} comes ${known.join(' or ')}`);
  return null;
}

export const ACCESS_NAMES: Readonly<Record<Access, string>> = {
  read: 'read',
  write: 'write',
  keep: 'write and keep',
  act: 'do',
};

function values(dialect: Dialect, cursor: LineCursor, fields: readonly DialectField[], message: Draft): boolean {
  const separator = literalBytes(dialect.separator);
  const taken: (number | string)[] = [];
  message.values = taken;
  for (const [i, field] of fields.entries()) {
    if (i > 0 && !cursor.take(`separator[${i}]`, 'separator', separator)) {
      cursor.fault('bad-token', cursor.at, cursor.end, `${literalText(separator)} and ${field.name} are wanted here`);
      return false;
    }
    const value = valueHere(cursor, field, i, separator);
    if (value === null) return false;
    taken.push(value);
  }
  if (cursor.at === cursor.end) return true;
  cursor.fault(
    'trailing-bytes',
    cursor.at,
    cursor.end,
    `nothing more is wanted here; “${literalText(cursor.bytes.subarray(cursor.at, cursor.end))}” is left over`,
  );
  return false;
}

function valueHere(
  cursor: LineCursor,
  field: DialectField,
  place: number,
  separator: Uint8Array,
): number | string | null {
  const start = cursor.at;
  const until = cursor.text.slice(0, cursor.end);
  if (field.base === 'text') {
    const stop = separator.length > 0 ? indexOf(cursor.bytes.subarray(0, cursor.end), separator, start) : -1;
    const end = field.width !== undefined ? Math.min(start + field.width, cursor.end) : stop < 0 ? cursor.end : stop;
    const text = until.slice(start, end);
    cursor.leaf(`values[${place}]`, field.name, start, end, text, text);
    cursor.at = end;
    return text;
  }
  const end = numberEnd(until, start, field);
  const number = readNumber(until.slice(start, end), field);
  if (!number.ok) {
    const there = until.slice(start);
    const why = end === start && there !== '' ? `“${there}” does not begin a ${field.base} number` : number.error;
    cursor.fault('bad-token', start, Math.min(Math.max(end, start + 1), cursor.end), `${field.name}: ${why}`);
    return null;
  }
  const { value } = number;
  cursor.leaf(`values[${place}]`, field.name, start, end, valueText(field, value), value);
  cursor.at = end;
  const { min = -Infinity, max = Infinity } = field;
  if (value < min || value > max)
    cursor.fault('value-out-of-range', start, end, `${field.name} ${value}: ${min} to ${max} are allowed`);
  return value;
}

/** A raw value with what the field knows of it; the value in its unit is shown to six digits. */
export function valueText({ unit, perCount, choices }: DialectField, value: number): string {
  const choice = choices?.find((one) => one.value === value);
  if (choice) return `${value} = ${choice.name}`;
  if (perCount === undefined || !unit) return unit ? `${value} ${unit}` : `${value}`;
  const [num = '1', den = '1'] = perCount.split('/');
  const inUnit = (value * parseFloat(num)) / parseFloat(den);
  const shown = parseFloat(inUnit.toPrecision(6));
  return `${value} ${shown === inUnit ? '=' : '≈'} ${shown} ${unit}`;
}

function errorNumber(dialect: Dialect, cursor: LineCursor, message: Draft): boolean {
  const { error } = dialect.reply;
  const end = numberEnd(cursor.text.slice(0, cursor.end), cursor.at, error);
  const number = readNumber(cursor.text.slice(cursor.at, end), error);
  message.kind = 'error';
  if (!number.ok) {
    cursor.fault(
      'bad-token',
      cursor.at,
      Math.min(Math.max(end, cursor.at + 1), cursor.end),
      `the number of the error is missing: ${number.error}`,
    );
    return false;
  }
  message.error = number.value;
  cursor.leaf('error', 'error', cursor.at, end, errorText(dialect, number.value), number.value);
  cursor.at = end;
  return true;
}

/** What an error number of the dialect means; a sentence too where it names none. */
export const errorText = ({ errors = [] }: Dialect, code: number): string =>
  errors.find((error) => error.code === code)?.text ?? `error ${code}, which the dialect does not name`;

/** Good and error mark that come without a frame. */
function bareReply(dialect: Dialect, cursor: LineCursor): DialectMessage | null {
  const { good, error } = dialect.reply;
  const message: Draft = { kind: 'good' };
  if (literalBytes(good).length > 0 && cursor.take('good', 'done', literalBytes(good))) {
    if (cursor.at < cursor.end)
      cursor.fault(
        'trailing-bytes',
        cursor.at,
        cursor.end,
        `${counted(cursor.end - cursor.at, 'byte')} after the mark`,
      );
    return message;
  }
  if (literalBytes(error.mark).length === 0 || !cursor.take('error-mark', 'refused', literalBytes(error.mark)))
    return null;
  const found = errorNumber(dialect, cursor, message);
  if (found && cursor.at < cursor.end)
    cursor.fault('trailing-bytes', cursor.at, cursor.end, `${counted(cursor.end - cursor.at, 'byte')} after the error`);
  return message;
}

function response(dialect: Dialect, cursor: LineCursor, message: Draft, asked: AskedBefore | undefined): boolean {
  const { reply } = dialect;
  if (reply.station && !stationOf(dialect, cursor, message)) return false;
  const [good, bad] = [literalBytes(reply.good), literalBytes(reply.error.mark)];
  if (!reply.bareMarks) {
    if (bad.length > 0 && cursor.take('error-mark', 'refused', bad)) {
      const found = errorNumber(dialect, cursor, message);
      if (found && cursor.at < cursor.end)
        cursor.fault('trailing-bytes', cursor.at, cursor.end, 'nothing more is wanted behind the error');
      return found;
    }
    if (good.length > 0 && cursor.end - cursor.at === good.length && cursor.take('good', 'done', good)) {
      message.kind = 'good';
      return true;
    }
  }
  const command = reply.verb
    ? verbOf(dialect, cursor)
    : (dialect.commands.find(({ id }) => id === asked?.command) ?? null);
  if (reply.verb && !command) {
    cursor.fault('unknown-function', cursor.at, cursor.end, 'neither a mark nor a verb of this dialect');
    return false;
  }
  if (!cursor.take('mark', 'value mark', literalBytes(reply.mark))) {
    cursor.fault(
      'bad-token',
      cursor.at,
      cursor.end,
      `${literalText(literalBytes(reply.mark))} is wanted before the value`,
    );
    return false;
  }
  if (command) {
    message.command = command.id;
    return values(dialect, cursor, command.fields, message);
  }
  const text = cursor.rest();
  cursor.leaf('values', 'value', cursor.at, cursor.end, 'as it came; the request would tell its fields');
  message.values = [text];
  cursor.at = cursor.end;
  return true;
}
