import { notationsOf } from '../registers/notation';
import { done, failed, type Result } from '../result';
import { addressIn, identifierOf, type ControllerPlace, type NamedItem } from './controller';
import { ITEM_TYPES } from './image';

/** Ways in which controllers write where an item is, each with what it is called. */
export const ADDRESS_FORMS = {
  direct: 'as IEC 61131-3, such as %IW256',
  register: 'as registers, such as 30129',
  tag: 'as members of a tag, such as block.status',
} as const;
export type AddressForm = keyof typeof ADDRESS_FORMS;

const LAST_REGISTER = 0xffff;

type Writer = (place: ControllerPlace, item: NamedItem, block: string) => Result<string, string>;

/**
 * Inputs are registers of table 3, outputs of table 4 (common practice, no source), two bytes each and the first the high one; of a single bit or byte its
 * register is said with the part of it.
 */
const asRegister: Writer = ({ area, start }, item) => {
  const byte = start + item.byte;
  const isHigh = byte % 2 === 0;
  const at = Math.floor(byte / 2);
  const { reference5, reference6 } = notationsOf(area === 'I' ? 'input-register' : 'holding-register', at);
  const register = reference5 ?? reference6;
  if (at > LAST_REGISTER || register === null) return failed(`byte ${byte} lies behind the last register`);
  if (item.type === 'bool') return done(`${register}.${(isHigh ? 8 : 0) + (item.bit ?? 0)}`);
  if (ITEM_TYPES[item.type] === 8) return done(`${register} ${isHigh ? 'high' : 'low'} byte`);
  return isHigh ? done(register) : failed(`byte ${byte} begins within a register`);
};

const WRITERS: Readonly<Record<AddressForm, Writer>> = {
  direct: addressIn,
  register: asRegister,
  tag: (_, { name }, block) => done(`${identifierOf(block)}.${identifierOf(name)}`),
};

/** Where an item of a block is in the controller's memory, as this controller writes it; a sentence where that form cannot say it. */
export const writtenAddress = (
  form: AddressForm,
  place: ControllerPlace,
  item: NamedItem,
  block: string,
): Result<string, string> => WRITERS[form](place, item, block);
