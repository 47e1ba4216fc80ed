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
import { allOf, at, childOf, childrenOf, textsOf, type XmlElement } from './xml';

/** Data types by name (the PROFINET device description, from memory). */
const DATA_TYPES: Readonly<Record<string, { readonly type: ValueType | null; readonly bits: number }>> = {
  Bit: { type: 'bool', bits: 1 },
  Boolean: { type: 'bool', bits: 8 },
  Integer8: { type: 'int8', bits: 8 },
  Integer16: { type: 'int16', bits: 16 },
  Integer32: { type: 'int32', bits: 32 },
  Integer64: { type: 'int64', bits: 64 },
  Unsigned8: { type: 'uint8', bits: 8 },
  Unsigned16: { type: 'uint16', bits: 16 },
  Unsigned32: { type: 'uint32', bits: 32 },
  Unsigned64: { type: 'uint64', bits: 64 },
  Float32: { type: 'float32', bits: 32 },
  Float64: { type: 'float64', bits: 64 },
  N2: { type: 'int16', bits: 16 },
  N4: { type: 'int32', bits: 32 },
  V2: { type: 'uint16', bits: 16 },
  X2: { type: 'int16', bits: 16 },
  X4: { type: 'int32', bits: 32 },
  'Unsigned8+Unsigned8': { type: null, bits: 16 },
  'Float32+Unsigned8': { type: null, bits: 40 },
  'Float32+Status8': { type: null, bits: 40 },
  Date: { type: null, bits: 56 },
  'TimeOfDay with date indication': { type: null, bits: 48 },
  'TimeOfDay without date indication': { type: null, bits: 32 },
  'TimeDifference with date indication': { type: null, bits: 48 },
  'TimeDifference without date indication': { type: null, bits: 32 },
};

class Texts {
  readonly faults = new FaultList();
  readonly #texts: ReadonlyMap<string, string>;

  constructor(root: XmlElement) {
    this.#texts = textsOf(root, 'TextId');
  }

  of(id: string | undefined, line: number): string | null {
    if (id === undefined) return null;
    const text = this.#texts.get(id);
    if (text === undefined) this.faults.add(line, `the text ${id} is not in the file`);
    return text ?? null;
  }
}

/** Reads a GSDML from its root element. Source: PROFINET device description, from memory. */
export function readGsdml(root: XmlElement): Description {
  const texts = new Texts(root);
  const body = childOf(root, 'ProfileBody');
  const device = childOf(body, 'DeviceIdentity');
  const process = childOf(body, 'ApplicationProcess');
  const access = at(process, 'DeviceAccessPointList', 'DeviceAccessPointItem');
  const info = childOf(access, 'ModuleInfo');
  const lists = valueListsOf(process, texts);
  const submodules = [...allOf(process, 'VirtualSubmoduleItem'), ...allOf(process, 'SubmoduleItem')].sort(
    (a, b) => a.line - b.line,
  );
  const nameOf = (element: XmlElement | undefined): string | null => {
    const name = childOf(element, 'Name');
    return texts.of(name?.attributes.TextId, name?.line ?? 1);
  };
  return {
    kind: 'gsdml',
    identity: {
      name:
        nameOf(info) ??
        at(body, 'DeviceFunction', 'Family')?.attributes.ProductFamily ??
        texts.of(childOf(device, 'InfoText')?.attributes.TextId, 1),
      vendor: device?.attributes.VendorID ?? null,
      product: device?.attributes.DeviceID ?? null,
      revision:
        childOf(info, 'SoftwareRelease')?.attributes.Value ??
        childOf(info, 'HardwareRelease')?.attributes.Value ??
        null,
    },
    parameters: submodules
      .flatMap((submodule) =>
        allOf(submodule, 'ParameterRecordDataItem').flatMap((record) => recordOf(record, lists, texts)),
      )
      .slice(0, MOST_PARAMETERS),
    images: submodules.flatMap((submodule) => imagesOf(submodule, nameOf(childOf(submodule, 'ModuleInfo')), texts)),
    faults: texts.faults.list,
  };
}

/** Named values by the id of their list. */
function valueListsOf(process: XmlElement | undefined, texts: Texts): ReadonlyMap<string, readonly Choice[]> {
  return new Map(
    allOf(process, 'ValueItem').map((item) => [
      item.attributes.ID ?? '',
      allOf(item, 'Assign').flatMap(({ attributes, line }) => {
        const text = texts.of(attributes.TextId, line);
        return text !== null && /^-?\d{1,10}$/.test(attributes.Content ?? '')
          ? [{ value: Number(attributes.Content), text }]
          : [];
      }),
    ]),
  );
}

function recordOf(
  record: XmlElement,
  lists: ReadonlyMap<string, readonly Choice[]>,
  texts: Texts,
): readonly DescribedParameter[] {
  const { Index = '' } = record.attributes;
  return childrenOf(record, 'Ref').flatMap((ref) => {
    const {
      ByteOffset = '',
      DataType = '',
      BitLength,
      DefaultValue,
      AllowedValues,
      Changeable,
      TextId,
      ValueItemTarget,
    } = ref.attributes;
    if (!/^\d{1,9}$/.test(Index) || !/^\d{1,9}$/.test(ByteOffset)) {
      texts.faults.add(ref.line, 'a parameter without an index or a byte offset');
      return [];
    }
    const text = DataType === 'VisibleString' ? 'text' : DataType === 'OctetString' ? 'bytes' : null;
    const known = DATA_TYPES[DataType];
    const area = DataType === 'BitArea' ? Number(BitLength ?? 1) : null;
    if (!known && !text && area === null)
      texts.faults.add(ref.line, `the data type “${DataType.slice(0, 40)}” is not known`);
    const type: ValueType | null = text ?? known?.type ?? (area === null ? null : area <= 8 ? 'uint8' : 'uint16');
    const { min, max } = limitsOf(AllowedValues);
    return [
      {
        ...bareParameter(`${Index}:${ByteOffset}`, texts.of(TextId, ref.line) ?? ''),
        type,
        bits: area ?? known?.bits ?? (ref.attributes.Length === undefined ? null : 8 * Number(ref.attributes.Length)),
        min: text ? null : min,
        max: text ? null : max,
        default: text ? null : decimalOf(DefaultValue),
        access: Changeable === 'false' ? ('read' as const) : ('read-write' as const),
        choices: ValueItemTarget === undefined ? [] : (lists.get(ValueItemTarget) ?? []),
      },
    ];
  });
}

const DECIMAL = /^[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d{1,3})?$/i;
const decimalOf = (text: string | undefined): string | null => {
  const bare = text?.trim() ?? '';
  if (/^0x[0-9a-f]{1,16}$/i.test(bare)) return `${BigInt(bare)}`;
  if (!DECIMAL.test(bare)) return null;
  return /^[+-]?\d+$/.test(bare) ? `${BigInt(bare)}` : String(Number(bare));
};

/** `0..1000 2000`: the least and the greatest of all that is allowed. */
function limitsOf(allowed: string | undefined): { readonly min: string | null; readonly max: string | null } {
  const numbers = (allowed ?? '').split(/\.\.|\s+/).flatMap((part) => decimalOf(part) ?? []);
  if (numbers.length === 0) return { min: null, max: null };
  const sorted = [...numbers].sort((a, b) => Number(a) - Number(b));
  return { min: sorted[0] ?? null, max: sorted[sorted.length - 1] ?? null };
}

function imagesOf(submodule: XmlElement, name: string | null, texts: Texts): readonly DescribedImage[] {
  const data = childOf(submodule, 'IOData');
  return (
    [
      ['Input', 'from-drive'],
      ['Output', 'to-drive'],
    ] as const
  ).flatMap(([tag, direction]) => {
    const block = childOf(data, tag);
    if (!block) return [];
    const items: ImageItem[] = [];
    let bit = 0;
    for (const item of childrenOf(block, 'DataItem')) {
      const { DataType = '', Length, TextId } = item.attributes;
      const known = DATA_TYPES[DataType];
      const isText = DataType === 'VisibleString' || DataType === 'OctetString';
      const bits = isText ? 8 * (Number(Length ?? 0) || 0) : (known?.bits ?? 0);
      if (bits === 0) texts.faults.add(item.line, `the data type “${DataType.slice(0, 40)}” is not known`);
      const type: ValueType | null = isText ? (DataType === 'VisibleString' ? 'text' : 'bytes') : (known?.type ?? null);
      items.push({ name: texts.of(TextId, item.line) ?? '', bit, bits, type });
      bit += bits;
    }
    return bit === 0
      ? []
      : [{ id: submodule.attributes.ID ?? '', name: name ?? '', direction, bytes: Math.ceil(bit / 8), items }];
  });
}
