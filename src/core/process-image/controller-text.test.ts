import Papa from 'papaparse';
import { shippedIndex } from '../../../tests/harness/sheets';
import { toRaw } from '../scaling/scale';
import { parseRational } from '../scaling/rational';
import { chainOf } from '../drive/describe';
import { blockOfList, TELEGRAM_BLOCKS, type Block } from './blocks';
import { constantsOf, csvOfBlock, scalingOf, structuredText } from './controller-text';

const list = (
  slug: string,
  roles: readonly Parameters<ReturnType<typeof shippedIndex>['byRole']['get']>[0][],
): Block => {
  const index = shippedIndex(slug);
  const made = blockOfList(index, roles.map((role) => index.byRole.get(role)!.number).join(' '), 'to-drive');
  if (!made.ok) throw new Error(made.error);
  return made.value;
};

const PLACE = { area: 'Q', start: 64, counts: 'bytes' } as const;

/**
 * A reader of the part of structured text that is written, by the grammar of IEC 61131-3 (declarations, constants, functions, expressions of
 * numbers, names, calls and the four operations), and an evaluator of its functions.
 */
function functionsIn(text: string): ReadonlyMap<string, (argument: number) => number> {
  const plain = text.replace(/\(\*[\s\S]*?\*\)/g, ' ');
  const found = new Map<string, (argument: number) => number>();
  const grammar =
    /FUNCTION\s+([A-Za-z]\w*)\s*:\s*(L?REAL|U?D?INT)\s+VAR_INPUT\s+([a-z]+)\s*:\s*(L?REAL|U?D?INT)\s*;\s*END_VAR\s+\1\s*:=\s*([^;]+);\s*END_FUNCTION/g;
  const rest = plain.replace(grammar, (_, name: string, out: string, argument: string, __, expression: string) => {
    found.set(name, (value) => {
      const tokens = expression.match(/[A-Za-z_]\w*|\d+\.\d+|[-+*/()]/g) ?? [];
      let at = 0;
      const take = (): string => tokens[at++] ?? '';
      const factor = (): number => {
        const token = take();
        if (token === '(') {
          const inner = sum();
          expect(take()).toBe(')');
          return inner;
        }
        if (/^\d/.test(token)) return Number(token);
        if (token === argument) return value;
        // A conversion: to an integer it rounds to the nearest (IEC 61131-3, type conversion functions).
        expect(token).toMatch(/^(?:L?REAL|U?D?INT)_TO_(?:L?REAL|U?D?INT)$/);
        expect(take()).toBe('(');
        const inner = sum();
        expect(take()).toBe(')');
        return token.endsWith('REAL') ? inner : Math.round(inner);
      };
      const product = (): number => {
        let left = factor();
        while (tokens[at] === '*' || tokens[at] === '/') left = take() === '*' ? left * factor() : left / factor();
        return left;
      };
      const sum = (): number => {
        let left = product();
        while (tokens[at] === '+' || tokens[at] === '-') left = take() === '+' ? left + product() : left - product();
        return left;
      };
      const result = sum();
      expect(at).toBe(tokens.length);
      expect(/INT$/.test(out) ? Number.isInteger(result) : true).toBe(true);
      return result;
    });
    return '';
  });
  expect(rest.trim()).toBe('');
  return found;
}

it.each([
  ['tern', 'speed-reference', ['0', '12.5', '50', '-37.25']],
  ['tern', 'ramp-time', ['0', '0.1', '30']],
  ['curlew', 'target-position', ['0', '1', '1234.5']],
] as const)('%s, %s: the functions both ways give the counts that the bench works out', (slug, role, values) => {
  const index = shippedIndex(slug);
  const block = list(slug, [role]);
  const functions = [...functionsIn(scalingOf(block.items, index))];
  expect(functions.map(([name]) => name.replace(/^.*_TO_/, ''))).toEqual(['VALUE', 'COUNTS']);
  const [[, toValue], [, toCounts]] = functions as [(typeof functions)[0], (typeof functions)[0]];
  const chain = chainOf(index.sheet, index.byRole.get(role)!)!;
  for (const text of values) {
    const value = parseRational(text);
    const raw = value.ok ? toRaw(chain, value.value) : value;
    if (!raw.ok) throw new Error('no count');
    const counts = Number(raw.value.raw);
    // The sheet may round otherwise than the controller: one count.
    expect(Math.abs(toCounts(Number(text)) - counts)).toBeLessThanOrEqual(1);
    expect(toCounts(toValue(counts))).toBe(counts);
  }
});

it('constants are the words that people keep ready, and what 100 % is', () => {
  const index = shippedIndex('tern');
  const text = constantsOf(list('tern', ['control-word', 'speed-reference']), index);
  expect(text).toMatch(/^VAR_GLOBAL CONSTANT\n/);
  expect(text).toContain('  WORD_RUN_FORWARD : WORD := 16#000D; (* run forward *)\n');
  expect(text.match(/^ {2}WORD_/gm)).toHaveLength(index.commands.length);
  expect(constantsOf(TELEGRAM_BLOCKS[0]!, null)).toBe(
    'VAR_GLOBAL CONSTANT\n  FULL_NSOLL_A : INT := 16384; (* 100 % of NSOLL_A *)\nEND_VAR\n',
  );
});

it('the file has all three, and says why it has none where an item has no address', () => {
  const index = shippedIndex('tern');
  const block = list('tern', ['control-word', 'speed-reference']);
  const text = structuredText(block, PLACE, index);
  expect(text.ok && text.value.match(/VAR_GLOBAL CONSTANT|VAR_GLOBAL\n|^FUNCTION/gm)).toEqual([
    'VAR_GLOBAL\n',
    'VAR_GLOBAL CONSTANT',
    'FUNCTION',
    'FUNCTION',
  ]);
  const wide = TELEGRAM_BLOCKS.find(({ id }) => id === 'telegram-2-out')!;
  expect(structuredText(wide, { ...PLACE, counts: 'own-width' }, null)).toMatchObject({ ok: false });
});

it('the table opens in a spreadsheet: every item with its byte, its address and its scale', () => {
  const block = list('tern', ['control-word', 'speed-reference']);
  const { data } = Papa.parse<string[]>(csvOfBlock(block, PLACE, shippedIndex('tern')).trim());
  expect(data[0]).toEqual([
    'item',
    'what',
    'drive, byte',
    'controller',
    'as a register',
    'as a tag',
    'type',
    'scale',
    'order',
  ]);
  expect(data.slice(1).map(([name, , byte, ...addresses]) => [name, byte, ...addresses.slice(0, 4)])).toEqual([
    ['11.01', '0', '%QW64', '40033', 'a_list_of_Tern_s_values_to_the_drive.item_11_01', 'WORD'],
    ['11.03', '2', '%QW66', '40034', 'a_list_of_Tern_s_values_to_the_drive.item_11_03', 'INT'],
  ]);
  // 55 Hz over 12287 counts; both are multiples of 11.
  expect(data[2]![7]).toBe('5/1117 Hz a count');
});

it('the table says how the bytes of each number come: as in its block, or in an order of its own', () => {
  const items = [
    { name: 'a', what: '', type: 'int32', byte: 0 },
    { name: 'b', what: '', type: 'int32', byte: 4, order: 'little' },
    { name: 'c', what: '', type: 'uint8', byte: 8 },
  ] as const;
  const block = { ...list('tern', ['control-word']), order: 'big-swapped-words', items, size: 9 } as const;
  const { data } = Papa.parse<string[]>(csvOfBlock(block, PLACE, null).trim());
  expect(data.slice(1).map((row) => row[8])).toEqual([
    'high byte first, words of 32 bits swapped',
    'low byte first',
    '',
  ]);
});
