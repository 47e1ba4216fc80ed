import { readCanopenEds } from './canopen-eds';
import { KIND_NAMES, NOBODY, type Description, type DescriptionKind } from './description';
import { readEthernetIpEds } from './ethernet-ip-eds';
import { readGsdml } from './gsdml';
import { readIodd } from './iodd';
import { readXml, type XmlElement } from './xml';

const TEXT_LIMIT = 24_000_000;

const nothing = (kind: DescriptionKind | null, line: number, text: string): Description => ({
  kind,
  identity: NOBODY,
  parameters: [],
  images: [],
  faults: [{ line, text }],
});

const XML_READERS: Readonly<
  Record<'iodd' | 'gsdml', { readonly root: string; readonly read: (root: XmlElement) => Description }>
> = {
  iodd: { root: 'IODevice', read: readIodd },
  gsdml: { root: 'ISO15745Profile', read: readGsdml },
};

/** What kind a file is, by what stands in it; null where it is none of them. */
export function kindOf(text: string): DescriptionKind | null {
  const head = text.slice(0, 20_000);
  if (/^\uFEFF?\s*</.test(head))
    return /<(?:\w+:)?IODevice\b/.test(head) ? 'iodd' : /<(?:\w+:)?ISO15745Profile\b/.test(head) ? 'gsdml' : null;
  if (/^\s*\[(?:DeviceInfo|DummyUsage|MandatoryObjects|[0-9A-F]{4}(?:sub[0-9A-F]+)?)\]\s*$/im.test(text))
    return 'canopen-eds';
  return /^\s*\[(?:Device|Params|Assembly|Device Classification|Connection Manager)\]\s*(?:\$.*)?$/im.test(text)
    ? 'ethernet-ip-eds'
    : null;
}

/**
 * Reads a device description file; `kind` where the user says it, else it is found. Never throws: a hostile or broken file gives what can be read
 * and a sentence with its line.
 */
export function describe(text: string, kind: DescriptionKind | null = null): Description {
  if (text.length > TEXT_LIMIT)
    return nothing(kind, 1, `the file has ${text.length} characters; ${TEXT_LIMIT} at most are read`);
  const bare = text.replace(/^\uFEFF/, '');
  const known = kind ?? kindOf(bare);
  if (known === null) return nothing(null, 1, `this is none of ${Object.values(KIND_NAMES).join(', ')}`);
  if (known === 'canopen-eds') return readCanopenEds(bare);
  if (known === 'ethernet-ip-eds') return readEthernetIpEds(bare);
  const root = readXml(bare);
  if (!root.ok) return nothing(known, root.error.line, root.error.text);
  const { root: name, read } = XML_READERS[known];
  return root.value.name === name
    ? read(root.value)
    : nothing(
        known,
        root.value.line,
        `the file begins with <${root.value.name}>, an ${KIND_NAMES[known]} with <${name}>`,
      );
}
