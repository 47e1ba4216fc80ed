import { EXCEPTION_LAYOUT, isException } from './exceptions';
import { FUNCTIONS } from './functions';
import { EXCEPTION_BIT, type FunctionSpec, type Layout } from './layout';
import type { Direction } from '../direction';
import type { ModbusMessage } from './message';

/** Codes that the standard leaves to makers (Modbus Application Protocol V1.1b3, section 5). */
const isUserDefined = (fc: number): boolean => (fc >= 65 && fc <= 72) || (fc >= 100 && fc <= 110);

/** What is known of a function; `chooser` is the byte or word after the code, where that decides (08 and 2B). */
export function specOf(fc: number, chooser?: number): FunctionSpec | undefined {
  const spec = FUNCTIONS[fc];
  if (!spec || !('variants' in spec)) return spec;
  return (chooser === undefined ? undefined : spec.variants[chooser]) ?? spec.other;
}

/** Name of a function code in the standard's words, the exception bit set aside. */
export function functionName(fc: number, chooser?: number): string {
  const code = fc & ~EXCEPTION_BIT;
  const whole = FUNCTIONS[code];
  if (!whole) return isUserDefined(code) ? 'user-defined function' : 'function that is not in the standard';
  const chosen = chooser === undefined ? whole : specOf(code, chooser);
  return chosen && chosen !== whole ? `${whole.name}: ${chosen.name}` : whole.name;
}

/** The byte or word after the code at `codeAt`, where the function's layout depends on it. */
function chooserAt(bytes: Uint8Array, codeAt: number, end: number): number | undefined {
  const spec = FUNCTIONS[bytes[codeAt] as number];
  if (!spec || !('variants' in spec) || codeAt + spec.width >= end) return undefined;
  const first = bytes[codeAt + 1] as number;
  return spec.width === 1 ? first : (first << 8) | (bytes[codeAt + 2] as number);
}

/** The layouts of functions that have one whatever follows, by code, and of refusals: every frame comes by here. */
const PLAIN_LAYOUTS: Readonly<Record<Direction, readonly (Layout | undefined)[]>> = {
  request: plainLayouts('request'),
  response: plainLayouts('response'),
};

function plainLayouts(direction: Direction): readonly (Layout | undefined)[] {
  return Array.from({ length: 256 }, (_, code) => {
    if (isException(code)) return direction === 'response' ? EXCEPTION_LAYOUT : undefined;
    const spec = FUNCTIONS[code];
    return spec && !('variants' in spec) ? spec[direction] : undefined;
  });
}

/** The layout that follows the function code at `codeAt`; undefined where the table has none. An exception exists as a response only. */
export function layoutAt(bytes: Uint8Array, codeAt: number, end: number, direction: Direction): Layout | undefined {
  const code = bytes[codeAt] as number;
  return PLAIN_LAYOUTS[direction][code] ?? specOf(code, chooserAt(bytes, codeAt, end))?.[direction];
}

/** The layout that a message is built by. */
export function layoutFor(message: ModbusMessage, direction: Direction): Layout | undefined {
  if (direction === 'response' && message.exception !== undefined) return EXCEPTION_LAYOUT;
  return specOf(message.fc, message.subFunction ?? message.meiType)?.[direction];
}
