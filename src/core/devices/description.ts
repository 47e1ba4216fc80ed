import type { DescribedParameter } from '../values/described';
import type { ValueType } from '../values/type';

/** Kinds of device description files that are read. */
export const DESCRIPTION_KINDS = ['canopen-eds', 'ethernet-ip-eds', 'iodd', 'gsdml'] as const;
export type DescriptionKind = (typeof DESCRIPTION_KINDS)[number];

export const KIND_NAMES: Readonly<Record<DescriptionKind, string>> = {
  'canopen-eds': 'CANopen EDS',
  'ethernet-ip-eds': 'EtherNet/IP EDS',
  iodd: 'IODD',
  gsdml: 'GSDML',
};

/** Who the file says that the device is, as printed; null where it says nothing. Vendor, product and revision are codes, as a drive tells them. */
export interface DescribedIdentity {
  readonly name: string | null;
  readonly vendor: string | null;
  readonly product: string | null;
  readonly revision: string | null;
}

/** One item of a cyclic block; `bit` counts from the start of the first byte, the lowest bit of a byte first. */
export interface ImageItem {
  readonly name: string;
  readonly bit: number;
  readonly bits: number;
  readonly type: ValueType | null;
}

export interface DescribedImage {
  readonly id: string;
  readonly name: string;
  readonly direction: 'to-drive' | 'from-drive';
  readonly bytes: number;
  readonly items: readonly ImageItem[];
}

/** What is wrong with a file, at a line counted from 1. */
export interface DescriptionFault {
  readonly line: number;
  readonly text: string;
}

export interface Description {
  /** Null where the file is none of the kinds. */
  readonly kind: DescriptionKind | null;
  readonly identity: DescribedIdentity;
  readonly parameters: readonly DescribedParameter[];
  readonly images: readonly DescribedImage[];
  readonly faults: readonly DescriptionFault[];
}

export const NOBODY: DescribedIdentity = { name: null, vendor: null, product: null, revision: null };

/** A parameter of which nothing is known but its key and name. */
export const bareParameter = (key: string, name: string): DescribedParameter => ({
  key,
  address: null,
  table: null,
  name,
  type: null,
  bits: null,
  unit: null,
  scale: null,
  min: null,
  max: null,
  default: null,
  access: null,
  when: null,
  choices: [],
  bitNames: [],
});

/** The most parameters, items and faults of one file: no device has more, a hostile file might. */
export const MOST_PARAMETERS = 20_000;
export const MOST_FAULTS = 200;

/** Collects faults up to a bound, and says so at the bound. */
export class FaultList {
  readonly list: DescriptionFault[] = [];

  add(line: number, text: string): void {
    if (this.list.length < MOST_FAULTS) this.list.push({ line, text });
    else if (this.list.length === MOST_FAULTS) this.list.push({ line, text: 'more faults than are listed' });
  }
}
