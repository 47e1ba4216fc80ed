import Papa from 'papaparse';
import { hexNumber } from '../bytes/hex';
import { harmless } from '../sets/set-csv';
import { fractionText, subtract, type Rational } from '../scaling/rational';
import { toValue } from '../scaling/scale';
import { chainOf } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { Block } from './blocks';
import { isNumber } from './image';
import { ORDER_NAMES } from './order-names';
import { writtenAddress, type AddressForm } from './written-address';
import { declarationsOf, identifierOf, typeName, type ControllerPlace, type NamedItem } from './controller';

const HEAD = ['item', 'what', 'drive, byte', 'controller', 'as a register', 'as a tag', 'type', 'scale', 'order'];

/** The items of a block as a table for a spreadsheet: the drive's bytes, the controller's address in each form, type, scale, and how the bytes come. */
export function csvOfBlock(block: Block, place: ControllerPlace, index: SheetIndex | null): string {
  const rows = block.items.map((item) => {
    const written = (form: AddressForm): string => {
      const address = writtenAddress(form, place, item, block.name);
      return address.ok ? address.value : '';
    };
    const parameter = index?.byNumber.get(item.name);
    const line = index && parameter ? lineOf(index, parameter) : null;
    return [
      item.name,
      item.what,
      `${item.byte}`,
      written('direct'),
      written('register'),
      written('tag'),
      typeName(item.type),
      line
        ? `${fractionText(line.slope)} ${line.unit} a count`
        : item.full === undefined
          ? ''
          : `${hexNumber(item.full)} = 100 %`,
      isNumber(item.type) ? ORDER_NAMES[item.order ?? block.order ?? 'big'] : '',
    ];
  });
  return `${Papa.unparse(
    [HEAD, ...rows].map((row) => row.map(harmless)),
    { newline: '\r\n' },
  )}\r\n`;
}

interface Line {
  readonly slope: Rational;
  readonly zero: Rational;
  readonly unit: string;
}

/** A scale as a line through its counts; null where it is none, such as one that goes round. */
function lineOf({ sheet }: SheetIndex, parameter: PlacedParameter): Line | null {
  const chain = chainOf(sheet, parameter);
  if (!chain || chain.steps.some(({ kind }) => kind === 'modulo' || kind === 'limit')) return null;
  const [zero, one] = [toValue(chain, 0n), toValue(chain, 1n)];
  return zero.ok && one.ok
    ? { slope: subtract(one.value.value, zero.value.value), zero: zero.value.value, unit: chain.unit }
    : null;
}

const comment = (text: string): string => `(* ${text.replaceAll('*)', '').replaceAll('(*', '')} *)`;

/** A fraction as a real literal, or as a quotient of two where it has no short decimal form. */
const realText = ({ num, den }: Rational): string => (den === 1n ? `${num}.0` : `(${num}.0 / ${den}.0)`);

/** The words that people keep ready, and what 100 % is, as constants (IEC 61131-3 structured text); empty where there are none. */
export function constantsOf(block: Block, index: SheetIndex | null): string {
  const isOut = block.direction === 'to-drive';
  const hasControl = block.items.some(({ name }) => index?.byNumber.get(name)?.role === 'control-word');
  const words =
    isOut && index && hasControl
      ? index.commands.map(
          ({ name, word }) =>
            `  WORD_${identifierOf(name).toUpperCase()} : WORD := 16#${word.toString(16).toUpperCase().padStart(4, '0')}; ${comment(name)}`,
        )
      : [];
  const full = block.items.flatMap(({ name, full: counts, type }) =>
    counts === undefined
      ? []
      : [`  FULL_${identifierOf(name).toUpperCase()} : ${typeName(type)} := ${counts}; ${comment(`100 % of ${name}`)}`],
  );
  const lines = [...new Set([...words, ...full])];
  return lines.length === 0 ? '' : ['VAR_GLOBAL CONSTANT', ...lines, 'END_VAR', ''].join('\n');
}

/** Functions between counts and values, both ways, for the items whose scale is a line (IEC 61131-3 structured text). */
export function scalingOf(items: readonly NamedItem[], index: SheetIndex): string {
  return items
    .flatMap((item) => {
      const parameter = index.byNumber.get(item.name);
      const line = parameter && lineOf(index, parameter);
      if (!parameter || !line || line.slope.num === 0n) return [];
      const name = identifierOf(`${item.name} ${parameter.name}`);
      const counts =
        typeName(item.type) === 'WORD' ? 'UINT' : typeName(item.type) === 'DWORD' ? 'UDINT' : typeName(item.type);
      const offset = line.zero.num === 0n ? '' : ` + ${realText(line.zero)}`;
      const less = line.zero.num === 0n ? 'value' : `(value - ${realText(line.zero)})`;
      // Counts of 32 bits do not fit a REAL.
      const real = counts.startsWith('D') || counts.startsWith('UD') ? 'LREAL' : 'REAL';
      return [
        comment(`${parameter.number} ${parameter.name}, in ${line.unit}; the controller rounds to the nearest count`),
        `FUNCTION ${name}_TO_VALUE : ${real}`,
        `VAR_INPUT counts : ${counts}; END_VAR`,
        `  ${name}_TO_VALUE := ${counts}_TO_${real}(counts) * ${realText(line.slope)}${offset};`,
        'END_FUNCTION',
        `FUNCTION ${name}_TO_COUNTS : ${counts}`,
        `VAR_INPUT value : ${real}; END_VAR`,
        `  ${name}_TO_COUNTS := ${real}_TO_${counts}(${less} / ${realText(line.slope)});`,
        'END_FUNCTION',
        '',
      ];
    })
    .join('\n');
}

/** All that a controller's programmer takes over: declarations, constants, scales; why there is nothing where an item has no address. */
export function structuredText(
  block: Block,
  place: ControllerPlace,
  index: SheetIndex | null,
): ReturnType<typeof declarationsOf> {
  const declared = declarationsOf(block.items, place);
  if (!declared.ok) return declared;
  const parts = [declared.value, constantsOf(block, index), index ? scalingOf(block.items, index) : ''];
  return { ok: true, value: parts.filter((part) => part !== '').join('\n') };
}
