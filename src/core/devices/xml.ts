import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { done, failed, type Result } from '../result';
import type { DescriptionFault } from './description';

/** An element of an XML file, names without their namespaces. */
export interface XmlElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly XmlElement[];
  readonly line: number;
}

/** No description is larger, nor nested deeper. */
const LARGEST = 24_000_000;
const DEEPEST = 60;

const without = (name: string): string => name.slice(name.indexOf(':') + 1);

/**
 * Reads XML that nobody vouches for. A file with a document type is refused, since its entities may grow without end; nothing is fetched.
 * Faults: one sentence with its line.
 */
export function readXml(text: string): Result<XmlElement, DescriptionFault> {
  if (text.length > LARGEST)
    return failed({ line: 1, text: `the file has ${text.length} characters; ${LARGEST} at most are read` });
  const doctype = text.search(/<!(?:DOCTYPE|ENTITY)/i);
  if (doctype >= 0)
    return failed({
      line: lineAt(text, doctype),
      text: 'the file has a document type of its own; its entities are not trusted',
    });
  const valid = XMLValidator.validate(text, { allowBooleanAttributes: false });
  if (valid !== true) return failed({ line: valid.err.line || 1, text: `no XML: ${valid.err.msg}` });
  try {
    const parser = new XMLParser({
      preserveOrder: true,
      ignoreAttributes: false,
      attributeNamePrefix: '',
      parseAttributeValue: false,
      parseTagValue: false,
      ignoreDeclaration: true,
      ignorePiTags: true,
      captureMetaData: true,
      maxNestedTags: DEEPEST,
    });
    const root = (parser.parse(text) as unknown[])
      .map((node) => elementOf(node, lineCounter(text)))
      .find((element) => element !== null);
    return root ? done(root) : failed({ line: 1, text: 'no element in the file' });
  } catch (error) {
    return failed({ line: 1, text: `no XML: ${error instanceof Error ? error.message : 'it cannot be read'}` });
  }
}

const lineAt = (text: string, at: number): number => text.slice(0, at).split('\n').length;

/** Line of an index; indices come in rising order, so that all together cost one pass. */
function lineCounter(text: string): (at: number) => number {
  let [line, from] = [1, 0];
  return (at) => {
    for (; from < at && from < text.length; from++) if (text[from] === '\n') line++;
    return line;
  };
}

const isRecord = (value: unknown): value is Record<string | symbol, unknown> =>
  typeof value === 'object' && value !== null;

function elementOf(node: unknown, lineOf: (at: number) => number): XmlElement | null {
  if (!isRecord(node)) return null;
  const name = Object.keys(node).find((key) => key !== ':@' && key !== '#text');
  if (name === undefined) return null;
  const meta = node[XMLParser.getMetaDataSymbol() as symbol];
  const line = lineOf(isRecord(meta) && typeof meta.startIndex === 'number' ? meta.startIndex : 0);
  const given = node[':@'];
  const inner = node[name];
  return {
    name: without(name),
    attributes: isRecord(given)
      ? Object.fromEntries(Object.entries(given).map(([key, value]) => [without(key), String(value)]))
      : {},
    children: Array.isArray(inner) ? inner.flatMap((child) => elementOf(child, lineOf) ?? []) : [],
    line,
  };
}

/** Direct children of a name. */
export const childrenOf = (element: XmlElement | undefined, name: string): readonly XmlElement[] =>
  element?.children.filter((child) => child.name === name) ?? [];
/** The first child element of a name. */
export const childOf = (element: XmlElement | undefined, name: string): XmlElement | undefined =>
  childrenOf(element, name)[0];

/** The element at a path of names, the first of each. */
export const at = (element: XmlElement | undefined, ...path: readonly string[]): XmlElement | undefined =>
  path.reduce<XmlElement | undefined>((found, name) => childOf(found, name), element);

/** All elements of a name below one, in the order of the file. */
export function allOf(element: XmlElement | undefined, name: string): readonly XmlElement[] {
  return (element?.children ?? []).flatMap((child) => [...(child.name === name ? [child] : []), ...allOf(child, name)]);
}

/** Texts by their ids, in the file's primary language. */
export function textsOf(root: XmlElement, idName: string): ReadonlyMap<string, string> {
  const primary = allOf(root, 'PrimaryLanguage')[0];
  return new Map(
    allOf(primary, 'Text').map(
      ({ attributes }) => [attributes[idName] ?? '', attributes.value ?? attributes.Value ?? ''] as const,
    ),
  );
}
