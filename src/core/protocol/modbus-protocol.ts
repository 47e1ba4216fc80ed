import { exceptionName } from '../modbus/exceptions';
import type { ModbusFraming } from '../modbus/framing';
import { answersAlike, pairModbus } from '../modbus/pairing';
import { withTransaction } from '../modbus/tcp';
import { registerLink } from '../places/register-link';
import { replySentence, requestSentence } from './modbus-sentence';
import type { LineProtocol } from './line-protocol';
import type { RefusalWhy } from './refusal';

/** What does not keep a frame from being paired: a function that is not decoded here can still be refused, a value can be beyond the standard. */
const HARMLESS: ReadonlySet<string> = new Set(['unknown-function', 'value-out-of-range', 'quantity-out-of-range']);

const WHY: Readonly<Partial<Record<number, RefusalWhy>>> = {
  1: 'function',
  2: 'place',
  3: 'value',
  4: 'state',
  5: 'busy',
  6: 'busy',
  10: 'path',
  11: 'target',
};

/** Modbus in one framing as the bench speaks it: read, paired, completed, said in words. */
export function modbusProtocol(framing: ModbusFraming): LineProtocol {
  const read: LineProtocol['read'] = (bytes, direction) => {
    const { message, faults, shape } = framing.read(bytes, direction);
    const whole = message !== null && shape.checkGood && faults.every(({ code }) => HARMLESS.has(code));
    return { faults, whole, modbus: message };
  };
  return {
    family: 'modbus',
    name: framing.name,
    speaksText: framing.id === 'modbus-ascii',
    sharesLine: framing.tail > 0,
    restCharacters: null,
    longest: framing.longest,
    stations: { least: framing.broadcasts ? 1 : 0, most: framing.mostUnit },
    read,
    anatomy: (bytes, direction) => framing.anatomy(bytes, framing.read(bytes, direction)),
    seal: framing.seal,
    completed: (bytes) => {
      const frame = framing.complete(bytes);
      return bytes.length > 0 &&
        (read(frame, 'request').faults.length === 0 || read(frame, 'response').faults.length === 0)
        ? frame
        : null;
    },
    probe: (bytes, start, end) => framing.probe(bytes, start, end, 'response'),
    pair: (request, reply) => {
      const [asked, said] = [framing.read(request, 'request').message, framing.read(reply, 'response').message];
      return asked && said ? pairModbus(asked, said) : { kind: 'other', why: 'one of the two says nothing' };
    },
    shareAnswer: (one, other) => {
      const [a, b] = [framing.read(one, 'request').message, framing.read(other, 'request').message];
      return a !== null && b !== null && answersAlike(a, b);
    },
    answers: (request) => {
      const { message } = framing.read(request, 'request');
      return !(framing.broadcasts && message?.unit === 0) && !(message?.fc === 8 && message.subFunction === 4);
    },
    stationOf: (bytes) => framing.read(bytes, 'request').message?.unit ?? null,
    // Over TCP the line numbers what was left at transaction 0; a number that was typed is sent as it is.
    numbered: (bytes, exchange) =>
      framing.id === 'modbus-tcp' && bytes[0] === 0 && bytes[1] === 0
        ? withTransaction(bytes, ((exchange - 1) % 0xffff) + 1)
        : bytes,
    placesOf: (index) => registerLink(index, framing),
    harmless: (unit, index) => {
      const status = index?.byRole.get('status-word');
      const read = index && status && registerLink(index, framing).read(unit, [status])[0];
      if (read) return read;
      const built = framing.encode({ unit, fc: 3, address: 0, quantity: 1 }, 'request');
      return built.ok ? built.value : null;
    },
    refusal: (code) => ({ why: WHY[code] ?? 'other', text: `exception ${code}, ${exceptionName(code)}` }),
    sentence: (bytes, direction, request, index) => {
      const { message, faults } = framing.read(bytes, direction);
      if (!message || faults.length > 0)
        return direction === 'request'
          ? `as typed: ${faults[0]?.text ?? 'no message'}`
          : (faults[0]?.text ?? 'no message');
      if (direction === 'request') return requestSentence(message, index);
      return replySentence(message, request && framing.read(request, 'request').message, index);
    },
  };
}
