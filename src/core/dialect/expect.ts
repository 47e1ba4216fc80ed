import type { ExpectedReply } from '../expected-reply';
import type { Dialect, DialectMessage } from './dialect';
import type { ErrorRole } from './roles';
import { readDialect } from './read';
import { encodeDialect } from './write';

/** Which refusal a fault in the request earns, by the code of the fault. */
const REFUSAL: Readonly<Partial<Record<string, ErrorRole>>> = {
  'unknown-function': 'unknown',
  'value-out-of-range': 'limit',
  'not-allowed': 'form',
  'bad-token': 'form',
  'trailing-bytes': 'form',
};

/**
 * The answer that a line should get, as far as the dialect tells it. `last` is the answer that the same line got before. Null where the drive
 * keeps silent (a wrong check, no closing) or the dialect does not say.
 */
export function expectDialect(dialect: Dialect, bytes: Uint8Array, last: Uint8Array | null): ExpectedReply | null {
  const { message, faults } = readDialect(dialect, bytes, 'request');
  const station = message?.station === undefined ? {} : { station: message.station };
  const built = (reply: DialectMessage, text: string): ExpectedReply | null => {
    const line = encodeDialect(dialect, { ...station, ...reply }, 'response');
    return line.ok ? { bytes: [...line.value], text } : null;
  };
  const [fault] = faults;
  if (fault) {
    const role = REFUSAL[fault.code];
    const error = role && dialect.errors?.find((one) => one.role === role);
    return error ? built({ kind: 'error', error: error.code }, `a refusal: ${error.text}`) : null;
  }
  if (!message) return null;
  if (message.kind !== 'read') return built({ kind: 'good' }, 'a confirmation, if the drive is in a state to do it');
  if (last) return { bytes: [...last], text: 'with the value last seen' };
  return valueSketch(dialect, message, station);
}

/** A value of unknown digits: only what stands before it is known, and its length only where the field has one. */
function valueSketch(dialect: Dialect, message: DialectMessage, station: { station?: number }): ExpectedReply | null {
  const command = dialect.commands.find(({ id }) => id === message.command);
  if (!command) return null;
  const of = (value: number): Uint8Array | null => {
    const values = command.fields.map(({ base, min = 0, max = 0 }) =>
      base === 'text' ? '?' : Math.min(Math.max(value, min), Math.max(max, min)),
    );
    const line = encodeDialect(dialect, { ...station, kind: 'value', command: command.id, values }, 'response');
    return line.ok ? line.value : null;
  };
  const sketch = of(0);
  if (!sketch) return null;
  const { fields } = readDialect(dialect, sketch, 'response', { command: command.id });
  const open = fields.filter(({ path }) => path.startsWith('values[') || path === 'check');
  return {
    bytes: [...sketch].map((byte, at) => (open.some(({ start, end }) => at >= start && at < end) ? null : byte)),
    text: command.fields.every(({ width }) => width !== undefined)
      ? 'question marks where the value is not known yet'
      : 'question marks for the value, which may have more or fewer digits',
  };
}
