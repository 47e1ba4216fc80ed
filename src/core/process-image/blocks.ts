import { placed, TELEGRAMS, wordsIn, type TelegramItem } from '../profile/telegrams';
import type { SheetIndex } from '../sheet/index-sheet';
import { ITEM_TYPES, type ItemType } from './image';
import type { NamedItem } from './controller';

/** A cyclic block of a drive, one way. */
export interface Block {
  readonly id: string;
  readonly name: string;
  readonly direction: 'to-drive' | 'from-drive';
  readonly size: number;
  readonly items: readonly NamedItem[];
}

const SIGNED = /SOLL|IST_[AB]$|XERR/;

/** Speeds and differences have a sign; words of bits and positions that count round have none. */
const typeOf = ({ signal, words }: TelegramItem): ItemType =>
  words === 2 ? (SIGNED.test(signal) ? 'int32' : 'uint32') : SIGNED.test(signal) ? 'int16' : 'uint16';

/** N2 and N4: 0x4000 and 0x40000000 are 100 % (IEC 61800-7-203, from memory). */
const fullOf = ({ signal, words }: TelegramItem): number | undefined =>
  /SOLL|IST_[AB]$/.test(signal) ? (words === 2 ? 0x4000_0000 : 0x4000) : undefined;

const DIRECTIONS = [
  ['to-drive', 'out', 'to the drive'],
  ['from-drive', 'in', 'from the drive'],
] as const;

/** The standard telegrams of PROFIdrive as blocks, both ways. */
export const TELEGRAM_BLOCKS: readonly Block[] = TELEGRAMS.flatMap((telegram) =>
  DIRECTIONS.map(([direction, side, way]): Block => ({
    id: `telegram-${telegram.number}-${side}`,
    name: `telegram ${telegram.number}, ${way}`,
    direction,
    size: 2 * wordsIn(telegram[side]),
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

const isItemType = (type: string): type is ItemType => Object.hasOwn(ITEM_TYPES, type);

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
