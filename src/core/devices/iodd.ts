import { add, fractionText, multiply, parseRational, ratio, type Rational } from '../scaling/rational';
import { numberText } from '../tables/numbers';
import type { Choice, DescribedParameter } from '../values/described';
import type { ValueType } from '../values/type';
import {
  bareParameter,
  FaultList,
  MOST_PARAMETERS,
  type DescribedImage,
  type Description,
  type ImageItem,
} from './description';
import { UNIT_CODES } from './unit-codes';
import { allOf, at, childOf, childrenOf, textsOf, type XmlElement } from './xml';

/** Variables of the standard that a file names without describing them (IO-Link interface and system specification, from memory). */
const STANDARD: Readonly<
  Record<
    string,
    {
      readonly index: number;
      readonly name: string;
      readonly type: ValueType;
      readonly bits: number;
      readonly access: DescribedParameter['access'];
    }
  >
> = {
  V_SystemCommand: { index: 2, name: 'System command', type: 'uint8', bits: 8, access: 'write' },
  V_VendorName: { index: 16, name: 'Vendor name', type: 'text', bits: 512, access: 'read' },
  V_VendorText: { index: 17, name: 'Vendor text', type: 'text', bits: 512, access: 'read' },
  V_ProductName: { index: 18, name: 'Product name', type: 'text', bits: 512, access: 'read' },
  V_ProductID: { index: 19, name: 'Product ID', type: 'text', bits: 512, access: 'read' },
  V_ProductText: { index: 20, name: 'Product text', type: 'text', bits: 512, access: 'read' },
  V_SerialNumber: { index: 21, name: 'Serial number', type: 'text', bits: 128, access: 'read' },
  V_HardwareRevision: { index: 22, name: 'Hardware revision', type: 'text', bits: 512, access: 'read' },
  V_FirmwareRevision: { index: 23, name: 'Firmware revision', type: 'text', bits: 512, access: 'read' },
  V_ApplicationSpecificTag: {
    index: 24,
    name: 'Application specific tag',
    type: 'text',
    bits: 256,
    access: 'read-write',
  },
  V_ErrorCount: { index: 32, name: 'Error count', type: 'uint16', bits: 16, access: 'read' },
  V_DeviceStatus: { index: 36, name: 'Device status', type: 'uint8', bits: 8, access: 'read' },
};
const ACCESS: Readonly<Record<string, DescribedParameter['access']>> = { ro: 'read', wo: 'write', rw: 'read-write' };

/** A datatype as it stands, a reference already followed. */
interface Datatype {
  readonly element: XmlElement;
  readonly kind: string;
  readonly bits: number | null;
  readonly type: ValueType | null;
}

/** How a value is shown: from the user interface part. */
interface Shown {
  readonly gradient: Rational | null;
  readonly offset: Rational;
  readonly unit: string | null;
}
const AS_IT_IS: Shown = { gradient: null, offset: ratio(0n), unit: null };

class Reader {
  readonly faults = new FaultList();
  readonly #texts: ReadonlyMap<string, string>;
  readonly #types: ReadonlyMap<string, XmlElement>;
  readonly shown: ReadonlyMap<string, Shown>;

  constructor(root: XmlElement) {
    this.#texts = textsOf(root, 'id');
    const collection = allOf(root, 'DatatypeCollection')[0];
    this.#types = new Map(childrenOf(collection, 'Datatype').map((type) => [type.attributes.id ?? '', type]));
    const refs = ['VariableRef', 'RecordItemRef'].flatMap((name) => allOf(root, name));
    this.shown = new Map(
      refs.map(
        (ref) => [`${ref.attributes.variableId ?? ''}:${ref.attributes.subindex ?? '0'}`, shownBy(ref)] as const,
      ),
    );
  }

  textOf(element: XmlElement | undefined): string | null {
    const id = childOf(element, 'Name')?.attributes.textId;
    if (id === undefined) return null;
    const text = this.#texts.get(id);
    if (text === undefined) this.faults.add(element?.line ?? 1, `the text ${id} is not in the file`);
    return text ?? null;
  }

  text(id: string | undefined): string | null {
    return id === undefined ? null : (this.#texts.get(id) ?? null);
  }

  /** The datatype inside an element: simple, or by its reference. */
  datatypeIn(element: XmlElement | undefined): Datatype | null {
    const own = childOf(element, 'Datatype') ?? childOf(element, 'SimpleDatatype');
    const reference = childOf(element, 'DatatypeRef')?.attributes.datatypeId;
    const found = own ?? (reference === undefined ? undefined : this.#types.get(reference));
    if (!found) {
      this.faults.add(
        element?.line ?? 1,
        reference === undefined ? 'no datatype stands here' : `the datatype ${reference} is not in the file`,
      );
      return null;
    }
    const kind = found.attributes.type ?? '';
    const length = Number(found.attributes.bitLength ?? 'NaN');
    const octets = Number(found.attributes.fixedLength ?? 'NaN');
    const bits =
      kind === 'BooleanT'
        ? 1
        : kind === 'Float32T'
          ? 32
          : kind === 'TimeT' || kind === 'TimeSpanT'
            ? 64
            : Number.isFinite(length)
              ? length
              : Number.isFinite(octets)
                ? 8 * octets
                : null;
    return { element: found, kind, bits, type: typeOf(kind, bits) };
  }

  parameter(
    key: string,
    name: string,
    datatype: Datatype,
    access: DescribedParameter['access'],
    byDefault: string | undefined,
    shown: Shown,
  ): DescribedParameter {
    const inUnit = (text: string | undefined): string | null => {
      if (text === undefined || text === '' || datatype.type === 'text' || datatype.type === 'bytes') return null;
      const raw = rawOf(text);
      if (!raw) {
        this.faults.add(datatype.element.line, `“${text.slice(0, 40)}” of ${key} is no number`);
        return null;
      }
      return numberText(shown.gradient ? add(multiply(raw, shown.gradient), shown.offset) : raw);
    };
    const ranges = childrenOf(datatype.element, 'ValueRange');
    return {
      ...bareParameter(key, name),
      type: datatype.type,
      bits: datatype.bits,
      unit: shown.unit,
      scale: shown.gradient ? fractionText(shown.gradient) : null,
      min: inUnit(ranges[0]?.attributes.lowerValue),
      max: inUnit(ranges[ranges.length - 1]?.attributes.upperValue),
      default: inUnit(byDefault),
      access,
      choices: this.#choicesOf(datatype.element),
    };
  }

  #choicesOf(datatype: XmlElement): readonly Choice[] {
    return childrenOf(datatype, 'SingleValue').flatMap((single) => {
      const raw = rawOf(single.attributes.value ?? '');
      const text = this.textOf(single);
      return raw && raw.den === 1n && text !== null ? [{ value: Number(raw.num), text }] : [];
    });
  }
}

const rawOf = (text: string): Rational | null => {
  if (text === 'true' || text === 'false') return ratio(text === 'true' ? 1n : 0n);
  if (/^0x[0-9a-f]{1,16}$/i.test(text)) return ratio(BigInt(text));
  const parsed = parseRational(text);
  return parsed.ok ? parsed.value : null;
};

function shownBy({ attributes }: XmlElement): Shown {
  const gradient = rawOf(attributes.gradient ?? '');
  return {
    gradient: gradient && gradient.num !== 0n ? gradient : null,
    offset: rawOf(attributes.offset ?? '') ?? ratio(0n),
    unit: UNIT_CODES[Number(attributes.unitCode)] ?? null,
  };
}

/** The smallest usual type that holds so many bits. */
function typeOf(kind: string, bits: number | null): ValueType | null {
  const size = [8, 16, 32, 64].find((usual) => (bits ?? 99) <= usual) as 8 | 16 | 32 | 64 | undefined;
  switch (kind) {
    case 'BooleanT':
      return 'bool';
    case 'UIntegerT':
      return size ? `uint${size}` : null;
    case 'IntegerT':
      return size ? `int${size}` : null;
    case 'Float32T':
      return 'float32';
    case 'StringT':
      return 'text';
    case 'OctetStringT':
      return 'bytes';
    default:
      return null;
  }
}

/** Reads an IODD from its root element. Source: IO-Link device description 1.1, from memory. */
export function readIodd(root: XmlElement): Description {
  const reader = new Reader(root);
  const device = at(root, 'ProfileBody', 'DeviceIdentity');
  const functions = at(root, 'ProfileBody', 'DeviceFunction');
  const variant = at(device, 'DeviceVariantCollection', 'DeviceVariant');
  return {
    kind: 'iodd',
    identity: {
      name:
        reader.text(childOf(device, 'DeviceName')?.attributes.textId) ??
        reader.textOf(variant) ??
        variant?.attributes.productId ??
        null,
      vendor: device?.attributes.vendorId ?? null,
      product: device?.attributes.deviceId ?? null,
      revision: at(root, 'DocumentInfo')?.attributes.version ?? null,
    },
    parameters: parametersOf(childOf(functions, 'VariableCollection'), reader),
    images: imagesOf(childOf(functions, 'ProcessDataCollection'), reader),
    faults: reader.faults.list,
  };
}

function parametersOf(collection: XmlElement | undefined, reader: Reader): readonly DescribedParameter[] {
  const parameters: DescribedParameter[] = [];
  for (const variable of collection?.children ?? []) {
    if (parameters.length >= MOST_PARAMETERS) break;
    const { id = '' } = variable.attributes;
    const standard = variable.name === 'StdVariableRef' ? STANDARD[id] : undefined;
    if (standard)
      parameters.push({
        ...bareParameter(`${standard.index}:0`, standard.name),
        type: standard.type,
        bits: standard.bits,
        access: standard.access,
      });
    if (variable.name === 'Variable') parameters.push(...variableOf(variable, reader));
  }
  return parameters;
}

function variableOf(variable: XmlElement, reader: Reader): readonly DescribedParameter[] {
  const { id = '', index = '', accessRights, defaultValue } = variable.attributes;
  if (!/^\d{1,5}$/.test(index)) {
    reader.faults.add(variable.line, `the variable ${id} has no index`);
    return [];
  }
  const datatype = reader.datatypeIn(variable);
  if (!datatype) return [];
  const name = reader.textOf(variable) ?? id;
  const access = ACCESS[accessRights ?? ''] ?? null;
  const shown = (sub: number): Shown => reader.shown.get(`${id}:${sub}`) ?? AS_IT_IS;
  const info = new Map(
    childrenOf(variable, 'RecordItemInfo').map(
      ({ attributes }) => [Number(attributes.subindex), attributes.defaultValue] as const,
    ),
  );
  if (datatype.kind === 'RecordT')
    return childrenOf(datatype.element, 'RecordItem').flatMap((item) => {
      const sub = Number(item.attributes.subindex);
      const inner = reader.datatypeIn(item);
      const own = ACCESS[item.attributes.accessRightRestriction ?? ''] ?? access;
      return inner
        ? [
            reader.parameter(
              `${index}:${sub}`,
              reader.textOf(item) ?? `${name} ${sub}`,
              inner,
              own,
              info.get(sub),
              shown(sub),
            ),
          ]
        : [];
    });
  if (datatype.kind === 'ArrayT') {
    const inner = reader.datatypeIn(datatype.element);
    const count = Math.min(255, Number(datatype.element.attributes.count ?? 0) || 0);
    if (!inner) return [];
    return Array.from({ length: count }, (_, i) =>
      reader.parameter(`${index}:${i + 1}`, `${name} ${i + 1}`, inner, access, info.get(i + 1), shown(i + 1)),
    );
  }
  return [reader.parameter(`${index}:0`, name, datatype, access, defaultValue, shown(0))];
}

function imagesOf(collection: XmlElement | undefined, reader: Reader): readonly DescribedImage[] {
  return childrenOf(collection, 'ProcessData').flatMap((data) =>
    (
      [
        ['ProcessDataIn', 'from-drive'],
        ['ProcessDataOut', 'to-drive'],
      ] as const
    ).flatMap(([tag, direction]) =>
      childrenOf(data, tag).flatMap((block) => {
        const datatype = reader.datatypeIn(block);
        const bits = Number(block.attributes.bitLength ?? datatype?.bits ?? 0) || (datatype?.bits ?? 0);
        if (!datatype || bits <= 0) return [];
        const bytes = Math.ceil(bits / 8);
        const name = reader.textOf(block) ?? block.attributes.id ?? '';
        return [
          { id: block.attributes.id ?? tag, name, direction, bytes, items: itemsOf(datatype, name, bytes, reader) },
        ];
      }),
    ),
  );
}

/**
 * Where an item stands whose lowest bit is so many bits above the lowest of the whole; the highest byte goes first on the wire.
 */
const bitOnWire = (offset: number, bits: number, bytes: number): number =>
  8 * (bytes - 1 - Math.floor((offset + bits - 1) / 8)) + (offset % 8);

function itemsOf(datatype: Datatype, name: string, bytes: number, reader: Reader): readonly ImageItem[] {
  if (datatype.kind === 'RecordT')
    return childrenOf(datatype.element, 'RecordItem').flatMap((item) => {
      const inner = reader.datatypeIn(item);
      const bits = inner?.bits ?? 0;
      const offset = Number(item.attributes.bitOffset ?? 0);
      if (!inner || bits <= 0 || offset + bits > 8 * bytes) {
        reader.faults.add(item.line, `an item of ${name} lies outside its ${bytes} bytes`);
        return [];
      }
      return [{ name: reader.textOf(item) ?? '', bit: bitOnWire(offset, bits, bytes), bits, type: inner.type }];
    });
  if (datatype.kind === 'ArrayT') {
    const inner = reader.datatypeIn(datatype.element);
    const count = Math.min(256, Number(datatype.element.attributes.count ?? 0) || 0);
    const bits = inner?.bits ?? 0;
    if (!inner || bits <= 0) return [];
    // The first element of an array stands highest.
    return Array.from({ length: count }, (_, i) => ({
      name: `${name} ${i + 1}`,
      bit: bitOnWire((count - 1 - i) * bits, bits, bytes),
      bits,
      type: inner.type,
    }));
  }
  return datatype.bits === null
    ? []
    : [{ name, bit: bitOnWire(0, datatype.bits, bytes), bits: datatype.bits, type: datatype.type }];
}
