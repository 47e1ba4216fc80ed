import * as v from 'valibot';
import { bytesToHex } from '../core/bytes/hex';
import {
  buildImage,
  IMAGE_ORDERS,
  ITEM_TYPES,
  readImage,
  type ImageOrder,
  type ItemType,
} from '../core/process-image/image';
import { bytesOf, Id, read } from './input';
import { BadLine, type Verb } from './protocol';

const TYPES = Object.keys(ITEM_TYPES) as [ItemType, ...ItemType[]];
const ORDERS = Object.keys(IMAGE_ORDERS) as [ImageOrder, ...ImageOrder[]];
/** Larger blocks go round in no cycle. */
const MOST_BYTES = 65_535;

const Item = v.strictObject({
  name: v.pipe(v.string(), v.minLength(1)),
  type: v.picklist(TYPES),
  byte: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(MOST_BYTES)),
  bit: v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(7))),
});

export const IMAGE_VERB: Verb = {
  help: `a cyclic block by its items, from bytes to values or back; types: ${TYPES.join(', ')}; orders: ${ORDERS.join(', ')}`,
  example:
    '{"items":[{"name":"status","type":"uint16","byte":0},{"name":"speed","type":"int16","byte":2}],"size":4,"order":"big","hex":"0637 fe0c"}',
  run: (input) => {
    const { items, size, order, hex, values } = read(
      {
        ...Id,
        items: v.pipe(v.array(Item), v.maxLength(10_000)),
        size: v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(MOST_BYTES)),
        order: v.optional(v.picklist(ORDERS), 'big'),
        hex: v.optional(v.string()),
        values: v.optional(v.record(v.string(), v.union([v.string(), v.number(), v.boolean()]))),
      },
      input,
    );
    const names = new Set(items.map(({ name }) => name));
    if (names.size < items.length) throw new BadLine('bad-field', 'items: two of them have the same name');
    const odd = items.find(({ type, bit }) => bit !== undefined && bit !== 0 && type !== 'bool');
    if (odd) throw new BadLine('bad-field', `items: ${odd.name} is no bool, and begins with a byte`);
    if (hex !== undefined && values === undefined) {
      const told = readImage(items, size, order, bytesOf(hex));
      return { values: Object.fromEntries(told.values), faults: told.faults };
    }
    if (values === undefined || hex !== undefined) throw new BadLine('bad-field', 'one of values and hex is needed');
    const unknown = Object.keys(values).find((name) => !names.has(name));
    if (unknown !== undefined) throw new BadLine('bad-field', `values: there is no item ${unknown}`);
    const texts = Object.entries(values).map(([name, value]): readonly [string, string] => [
      name,
      typeof value === 'boolean' ? (value ? '1' : '0') : String(value),
    ]);
    const made = buildImage(items, size, order, new Map(texts));
    return { hex: bytesToHex(made.bytes), faults: made.faults };
  },
};
