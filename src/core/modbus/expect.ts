import type { ModbusFraming } from './framing';
import { EXCEPTIONS } from './layout';
import type { ModbusMessage } from './message';

/** A reply that a station should give: bytes that are known, and null where nobody can know them yet. */
export interface ExpectedReply {
  readonly bytes: readonly (number | null)[];
  readonly text: string;
}

/** Looks up what a register was last seen to hold; undefined = not known. */
export type KnownRegister = (address: number) => number | undefined;

/**
 * The reply to a request, as far as it is known: unknown registers and their check stay unknown, never zero. `refusal` is the exception that
 * must come, where the sheet says so. Null where no reply comes: a broadcast, or a request that is not whole.
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
  if (fc === 6) return { bytes: numbered([...request]), text: 'the same bytes back' };
  if (fc === 16) return whole({ ...head, address, quantity }, 'the range that was written, without the values');
  const words = Array.from({ length: quantity }, (_, i) => known(address + i));
  if (!words.includes(undefined)) return whole({ ...head, values: words as number[] }, 'with the values last seen');
  const zeroed = whole(
    { ...head, values: words.map((word) => word ?? 0) },
    'question marks where the value is not known yet',
  );
  return zeroed && { ...zeroed, bytes: blank(zeroed.bytes, words, framing.tail) };
}

/** Unknown words become unknown bytes, and so does the check that depends on them. */
function blank(
  bytes: ExpectedReply['bytes'],
  words: readonly (number | undefined)[],
  tail: number,
): ExpectedReply['bytes'] {
  const valuesAt = bytes.length - tail - 2 * words.length;
  return bytes.map((byte, at) => {
    const word = Math.floor((at - valuesAt) / 2);
    const unknown = at >= bytes.length - tail || (word >= 0 && words[word] === undefined);
    return unknown ? null : byte;
  });
}
