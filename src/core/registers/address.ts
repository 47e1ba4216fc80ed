import { hexNumber } from '../bytes/hex';
import type { ModbusTable } from './tables';

/**
 * From a parameter's number in the manual to the register address on the wire (counted from 0):
 * `group-index`: "11.03" is 9 × factor + 3 + offset; `number`: "709" is 709 + offset.
 */
export type AddressRule =
  | {
      readonly kind: 'group-index';
      readonly factor: number;
      readonly offset: number;
      readonly table?: ModbusTable | undefined;
    }
  | { readonly kind: 'number'; readonly offset: number; readonly table?: ModbusTable | undefined };

export interface WorkedAddress {
  readonly address: number;
  readonly working: string;
}

const plus = (offset: number): string => (offset === 0 ? '' : offset > 0 ? ` + ${offset}` : ` − ${-offset}`);

/** The register address of a parameter number, or null where the number does not have the rule's form or leaves 0 to 65535. */
export function addressOf(rule: AddressRule, number: string): WorkedAddress | null {
  const parts = rule.kind === 'group-index' ? /^(\d{1,3})\.(\d{1,3})$/.exec(number) : /^(\d{1,5})$/.exec(number);
  if (!parts) return null;
  const first = parseInt(parts[1] ?? '', 10);
  const index = parseInt(parts[2] ?? '0', 10);
  if (rule.kind === 'group-index' && index >= rule.factor) return null;
  const address = rule.kind === 'group-index' ? first * rule.factor + index + rule.offset : first + rule.offset;
  if (address < 0 || address > 0xffff) return null;
  const sum =
    rule.kind === 'group-index'
      ? `${first} × ${rule.factor} + ${index}${plus(rule.offset)}`
      : `${first}${plus(rule.offset)}`;
  return { address, working: `${sum} = ${address} = ${hexNumber(address)}` };
}

/** The rule from a number to its address as a formula. */
export const ruleText = (rule: AddressRule): string =>
  rule.kind === 'group-index' ? `group × ${rule.factor} + index${plus(rule.offset)}` : `number${plus(rule.offset)}`;
