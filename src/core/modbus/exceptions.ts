import { EXCEPTION_BIT, type Layout } from './layout';

export const EXCEPTION_LAYOUT: Layout = { items: [{ kind: 'u8', name: 'exception', label: 'exception' }], limits: [] };

/** Exception codes, Modbus Application Protocol V1.1b3, section 7; 07 and 09 are not defined there. */
export const EXCEPTIONS: Readonly<Partial<Record<number, { readonly name: string; readonly text: string }>>> = {
  1: { name: 'illegal function', text: 'the station does not know this function, or not in its present state' },
  2: {
    name: 'illegal data address',
    text: 'a register in the range asked for does not exist, or may not be used this way',
  },
  3: { name: 'illegal data value', text: 'a value or quantity in the request is not allowed' },
  4: { name: 'server device failure', text: 'the station could not do what was asked' },
  5: { name: 'acknowledge', text: 'accepted, it takes a while; ask again later' },
  6: { name: 'server device busy', text: 'the station is busy with a long command; send again later' },
  8: { name: 'memory parity error', text: 'the station found an error in its extended memory' },
  10: { name: 'gateway path unavailable', text: 'the gateway has no free path to that line' },
  11: { name: 'gateway target failed to respond', text: 'the gateway got no answer from the station' },
};

/** The name of an exception code by the Modbus Application Protocol 1.1b3, 7. */
export const exceptionName = (code: number): string => EXCEPTIONS[code]?.name ?? 'not in the standard';

/** Whether a function code of a response has the bit of a refusal (80h). */
export const isException = (code: number): boolean => (code & EXCEPTION_BIT) !== 0;
