import type { ExpectedReply } from '../expected-reply';
import type { ModbusTable } from '../registers/tables';
import type { ModbusFraming } from './framing';
import { EXCEPTIONS } from './exceptions';
import { specOf } from './lookup';
import { readBy } from './touched';
import type { ModbusMessage } from './message';

/** Looks up what a register was last seen to hold; undefined = not known. */
export type KnownRegister = (address: number, table: ModbusTable) => number | undefined;

/**
 * The reply to a request, as far as it is known: unknown registers and their check stay unknown, never zero. `refusal` is the exception that
 * must come, where the sheet says so. Null where no reply comes (a broadcast, a request that is not whole, 08/04), or where its length is
 * the station's own affair.
 */
export function expectReply(
  framing: ModbusFraming,
  request: Uint8Array,
  known: KnownRegister,
  refusal: number | null = null,
): ExpectedReply | null {
  const { message, faults } = framing.read(request, 'request');
  if (!message || (message.unit === 0 && framing.broadcasts) || faults.length > 0) return null;
  const { transactionId, unit, fc, address = 0, quantity = 0 } = message;
  if (fc === 8 && message.subFunction === 4) return null;
  const head = { unit, fc, ...(transactionId === undefined ? {} : { transactionId }) };
  const whole = (reply: ModbusMessage, text: string): ExpectedReply | null => {
    const built = framing.encode(reply, 'response');
    return built.ok ? { bytes: numbered([...built.value]), text } : null;
  };
  // A transaction of 0 is numbered by the line as it leaves, so nobody knows it yet.
  const numbered = (bytes: readonly (number | null)[]): readonly (number | null)[] =>
    transactionId === 0 ? [null, null, ...bytes.slice(2)] : bytes;
  if (refusal !== null)
    return whole({ ...head, exception: refusal }, `a refusal, ${EXCEPTIONS[refusal]?.name ?? 'not in the standard'}`);
  const answer = specOf(fc, message.subFunction ?? message.meiType)?.answer;
  switch (answer?.kind) {
    case 'echo':
      return { bytes: numbered([...request]), text: 'the same bytes back' };
    case 'range':
      return whole({ ...head, address, quantity }, 'the range that was written, without the values');
    case 'unknown':
      return unknownReply(framing, { ...head, ...answer.blank(message) }, numbered);
    case 'registers': {
      const { table, first, quantity: count } = readBy(message) ?? { table: 'holding-register', first: 0, quantity: 0 };
      // 23 writes before it reads: what it writes is known even if it was never seen.
      const words = Array.from({ length: count }, (_, i) => written(message, first + i) ?? known(first + i, table));
      if (!words.includes(undefined)) return whole({ ...head, values: words as number[] }, 'with the values last seen');
      const zeroed = whole(
        { ...head, values: words.map((word) => word ?? 0) },
        'question marks where the value is not known yet',
      );
      return zeroed && { ...zeroed, bytes: blank(framing, zeroed.bytes, words) };
    }
    case undefined:
      return null;
  }
}

function written({ fc, writeAddress = 0, values = [] }: ModbusMessage, address: number): number | undefined {
  return fc === 23 ? values[address - writeAddress] : undefined;
}

/** A reply of which station, function and lengths are known, and nothing else: two builds that differ in all content show what that is. */
function unknownReply(
  framing: ModbusFraming,
  blankMessage: ModbusMessage,
  numbered: (bytes: readonly (number | null)[]) => readonly (number | null)[],
): ExpectedReply | null {
  const { unit, fc, subFunction, transactionId } = blankMessage;
  const kept = {
    unit,
    fc,
    ...(subFunction === undefined ? {} : { subFunction }),
    ...(transactionId === undefined ? {} : { transactionId }),
  };
  const built = framing.encode(blankMessage, 'response');
  const other = framing.encode({ ...flipped(blankMessage), ...kept }, 'response');
  if (!built.ok || !other.ok) return null;
  const tailFrom = built.value.length - framing.tail;
  const bytes = [...built.value].map((byte, at) =>
    at >= tailFrom + framing.checkSize || (at < tailFrom && other.value[at] === byte) ? byte : null,
  );
  return { bytes: numbered(bytes), text: 'question marks where only the station knows' };
}

/** The same message with every number in it another one. */
function flipped(message: ModbusMessage): ModbusMessage {
  const { coils, values, records, status, eventCount } = message;
  return {
    ...message,
    ...(coils ? { coils: coils.map(() => 1) } : {}),
    ...(values ? { values: values.map(() => 0xffff) } : {}),
    ...(records ? { records: records.map((record) => ({ values: (record.values ?? []).map(() => 0xffff) })) } : {}),
    ...(status === undefined ? {} : { status: message.fc === 7 ? 0xff : 0xffff }),
    ...(eventCount === undefined ? {} : { eventCount: 0xffff }),
  };
}

/** Unknown words become unknown bytes, and so does the check that depends on them. In ASCII a byte takes two characters. */
function blank(
  framing: ModbusFraming,
  bytes: ExpectedReply['bytes'],
  words: readonly (number | undefined)[],
): ExpectedReply['bytes'] {
  const perWord = framing.perByte * 2;
  const tailFrom = bytes.length - framing.tail;
  const valuesAt = tailFrom - perWord * words.length;
  return bytes.map((byte, at) => {
    const word = Math.floor((at - valuesAt) / perWord);
    const checked = at >= tailFrom && at < tailFrom + framing.checkSize;
    return checked || (at < tailFrom && word >= 0 && words[word] === undefined) ? null : byte;
  });
}
