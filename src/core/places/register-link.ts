import type { ModbusFraming } from '../modbus/framing';
import type { ModbusMessage } from '../modbus/message';
import { learnedFrom, writtenBy, type TableRange } from '../modbus/touched';
import type { ModbusTable } from '../registers/tables';
import { planReads } from '../registers/plan-reads';
import { registerWay, type SheetIndex } from '../sheet/index-sheet';
import { registerCell } from '../sheet/place';
import { wordsOfPattern } from '../values/pattern';
import { wordsOfType } from '../values/type';
import { isWide } from '../values/wide';
import { alsoByOwn, byOwn, SAYS_NO_MEMORY, type PlaceLink, type Told } from './place-link';

/** Functions that read a table, and the most that one read brings (Modbus Application Protocol V1.1b3, section 6). */
export const TABLE_READS: Readonly<Record<ModbusTable, { readonly fc: number; readonly most: number }>> = {
  'holding-register': { fc: 3, most: 125 },
  'input-register': { fc: 4, most: 125 },
  coil: { fc: 1, most: 2000 },
  'discrete-input': { fc: 2, most: 2000 },
};

/** What a request or an exchange touched, as cells. */
export const cellsTold = (ranges: readonly TableRange[]): Told =>
  ranges.flatMap(({ table, first, words }) => words.map((word, i) => [registerCell(first + i, table), word] as const));

/** Places that are Modbus registers, coils and inputs. */
export function registerLink(index: SheetIndex, framing: ModbusFraming): PlaceLink {
  const encode = (message: ModbusMessage): readonly Uint8Array[] => {
    const built = framing.encode(message, 'request');
    return built.ok ? [built.value] : [];
  };
  const writeWords: PlaceLink['writeWords'] = (unit, parameter, values) => {
    const { table, address } = registerWay(parameter) ?? {};
    const quantity = values.length;
    if (address === undefined || quantity !== wordsOfType(parameter.type, parameter.size)) return null;
    if (table === 'coil') return encode({ unit, fc: 5, address, coils: [values[0] === 0 ? 0 : 1] })[0] ?? null;
    if (table !== 'holding-register') return null;
    // All words in one request: a drive that took some of them only would hold another value.
    const message: ModbusMessage =
      quantity === 1 ? { unit, fc: 6, address, values } : { unit, fc: 16, address, quantity, values };
    return encode(message)[0] ?? null;
  };
  return {
    write: (unit, parameter, pattern, known) => {
      const count = wordsOfType(parameter.type, parameter.size);
      return isWide(parameter.type)
        ? null
        : writeWords(unit, parameter, wordsOfPattern(pattern, count, parameter.order), known);
    },
    writeWords,
    ...SAYS_NO_MEMORY,
    read: (unit, places) =>
      (Object.keys(TABLE_READS) as ModbusTable[]).flatMap((table) => {
        const wanted = places.flatMap((parameter) => {
          const place = registerWay(parameter);
          if (place?.table !== table) return [];
          return Array.from({ length: wordsOfType(parameter.type, parameter.size) }, (_, i) => place.address + i);
        });
        const { fc, most } = TABLE_READS[table];
        return planReads(wanted, (address) => index.byCell.has(registerCell(address, table)), { most }).flatMap(
          ({ address, quantity }) => encode({ unit, fc, address, quantity }),
        );
      }),
    writes: (request) => {
      const { message } = framing.read(request, 'request');
      return message !== null && writtenBy(message) !== null;
    },
    written: (request) => {
      const { message } = framing.read(request, 'request');
      const writes = message && writtenBy(message);
      return writes ? byOwn(index, cellsTold([writes])) : [];
    },
    learned: (request, reply) => {
      const [asked, said] = [framing.read(request, 'request').message, framing.read(reply, 'response').message];
      return asked && said ? alsoByOwn(index, cellsTold(learnedFrom(asked, said))) : [];
    },
    known: (told) => alsoByOwn(index, told),
  };
}
