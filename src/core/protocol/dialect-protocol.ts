import type { Direction } from '../direction';
import type { Dialect, DialectMessage } from '../dialect/dialect';
import type { ErrorRole } from '../dialect/roles';
import { answersAlike, pairDialect } from '../dialect/pairing';
import { LINE_MAX, probeDialect } from '../dialect/probe';
import { ACCESS_NAMES, errorText, readDialect, readEitherWay, valueText, type DialectReading } from '../dialect/read';
import { checkedLine, completedLine, firstRead, sealDialect } from '../dialect/write';
import { commandLink } from '../places/command-link';
import type { LineProtocol } from './line-protocol';
import type { RefusalWhy } from './refusal';

const WHY: Readonly<Record<ErrorRole, RefusalWhy>> = {
  unknown: 'function',
  form: 'value',
  limit: 'value',
  state: 'state',
  busy: 'busy',
};

/** A drive's own command language on a line. */
export function dialectProtocol(dialect: Dialect): LineProtocol {
  const open = (bytes: Uint8Array, direction: Direction, request?: Uint8Array | null): DialectReading => {
    const asked = request ? readDialect(dialect, request, 'request').message?.command : undefined;
    return readDialect(dialect, bytes, direction, asked === undefined ? undefined : { command: asked });
  };
  return {
    family: 'ascii',
    name: `ASCII, ${dialect.name}`,
    speaksText: true,
    sharesLine: true,
    restCharacters: null,
    longest: LINE_MAX,
    stations: dialect.station ? { least: dialect.station.min, most: dialect.station.max } : { least: 0, most: 0 },
    read: (bytes, direction, request) => {
      const { message, faults } = open(bytes, direction, request);
      // A request that is wrong on purpose can still be refused by the drive, and its refusal belongs to it.
      return { faults, whole: message !== null && (direction === 'request' || faults.length === 0), modbus: null };
    },
    anatomy: (bytes, direction, request) => open(bytes, direction, request).fields,
    seal: (bytes) => sealDialect(dialect, bytes),
    completed: (bytes) => {
      const lines = [completedLine(dialect, bytes), checkedLine(dialect, bytes)];
      return lines.find((line) => line !== bytes && readEitherWay(dialect, line).faults.length === 0) ?? null;
    },
    probe: (bytes, start, end) => probeDialect(dialect, bytes, start, end),
    pair: (request, reply) => {
      const [asked, said] = [open(request, 'request').message, open(reply, 'response', request).message];
      return asked && said ? pairDialect(dialect, asked, said) : { kind: 'other', why: 'one of the two says nothing' };
    },
    shareAnswer: (one, other) => {
      const [a, b] = [open(one, 'request').message, open(other, 'request').message];
      return a !== null && b !== null && answersAlike(dialect, a, b);
    },
    answers: () => true,
    stationOf: (bytes) => open(bytes, 'request').message?.station ?? null,
    numbered: (bytes) => bytes,
    placesOf: () => commandLink(dialect),
    harmless: (station) => firstRead(dialect, station),
    refusal: (code) => {
      const role = dialect.errors?.find((error) => error.code === code)?.role;
      return { why: role ? WHY[role] : 'other', text: `error ${code}, ${errorText(dialect, code)}` };
    },
    sentence: (bytes, direction, request) => {
      const { message, faults } = open(bytes, direction, request);
      if (!message || faults.length > 0) return faults[0]?.text ?? 'no line of this dialect';
      return lineSentence(dialect, message, request ? open(request, 'request').message : null);
    },
  };
}

/** A line in words. */
export function lineSentence(dialect: Dialect, message: DialectMessage, request: DialectMessage | null): string {
  if (message.kind === 'good') return 'confirmed';
  if (message.kind === 'error')
    return `refused, error ${message.error ?? ''}: ${errorText(dialect, message.error ?? 0)}`;
  const command = dialect.commands.find(({ id }) => id === (message.command ?? request?.command));
  const fields = message.kind === 'read' ? (command?.asks ?? []) : (command?.fields ?? []);
  const values = (message.values ?? []).map((value, i) => {
    const field = fields[i];
    return field && typeof value === 'number' ? valueText(field, value) : `${value}`;
  });
  const name = command?.name ?? 'value';
  if (message.kind === 'value') return `${name} ${values.join(', ')}`;
  const arrow = message.kind === 'write' || message.kind === 'keep' ? ' ←' : '';
  return `${ACCESS_NAMES[message.kind]} ${name}${values.length > 0 ? `${arrow} ${values.join(', ')}` : ''}`;
}
