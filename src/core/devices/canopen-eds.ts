import type { DescribedParameter } from '../values/described';
import { bitsOfType, rangeOfType, type ValueType } from '../values/type';
import {
  bareParameter,
  MOST_PARAMETERS,
  type DescribedImage,
  type Description,
  FaultList,
  type ImageItem,
} from './description';
import { readSections, type Section } from './sections';

/** Data types by code: a kind that the bench knows, or only a size (CiA 306 and CiA 301, from memory). */
const DATA_TYPES: Readonly<Record<number, { readonly type: ValueType | null; readonly bits: number | null }>> = {
  0x01: { type: 'bool', bits: 1 },
  0x02: { type: 'int8', bits: 8 },
  0x03: { type: 'int16', bits: 16 },
  0x04: { type: 'int32', bits: 32 },
  0x05: { type: 'uint8', bits: 8 },
  0x06: { type: 'uint16', bits: 16 },
  0x07: { type: 'uint32', bits: 32 },
  0x08: { type: 'float32', bits: 32 },
  0x09: { type: 'text', bits: null },
  0x0a: { type: 'bytes', bits: null },
  0x0b: { type: 'text', bits: null },
  0x0c: { type: null, bits: 48 },
  0x0d: { type: null, bits: 48 },
  0x0f: { type: 'bytes', bits: null },
  0x10: { type: null, bits: 24 },
  0x11: { type: 'float64', bits: 64 },
  0x12: { type: null, bits: 40 },
  0x13: { type: null, bits: 48 },
  0x14: { type: null, bits: 56 },
  0x15: { type: 'int64', bits: 64 },
  0x16: { type: null, bits: 24 },
  0x18: { type: null, bits: 40 },
  0x19: { type: null, bits: 48 },
  0x1a: { type: null, bits: 56 },
  0x1b: { type: 'uint64', bits: 64 },
};
const ACCESS: Readonly<Record<string, DescribedParameter['access']>> = {
  ro: 'read',
  const: 'read',
  wo: 'write',
  rw: 'read-write',
  rwr: 'read-write',
  rww: 'read-write',
};
const VAR = 7;
const GROUPED = new Set([8, 9]);
/** Definitions of types, which hold no value. */
const DEFINITIONS = new Set([5, 6]);

const hex = (value: number, digits: number): string => value.toString(16).toUpperCase().padStart(digits, '0');
const isMapping = (index: number): boolean =>
  (index >= 0x1600 && index <= 0x17ff) || (index >= 0x1a00 && index <= 0x1bff);

/** A number of the file: decimal, 0x, octal with a leading 0; null where it depends on the node or is none. */
export function numberOf(text: string): bigint | null {
  const bare = text.replace(/\s/g, '');
  const [, sign = '', digits = ''] = /^([+-]?)(0x[0-9a-f]+|\d+)$/i.exec(bare) ?? [];
  if (digits === '' || digits.length > 40) return null;
  const isOctal = /^0[0-7]+$/.test(digits);
  const value = BigInt(isOctal ? `0o${digits.slice(1)}` : digits);
  return sign === '-' ? -value : value;
}

/** A limit or a default as a decimal; a hex pattern of a signed type is its negative number. */
function valueText(text: string | undefined, type: ValueType | null): string | null {
  if (text === undefined || text === '' || type === 'text' || type === 'bytes') return null;
  if (type === 'float32' || type === 'float64')
    return /^[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d{1,3})?$/i.test(text) ? String(Number(text)) : null;
  const value = numberOf(text);
  const range = type && rangeOfType(type);
  if (value === null || !range) return value === null ? null : `${value}`;
  const isPattern = type.startsWith('int') && value > range.max && /^0x/i.test(text);
  return `${isPattern ? BigInt.asIntN(bitsOfType(type) ?? 64, value) : value}`;
}

/**
 * Reads a CANopen EDS. Sub-index 0 of arrays and records and the mapping objects give no parameters; the default mappings give the images.
 * Source: CiA 306, from memory.
 */
export function readCanopenEds(text: string): Description {
  const faults = new FaultList();
  const sections = readSections(text, faults);
  const info = sections.get('deviceinfo');
  const entry = (section: Section | undefined, key: string): string | undefined => {
    const value = section?.entries.get(key)?.value;
    return value === '' ? undefined : value;
  };
  const objects = new Map<number, Section>();
  const subs = new Map<number, Map<number, Section>>();
  for (const [key, section] of sections) {
    const [, index, sub] = /^([0-9a-f]{4})(?:sub([0-9a-f]{1,2}))?$/.exec(key) ?? [];
    if (index === undefined) continue;
    const at = parseInt(index, 16);
    if (sub === undefined) objects.set(at, section);
    else subs.set(at, (subs.get(at) ?? new Map<number, Section>()).set(parseInt(sub, 16), section));
  }
  for (const at of subs.keys())
    if (!objects.has(at))
      faults.add(
        [...(subs.get(at)?.values() ?? [])][0]?.line ?? 1,
        `object ${hex(at, 4)} has sub-indices and no section of its own`,
      );
  namedButMissing(sections, objects, faults);

  const parameters: DescribedParameter[] = [];
  const byKey = new Map<string, DescribedParameter>();
  const take = (index: number, sub: number, section: Section, name: string, byDefault?: string): void => {
    if (parameters.length >= MOST_PARAMETERS) return;
    const own = (key: string): string | undefined => entry(section, key);
    const code = numberOf(own('datatype') ?? '');
    const kind = code === null ? undefined : DATA_TYPES[Number(code)];
    if (!kind)
      faults.add(
        section.line,
        `[${section.name}] has ${own('datatype') === undefined ? 'no data type' : `the unknown data type ${own('datatype') ?? ''}`}`,
      );
    const accessText = own('accesstype')?.toLowerCase();
    if (accessText !== undefined && !(accessText in ACCESS))
      faults.add(section.line, `[${section.name}] has the unknown access “${accessText.slice(0, 20)}”`);
    const type = kind?.type ?? null;
    const said = byDefault ?? own('defaultvalue');
    const limits = { min: own('lowlimit'), max: own('highlimit') };
    for (const [what, value] of Object.entries({ default: said, ...limits }))
      if (
        value !== undefined &&
        type !== 'text' &&
        type !== 'bytes' &&
        valueText(value, type) === null &&
        !/\$nodeid/i.test(value)
      )
        faults.add(section.line, `[${section.name}]: the ${what} “${value.slice(0, 40)}” is no number`);
    const parameter: DescribedParameter = {
      ...bareParameter(`0x${hex(index, 4)}:${hex(sub, 2)}`, name),
      type,
      bits: kind?.bits ?? null,
      min: valueText(limits.min, type),
      max: valueText(limits.max, type),
      default: valueText(said, type),
      access: (accessText === undefined ? null : ACCESS[accessText]) ?? null,
    };
    byKey.set(parameter.key, parameter);
    if (!isMapping(index)) parameters.push(parameter);
  };
  for (const [index, section] of [...objects].sort(([a], [b]) => a - b)) {
    const type = Number(numberOf(entry(section, 'objecttype') ?? '') ?? VAR);
    const name = entry(section, 'parametername') ?? '';
    if (DEFINITIONS.has(type)) continue;
    const own = subs.get(index);
    const compact = Number(numberOf(entry(section, 'compactsubobj') ?? '') ?? 0);
    if (compact > 0) {
      const names = sections.get(`${hex(index, 4).toLowerCase()}name`);
      const values = sections.get(`${hex(index, 4).toLowerCase()}value`);
      for (let sub = 1; sub <= Math.min(compact, 254); sub++)
        take(index, sub, section, entry(names, `${sub}`) ?? `${name}${sub}`, entry(values, `${sub}`));
      continue;
    }
    if (!GROUPED.has(type) && !own) {
      take(index, 0, section, name);
      continue;
    }
    if (!own) faults.add(section.line, `[${section.name}] is an array or record without sub-indices`);
    for (const [sub, part] of [...(own ?? [])].sort(([a], [b]) => a - b))
      if (sub !== 0) take(index, sub, part, entry(part, 'parametername') ?? '');
  }
  return {
    kind: 'canopen-eds',
    identity: {
      name: entry(info, 'productname') ?? null,
      vendor: entry(info, 'vendornumber') ?? entry(info, 'vendorname') ?? null,
      product: entry(info, 'productnumber') ?? null,
      revision: entry(info, 'revisionnumber') ?? null,
    },
    parameters,
    images: imagesOf(objects, subs, byKey, faults),
    faults: faults.list,
  };
}

/** Objects that the lists of the file name and that no section describes. */
function namedButMissing(
  sections: ReadonlyMap<string, Section>,
  objects: ReadonlyMap<number, Section>,
  faults: FaultList,
): void {
  for (const list of ['mandatoryobjects', 'optionalobjects', 'manufacturerobjects'])
    for (const [key, { value, line }] of sections.get(list)?.entries ?? []) {
      const index = /^\d+$/.test(key) ? numberOf(value) : null;
      if (index !== null && !objects.has(Number(index)))
        faults.add(line, `object ${value} is listed and has no section`);
    }
}

function imagesOf(
  objects: ReadonlyMap<number, Section>,
  subs: ReadonlyMap<number, ReadonlyMap<number, Section>>,
  byKey: ReadonlyMap<string, DescribedParameter>,
  faults: FaultList,
): readonly DescribedImage[] {
  return [...objects]
    .sort(([a], [b]) => a - b)
    .flatMap(([index, section]) => {
      const own = subs.get(index);
      if (!isMapping(index) || !own) return [];
      const value = (sub: number): bigint => numberOf(own.get(sub)?.entries.get('defaultvalue')?.value ?? '') ?? 0n;
      const mapped = [...own.keys()].filter((sub) => sub > 0).sort((a, b) => a - b);
      const count = own.has(0) && own.get(0)?.entries.has('defaultvalue') ? Number(value(0)) : mapped.length;
      const items: ImageItem[] = [];
      let bit = 0;
      for (const sub of mapped.slice(0, Math.max(0, count))) {
        const entry = value(sub);
        if (entry === 0n) continue;
        const [object, element, bits] = [Number(entry >> 16n), Number((entry >> 8n) & 0xffn), Number(entry & 0xffn)];
        const parameter = byKey.get(`0x${hex(object, 4)}:${hex(element, 2)}`);
        // Indices below 1000h are types: they fill the block and carry nothing.
        if (parameter) items.push({ name: parameter.name, bit, bits, type: parameter.type });
        else if (object >= 0x1000)
          faults.add(
            own.get(sub)?.line ?? section.line,
            `[${section.name}] maps ${hex(object, 4)}:${hex(element, 2)}, which the file does not describe`,
          );
        bit += bits;
      }
      if (bit === 0) return [];
      return [
        {
          id: `0x${hex(index, 4)}`,
          name: section.entries.get('parametername')?.value ?? '',
          direction: index < 0x1a00 ? ('to-drive' as const) : ('from-drive' as const),
          bytes: Math.ceil(bit / 8),
          items,
        },
      ];
    });
}
