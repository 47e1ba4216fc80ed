import { add, divide, fractionText, multiply, ratio, type Rational } from '../scaling/rational';
import { numberText } from '../tables/numbers';
import type { DescribedParameter } from '../values/described';
import { bitsOfType, type ValueType } from '../values/type';
import {
  bareParameter,
  FaultList,
  MOST_PARAMETERS,
  type DescribedImage,
  type Description,
  type ImageItem,
} from './description';
import { readEntries, type KeywordEntry } from './keyword-entries';

/** Data types by code (the CIP networks library, from memory). */
const DATA_TYPES: Readonly<Record<number, ValueType>> = {
  0xc1: 'bool',
  0xc2: 'int8',
  0xc3: 'int16',
  0xc4: 'int32',
  0xc5: 'int64',
  0xc6: 'uint8',
  0xc7: 'uint16',
  0xc8: 'uint32',
  0xc9: 'uint64',
  0xca: 'float32',
  0xcb: 'float64',
  0xd0: 'text',
  0xd1: 'uint8',
  0xd2: 'uint16',
  0xd3: 'uint32',
  0xd4: 'uint64',
  0xda: 'text',
};
/** Strings of bits: the numbers of their enumeration are bits, not values. */
const BIT_STRINGS = new Set([0xd1, 0xd2, 0xd3, 0xd4]);
/** Bits of a parameter's descriptor. */
const SCALED = 1 << 2;
const READ_ONLY = 1 << 4;
/** Fields of a parameter, by position. */
const FIELD = {
  descriptor: 3,
  type: 4,
  size: 5,
  name: 6,
  unit: 7,
  min: 9,
  max: 10,
  default: 11,
  multiplier: 12,
  divisor: 13,
  base: 14,
  offset: 15,
} as const;
/** Fields of an assembly before its members. */
const MEMBERS_FROM = 6;
/** An assembly may hold assemblies, but not without end. */
const DEEPEST = 6;

/**
 * Reads an EtherNet/IP EDS: parameters with enumerations and scaling, assemblies as images.
 * Engineering value = (raw + offset) × multiplier × base / divisor. Source: from memory of the published format.
 */
export function readEthernetIpEds(text: string): Description {
  const faults = new FaultList();
  const entries = readEntries(text, faults);
  const device = new Map(
    entries
      .filter(({ section }) => section.toLowerCase() === 'device')
      .map((entry) => [entry.keyword.toLowerCase(), entry.fields[0]?.text ?? '']),
  );
  const numbered = (word: string): Map<number, KeywordEntry> =>
    new Map(
      entries.flatMap((entry) => {
        const number = new RegExp(`^${word}(\\d{1,5})$`, 'i').exec(entry.keyword)?.[1];
        return number === undefined ? [] : [[Number(number), entry] as const];
      }),
    );
  const enums = numbered('Enum');
  const parameters = new Map(
    [...numbered('Param')]
      .sort(([a], [b]) => a - b)
      .slice(0, MOST_PARAMETERS)
      .map(([number, entry]) => [number, parameterOf(number, entry, enums.get(number), faults)] as const),
  );
  const [major, minor] = [device.get('majrev'), device.get('minrev')];
  return {
    kind: 'ethernet-ip-eds',
    identity: {
      name: device.get('prodname') || null,
      vendor: device.get('vendcode') || device.get('vendname') || null,
      product: device.get('prodcode') || null,
      revision: major ? `${major}${minor ? `.${minor}` : ''}` : null,
    },
    parameters: [...parameters.values()],
    images: imagesOf(numbered('Assem'), numbered('Connection'), parameters, faults),
    faults: faults.list,
  };
}

function wholeOf(text: string | undefined): bigint | null {
  const bare = (text ?? '').replace(/\s|_/g, '');
  const [, sign, digits] = /^([+-]?)(0x[0-9a-f]{1,16}|\d{1,20})$/i.exec(bare) ?? [];
  return digits === undefined ? null : BigInt(digits) * (sign === '-' ? -1n : 1n);
}

function rationalOf(text: string | undefined): Rational | null {
  const whole = wholeOf(text);
  if (whole !== null) return ratio(whole);
  const [, digits = '', decimals = ''] = /^([+-]?\d{0,30})\.(\d{1,30})$/.exec((text ?? '').trim()) ?? [];
  return decimals === '' ? null : ratio(BigInt(`${digits}${decimals}`), 10n ** BigInt(decimals.length));
}

function parameterOf(
  number: number,
  { fields, line, keyword }: KeywordEntry,
  names: KeywordEntry | undefined,
  faults: FaultList,
): DescribedParameter {
  const field = (at: number): string | undefined => fields[at]?.text;
  const code = Number(wholeOf(field(FIELD.type)) ?? -1);
  const type = DATA_TYPES[code] ?? null;
  if (!type) faults.add(line, `${keyword}: the data type “${(field(FIELD.type) ?? '').slice(0, 20)}” is not known`);
  const descriptor = Number(wholeOf(field(FIELD.descriptor)) ?? 0);
  const factor = (at: number): Rational => {
    const value = rationalOf(field(at));
    return value && value.num !== 0n ? value : ratio(1n);
  };
  const isScaled = (descriptor & SCALED) !== 0;
  const scale = isScaled ? divide(multiply(factor(FIELD.multiplier), factor(FIELD.base)), factor(FIELD.divisor)) : null;
  const offset = isScaled ? (rationalOf(field(FIELD.offset)) ?? ratio(0n)) : ratio(0n);
  const inUnit = (at: number): string | null => {
    const raw = rationalOf(field(at));
    if (!raw) {
      if ((field(at) ?? '') !== '' && type !== 'text')
        faults.add(line, `${keyword}: “${(field(at) ?? '').slice(0, 40)}” is no number`);
      return null;
    }
    return numberText(scale ? multiply(add(raw, offset), scale) : raw);
  };
  const bytes = Number(wholeOf(field(FIELD.size)) ?? 0);
  const pairs = pairsOf(names, faults);
  const isBits = BIT_STRINGS.has(code);
  const isText = type === 'text';
  return {
    ...bareParameter(`param ${number}`, (field(FIELD.name) ?? '').trim()),
    type,
    bits: (type && bitsOfType(type)) ?? (bytes > 0 ? 8 * bytes : null),
    unit: (field(FIELD.unit) ?? '').trim() || null,
    scale: scale ? fractionText(scale) : null,
    min: isText ? null : inUnit(FIELD.min),
    max: isText ? null : inUnit(FIELD.max),
    default: isText ? null : inUnit(FIELD.default),
    access: (descriptor & READ_ONLY) !== 0 ? 'read' : 'read-write',
    choices: isBits ? [] : pairs,
    bitNames: isBits ? pairs.map(({ value, text }) => ({ bit: value, text })) : [],
  };
}

/** `0, "coast", 1, "ramp"`. */
function pairsOf(
  entry: KeywordEntry | undefined,
  faults: FaultList,
): readonly { readonly value: number; readonly text: string }[] {
  if (!entry) return [];
  const pairs: { value: number; text: string }[] = [];
  for (let i = 0; i + 1 < entry.fields.length; i += 2) {
    const value = wholeOf(entry.fields[i]?.text);
    if (value === null)
      faults.add(entry.line, `${entry.keyword}: “${(entry.fields[i]?.text ?? '').slice(0, 40)}” is no number`);
    else pairs.push({ value: Number(value), text: entry.fields[i + 1]?.text ?? '' });
  }
  return pairs;
}

/** Fields of a connection: sizes and formats of what the drive gets and of what it sends. */
const OUT_FORMAT = 4;
const IN_FORMAT = 7;

function imagesOf(
  assemblies: ReadonlyMap<number, KeywordEntry>,
  connections: ReadonlyMap<number, KeywordEntry>,
  parameters: ReadonlyMap<number, DescribedParameter>,
  faults: FaultList,
): readonly DescribedImage[] {
  const assemblyIn = (entry: KeywordEntry, at: number): number =>
    Number(/^Assem(\d+)$/i.exec(entry.fields[at]?.text ?? '')?.[1] ?? -1);
  const sent = new Set([...connections.values()].map((entry) => assemblyIn(entry, OUT_FORMAT)));
  const got = new Set([...connections.values()].map((entry) => assemblyIn(entry, IN_FORMAT)));
  return [...assemblies]
    .sort(([a], [b]) => a - b)
    .flatMap(([number, entry]) => {
      const items: ImageItem[] = [];
      const access = new Set<DescribedParameter['access']>();
      const bits = membersOf(entry, 0);
      const size = Number(wholeOf(entry.fields[2]?.text) ?? 0);
      if (bits === 0 && size === 0) return [];
      if (size > 0 && bits > 8 * size)
        faults.add(entry.line, `${entry.keyword}: its members take ${bits} bits, it has ${size} bytes`);
      const name = entry.fields[0]?.text ?? '';
      const isSent =
        sent.has(number) ||
        (!got.has(number) && !access.has('read') && !/\b(?:in(?:put)?|status|produc\w*|actual)\b/i.test(name));
      return [
        {
          id: `assem ${number}`,
          name,
          direction: isSent ? ('to-drive' as const) : ('from-drive' as const),
          bytes: size || Math.ceil(bits / 8),
          items,
        },
      ];

      /** Adds the members behind what is there; how many bits there are then. */
      function membersOf({ fields, line, keyword }: KeywordEntry, from: number, depth = 0): number {
        let bit = from;
        for (let i = MEMBERS_FROM; i < fields.length && items.length < MOST_PARAMETERS; i += 2) {
          const width = Number(wholeOf(fields[i]?.text) ?? 0);
          const reference = (fields[i + 1]?.text ?? '').trim();
          const [, kind, digits] = /^(Param|Assem)(\d+)$/i.exec(reference) ?? [];
          const parameter = kind?.toLowerCase() === 'param' ? parameters.get(Number(digits)) : undefined;
          const inner = kind?.toLowerCase() === 'assem' ? assemblies.get(Number(digits)) : undefined;
          if (parameter) {
            const bits = width || parameter.bits || 0;
            items.push({ name: parameter.name, bit, bits, type: parameter.type });
            access.add(parameter.access);
            bit += bits;
          } else if (inner && depth < DEEPEST) {
            const end = membersOf(inner, bit, depth + 1);
            bit = width > 0 ? bit + width : end;
          } else {
            if (reference !== '' && kind !== undefined) faults.add(line, `${keyword}: ${reference} is not in the file`);
            bit += width;
          }
        }
        return bit;
      }
    });
}
