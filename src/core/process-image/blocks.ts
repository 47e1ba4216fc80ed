import { done, failed, type Result } from '../result';
import { MAPPINGS } from '../profile/cia402-mappings';
import { placed, TELEGRAMS, UNSURE, wordsIn, type TelegramItem } from '../profile/telegrams';
import type { SheetIndex } from '../sheet/index-sheet';
import { ITEM_TYPES, type ImageOrder, type ItemType } from './image';
import type { NamedItem } from './controller';
import { lengthOf, packed } from './pack';

/** A cyclic block of a drive, one way. */
export interface Block {
  readonly id: string;
  readonly name: string;
  readonly direction: 'to-drive' | 'from-drive';
  readonly size: number;
  readonly items: readonly NamedItem[];
  /** How its bytes come where it is at home; absent where nothing says it. */
  readonly order?: ImageOrder;
}

const SIGNED = /SOLL|IST_[AB](?:_|$)|IST_GLATT|XERR|TARPOS/;

/** Speeds and differences have a sign; words of bits and positions that count round have none. */
const typeOf = ({ signal, words }: TelegramItem): ItemType =>
  words === 2 ? (SIGNED.test(signal) ? 'int32' : 'uint32') : SIGNED.test(signal) ? 'int16' : 'uint16';

/** N2 and N4: 0x4000 and 0x40000000 are 100 % (IEC 61800-7-203, from memory); positions are counted in units of their own. */
const fullOf = ({ signal, words }: TelegramItem): number | undefined =>
  /^N(?:SOLL|IST)|_GLATT$/.test(signal) ? (words === 2 ? 0x4000_0000 : 0x4000) : undefined;

const DIRECTIONS = [
  ['to-drive', 'out', 'to the drive'],
  ['from-drive', 'in', 'from the drive'],
] as const;

/** The standard telegrams of PROFIdrive as blocks, both ways. */
export const TELEGRAM_BLOCKS: readonly Block[] = TELEGRAMS.flatMap((telegram) =>
  DIRECTIONS.map(([direction, side, way]): Block => ({
    id: `telegram-${telegram.number}-${side}`,
    name: `telegram ${telegram.number}, ${way}${telegram.isUnsure ? ` (${UNSURE})` : ''}`,
    direction,
    size: 2 * wordsIn(telegram[side]),
    order: 'big',
    items: placed(telegram[side]).map((item) => {
      const full = fullOf(item);
      return {
        name: item.signal,
        what: item.name,
        type: typeOf(item),
        byte: 2 * item.at,
        ...(full === undefined ? {} : { full }),
      };
    }),
  })),
);

/** The mappings of CiA 402 as blocks, both ways; each object behind the one before it. */
export const MAPPING_BLOCKS: readonly Block[] = MAPPINGS.flatMap((mapping) =>
  DIRECTIONS.map(([direction, side, way]): Block => {
    const items = packed(
      mapping[side].map(({ object, name, type }): NamedItem => ({ name: object, what: name, type, byte: 0 })),
    );
    return {
      id: `cia402-${mapping.number}-${side}`,
      name: `CiA 402 mapping ${mapping.number}, ${mapping.what}, ${way}`,
      direction,
      size: lengthOf(items),
      items,
      order: 'little',
    };
  }),
);

/** Blocks that standards lay out. */
export const STANDARD_BLOCKS: readonly Block[] = [...TELEGRAM_BLOCKS, ...MAPPING_BLOCKS];

/** Whether a type of a sheet is one of an item. */
export const isItemType = (type: string): type is ItemType => Object.hasOwn(ITEM_TYPES, type);

/** The process data that a sheet lists, both ways; a way without any has no block. */
export function blocksOfSheet({ sheet, parameters }: SheetIndex): readonly Block[] {
  return DIRECTIONS.flatMap(([direction, side, way]): readonly Block[] => {
    const items = parameters.flatMap(({ place, type, name, number }): readonly NamedItem[] =>
      place.kind === 'process' && place.direction === side && isItemType(type)
        ? [{ name: number, what: name, type, byte: 2 * place.word }]
        : [],
    );
    const words = Math.max(
      sheet.uss?.pzdWords ?? 0,
      ...items.map(({ byte, type }) => Math.ceil((8 * byte + ITEM_TYPES[type]) / 16)),
    );
    return items.length === 0
      ? []
      : [{ id: `sheet-${side}`, name: `process data of ${sheet.name}, ${way}`, direction, size: 2 * words, items }];
  });
}

/** Most items of a list: a block of 64 words is long already. */
const MOST_ITEMS = 64;

/**
 * A block out of a list of a drive's values, one after the other as the drive gathers them: what a scanner list says. `text` has their numbers in the sheet,
 * between commas or blanks; `0` keeps a word free. Why there is none where a number is not in the sheet or has no width of a block.
 */
export function blockOfList(
  { byNumber, sheet }: SheetIndex,
  text: string,
  direction: Block['direction'],
): Result<Block, string> {
  const numbers = text.split(/[\s,;]+/).filter((number) => number !== '');
  if (numbers.length === 0) return failed('the numbers of the values, in their order');
  if (numbers.length > MOST_ITEMS) return failed(`a list has ${MOST_ITEMS} values at most`);
  const items: NamedItem[] = [];
  let byte = 0;
  for (const number of numbers) {
    if (number === '0') {
      byte += 2;
      continue;
    }
    const parameter = byNumber.get(number);
    if (!parameter) return failed(`the sheet has no ${number}`);
    const { type, name } = parameter;
    if (!isItemType(type) || ITEM_TYPES[type] < 16)
      return failed(`${number} ${name} is of type ${type}: no word of a block`);
    const twice = items.filter((item) => item.name === number).length;
    items.push({ name: twice === 0 ? number : `${number} (${twice + 1})`, what: name, type, byte });
    byte += ITEM_TYPES[type] / 8;
  }
  const way = direction === 'to-drive' ? 'to the drive' : 'from the drive';
  return done({
    id: `list-${direction}`,
    name: `a list of ${sheet.name}’s values, ${way}`,
    direction,
    size: byte,
    items,
  });
}
