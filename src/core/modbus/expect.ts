import { concatBytes } from '../bytes/concat';
import { EXCEPTION_BIT, EXCEPTIONS } from './layout';
import { readRtu, sealRtu } from './rtu';

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
export function expectRtu(
  request: Uint8Array,
  known: KnownRegister,
  refusal: number | null = null,
): ExpectedReply | null {
  const { message, faults } = readRtu(request, 'request');
  if (!message || message.unit === 0 || faults.length > 0) return null;
  const { unit, fc, address = 0, quantity = 0 } = message;
  if (refusal !== null) {
    const bytes = sealRtu(Uint8Array.of(unit, fc | EXCEPTION_BIT, refusal, 0, 0));
    return { bytes: [...bytes], text: `a refusal, ${EXCEPTIONS[refusal]?.name ?? 'not in the standard'}` };
  }
  if (fc === 6) return { bytes: [...request], text: 'the same bytes back' };
  if (fc === 16) {
    const open = request.slice(0, 6);
    return {
      bytes: [...sealRtu(concatBytes(open, new Uint8Array(2)))],
      text: 'the range that was written, without the values',
    };
  }
  const body = Array.from({ length: quantity }, (_, i) => known(address + i)).flatMap((word) =>
    word === undefined ? [null, null] : [word >> 8, word & 0xff],
  );
  const head = [unit, fc, 2 * quantity];
  if (body.includes(null))
    return { bytes: [...head, ...body, null, null], text: 'question marks where the value is not known yet' };
  const open = Uint8Array.from([...head, ...body, 0, 0] as number[]);
  return { bytes: [...sealRtu(open)], text: 'with the values last seen' };
}
