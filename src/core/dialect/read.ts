import type { Field } from '../bytes/field';
import { bytesToHex } from '../bytes/hex';
import { bytesToText } from '../bytes/text';
import { counted } from '../counted';
import type { Direction } from '../direction';
import { fault, type Fault, type FaultCode } from '../fault';
import {
  ACCESSES,
  type Access,
  type Dialect,
  type DialectCommand,
  type DialectField,
  type DialectMessage,
} from './dialect';
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
class Walk {
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
  const walk = new Walk(bytes);
  const done = (message: DialectMessage | null): DialectReading => {
    const fields = [...walk.fields].sort((a, b) => a.start - b.start);
    return { direction, message, faults: walk.faults, fields: filled(bytes, fields) };
  };
  if (bytes.length === 0) {
    walk.fault('too-short', 0, 0, 'an empty line');
    return done(null);
  }
  if (direction === 'response' && dialect.reply.bareMarks) {
    const bare = bareReply(dialect, walk);
    if (bare) return done(bare);
  }
  if (!frame(dialect, walk)) return done(null);
  const message: Draft = { kind: direction === 'request' ? 'act' : 'value' };
  const isWhole = direction === 'request' ? request(dialect, walk, message) : response(dialect, walk, message, asked);
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
function frame(dialect: Dialect, walk: Walk): boolean {
  const { open, close, check } = dialect;
  const [openBytes, closeBytes] = [literalBytes(open), literalBytes(close)];
  const size = walk.bytes.length;
  if (!walk.take('open', 'opening', openBytes)) {
    walk.fault('missing-start', 0, Math.max(openBytes.length, 1), `a line begins with ${literalText(openBytes)}`);
    return false;
  }
  const tail = check?.afterClose ? checkSize(check) + leadOf(check).length : 0;
  const closeAt = size - tail - closeBytes.length;
  if (closeAt < walk.at || !startsWith(walk.bytes, closeAt, closeBytes)) {
    const found = closeBytes.length > 0 ? indexOf(walk.bytes, closeBytes, walk.at) : -1;
    if (found >= 0 && !check?.afterClose)
      walk.fault(
        'trailing-bytes',
        found + closeBytes.length,
        size,
        `${counted(size - found - closeBytes.length, 'byte')} after the closing`,
      );
    else
      walk.fault(
        'missing-end',
        size,
        size,
        `a line ends with ${literalText(closeBytes)}${tail > 0 ? ' and its check' : ''}`,
      );
    return false;
  }
  walk.leaf('close', 'closing', closeAt, closeAt + closeBytes.length, literalText(closeBytes));
  walk.end = closeAt;
  if (check) checkOf(dialect, walk, closeAt + closeBytes.length);
  return true;
}

function indexOf(bytes: Uint8Array, part: Uint8Array, from: number): number {
  for (let at = from; at + part.length <= bytes.length; at++) if (startsWith(bytes, at, part)) return at;
  return -1;
}

function checkOf(dialect: Dialect, walk: Walk, afterClose: number): void {
  const { check } = dialect;
  if (!check) return;
  const lead = leadOf(check);
  const size = checkSize(check);
  const at = check.afterClose ? afterClose + lead.length : walk.end - size;
  if (at - lead.length < walk.at || !startsWith(walk.bytes, at - lead.length, lead)) {
    walk.fault(
      'missing-check',
      Math.max(at - lead.length, walk.at),
      walk.end,
      `${counted(size, 'character')} of check are wanted before the closing${lead.length > 0 ? `, behind ${literalText(lead)}` : ''}`,
    );
    return;
  }
  const span = walk.bytes.subarray(spanStart(dialect), at - lead.length);
  const wanted = checkBytes(check, span);
  const good = wanted.every((byte, i) => walk.bytes[at + i] === byte);
  const shown = check.form === 'binary' ? bytesToHex(wanted, ' ').toUpperCase() : literalText(wanted);
  walk.leaf('check-lead', 'check mark', at - lead.length, at, literalText(lead));
  walk.leaf('check', 'check', at, at + size, good ? `good, ${check.algorithm}` : `should be ${shown}`);
  if (!good)
    walk.fault(
      'checksum-mismatch',
      at,
      at + size,
      `the check is ${literalText(walk.bytes.subarray(at, at + size))}, these characters give ${shown}`,
    );
  if (!check.afterClose) walk.end = at - lead.length;
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

function stationOf(dialect: Dialect, walk: Walk, message: Draft): boolean {
  const { station } = dialect;
  if (!station) return true;
  const end = numberEnd(walk.text.slice(0, walk.end), walk.at, station);
  const number = readNumber(walk.text.slice(walk.at, end), station);
  if (!number.ok) {
    walk.fault(
      'bad-token',
      walk.at,
      Math.min(Math.max(end, walk.at + 1), walk.end),
      `the station is missing here: ${number.error}`,
    );
    return false;
  }
  message.station = number.value;
  walk.leaf('station', 'station', walk.at, end, `${number.value}`, number.value);
  if (number.value < station.min || number.value > station.max)
    walk.fault('value-out-of-range', walk.at, end, `station ${number.value}: ${station.min} to ${station.max} exist`);
  walk.at = end;
  const after = literalBytes(station.after);
  if (walk.take('station-after', 'mark', after)) return true;
  walk.fault('bad-token', walk.at, walk.at + 1, `${literalText(after)} is wanted behind the station`);
  return false;
}

/** The command whose verb stands here, the longest first. */
function verbOf(dialect: Dialect, walk: Walk): DialectCommand | null {
  const rest = walk.rest();
  const folded = dialect.anyCase ? rest.toLowerCase() : rest;
  const found = dialect.commands
    .filter(({ verb }) => folded.startsWith(dialect.anyCase ? verb.toLowerCase() : verb))
    .sort((a, b) => b.verb.length - a.verb.length)[0];
  if (!found) return null;
  walk.leaf('verb', 'verb', walk.at, walk.at + found.verb.length, found.name, found.verb);
  walk.at += found.verb.length;
  return found;
}

function request(dialect: Dialect, walk: Walk, message: Draft): boolean {
  if (!stationOf(dialect, walk, message)) return false;
  const command = verbOf(dialect, walk);
  if (!command) {
    const word = /^\w+/.exec(walk.rest())?.[0].length ?? 1;
    walk.fault(
      'unknown-function',
      walk.at,
      walk.at + word,
      `“${walk.text.slice(walk.at, walk.at + word)}” is no verb of this dialect`,
    );
    return false;
  }
  message.command = command.id;
  const access = accessOf(dialect, walk, command);
  if (!access) return false;
  message.kind = access;
  const fields = access === 'read' ? (command.asks ?? []) : command.fields;
  const isWhole = values(dialect, walk, fields, message);
  if (fields.length === 0) delete message.values;
  return isWhole;
}

/** What the marks behind the verb say; the longest mark first, so that `:=` is not read as `:`. */
function accessOf(dialect: Dialect, walk: Walk, command: DialectCommand): Access | null {
  const marks = ACCESSES.flatMap((access) => {
    const mark = dialect.marks[access];
    return mark === undefined ? [] : [{ access, bytes: literalBytes(mark) }];
  }).sort(
    (a, b) =>
      b.bytes.length - a.bytes.length ||
      Number(command.access.includes(b.access)) - Number(command.access.includes(a.access)),
  );
  for (const { access, bytes } of marks) {
    if (walk.at + bytes.length > walk.end || !startsWith(walk.bytes, walk.at, bytes)) continue;
    const isBare =
      bytes.length === 0 &&
      walk.at < walk.end &&
      (access === 'read' ? (command.asks ?? []) : command.fields).length === 0;
    if (isBare) break;
    if (!command.access.includes(access)) {
      walk.fault(
        'not-allowed',
        walk.at,
        Math.min(Math.max(walk.at + bytes.length, walk.at + 1), walk.end),
        `${command.verb} knows no ${access}, only ${command.access.join(', ')}`,
      );
      return null;
    }
    walk.take('mark', ACCESS_NAMES[access], bytes);
    return access;
  }
  const known = marks
    .filter(({ access }) => command.access.includes(access))
    .map(({ bytes }) => (bytes.length === 0 ? 'nothing' : literalText(bytes)));
  walk.fault('bad-token', walk.at, walk.end, `behind ${command.verb} comes ${known.join(' or ')}`);
  return null;
}

export const ACCESS_NAMES: Readonly<Record<Access, string>> = {
  read: 'read',
  write: 'write',
  keep: 'write and keep',
  act: 'do',
};

function values(dialect: Dialect, walk: Walk, fields: readonly DialectField[], message: Draft): boolean {
  const separator = literalBytes(dialect.separator);
  const taken: (number | string)[] = [];
  message.values = taken;
  for (const [i, field] of fields.entries()) {
    if (i > 0 && !walk.take(`separator[${i}]`, 'separator', separator)) {
      walk.fault('bad-token', walk.at, walk.end, `${literalText(separator)} and ${field.name} are wanted here`);
      return false;
    }
    const value = valueHere(walk, field, i, separator);
    if (value === null) return false;
    taken.push(value);
  }
  if (walk.at === walk.end) return true;
  walk.fault(
    'trailing-bytes',
    walk.at,
    walk.end,
    `nothing more is wanted here; “${literalText(walk.bytes.subarray(walk.at, walk.end))}” is left over`,
  );
  return false;
}

function valueHere(walk: Walk, field: DialectField, place: number, separator: Uint8Array): number | string | null {
  const start = walk.at;
  const until = walk.text.slice(0, walk.end);
  if (field.base === 'text') {
    const stop = separator.length > 0 ? indexOf(walk.bytes.subarray(0, walk.end), separator, start) : -1;
    const end = field.width !== undefined ? Math.min(start + field.width, walk.end) : stop < 0 ? walk.end : stop;
    const text = until.slice(start, end);
    walk.leaf(`values[${place}]`, field.name, start, end, text, text);
    walk.at = end;
    return text;
  }
  const end = numberEnd(until, start, field);
  const number = readNumber(until.slice(start, end), field);
  if (!number.ok) {
    const there = until.slice(start);
    const why = end === start && there !== '' ? `“${there}” does not begin a ${field.base} number` : number.error;
    walk.fault('bad-token', start, Math.min(Math.max(end, start + 1), walk.end), `${field.name}: ${why}`);
    return null;
  }
  const { value } = number;
  walk.leaf(`values[${place}]`, field.name, start, end, valueText(field, value), value);
  walk.at = end;
  const { min = -Infinity, max = Infinity } = field;
  if (value < min || value > max)
    walk.fault('value-out-of-range', start, end, `${field.name} ${value}: ${min} to ${max} are allowed`);
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

function errorNumber(dialect: Dialect, walk: Walk, message: Draft): boolean {
  const { error } = dialect.reply;
  const end = numberEnd(walk.text.slice(0, walk.end), walk.at, error);
  const number = readNumber(walk.text.slice(walk.at, end), error);
  message.kind = 'error';
  if (!number.ok) {
    walk.fault(
      'bad-token',
      walk.at,
      Math.min(Math.max(end, walk.at + 1), walk.end),
      `the number of the error is missing: ${number.error}`,
    );
    return false;
  }
  message.error = number.value;
  walk.leaf('error', 'error', walk.at, end, errorText(dialect, number.value), number.value);
  walk.at = end;
  return true;
}

export const errorText = ({ errors = [] }: Dialect, code: number): string =>
  errors.find((error) => error.code === code)?.text ?? `error ${code}, which the dialect does not name`;

/** Good and error mark that come without a frame. */
function bareReply(dialect: Dialect, walk: Walk): DialectMessage | null {
  const { good, error } = dialect.reply;
  const message: Draft = { kind: 'good' };
  if (literalBytes(good).length > 0 && walk.take('good', 'done', literalBytes(good))) {
    if (walk.at < walk.end)
      walk.fault('trailing-bytes', walk.at, walk.end, `${counted(walk.end - walk.at, 'byte')} after the mark`);
    return message;
  }
  if (literalBytes(error.mark).length === 0 || !walk.take('error-mark', 'refused', literalBytes(error.mark)))
    return null;
  const found = errorNumber(dialect, walk, message);
  if (found && walk.at < walk.end)
    walk.fault('trailing-bytes', walk.at, walk.end, `${counted(walk.end - walk.at, 'byte')} after the error`);
  return message;
}

function response(dialect: Dialect, walk: Walk, message: Draft, asked: AskedBefore | undefined): boolean {
  const { reply } = dialect;
  if (reply.station && !stationOf(dialect, walk, message)) return false;
  const [good, bad] = [literalBytes(reply.good), literalBytes(reply.error.mark)];
  if (!reply.bareMarks) {
    if (bad.length > 0 && walk.take('error-mark', 'refused', bad)) {
      const found = errorNumber(dialect, walk, message);
      if (found && walk.at < walk.end)
        walk.fault('trailing-bytes', walk.at, walk.end, 'nothing more is wanted behind the error');
      return found;
    }
    if (good.length > 0 && walk.end - walk.at === good.length && walk.take('good', 'done', good)) {
      message.kind = 'good';
      return true;
    }
  }
  const command = reply.verb
    ? verbOf(dialect, walk)
    : (dialect.commands.find(({ id }) => id === asked?.command) ?? null);
  if (reply.verb && !command) {
    walk.fault('unknown-function', walk.at, walk.end, 'neither a mark nor a verb of this dialect');
    return false;
  }
  if (!walk.take('mark', 'value mark', literalBytes(reply.mark))) {
    walk.fault('bad-token', walk.at, walk.end, `${literalText(literalBytes(reply.mark))} is wanted before the value`);
    return false;
  }
  if (command) {
    message.command = command.id;
    return values(dialect, walk, command.fields, message);
  }
  const text = walk.rest();
  walk.leaf('values', 'value', walk.at, walk.end, 'as it came; the request would tell its fields');
  message.values = [text];
  walk.at = walk.end;
  return true;
}
