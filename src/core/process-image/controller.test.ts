import { shippedIndex } from '../../../tests/harness/sheets';
import { blocksOfSheet, TELEGRAM_BLOCKS } from './blocks';
import { addressIn, declarationsOf, identifierOf, typeName, type ControllerPlace, type NamedItem } from './controller';
import { layoutFaults, type ItemType } from './image';

const item = (type: ItemType, byte: number, bit?: number): NamedItem => ({
  name: 'x',
  what: 'x',
  type,
  byte,
  ...(bit === undefined ? {} : { bit }),
});

/** IEC 61131-3, directly represented variables: area I or Q, size X B W D L, then numbers. */
it.each<[ControllerPlace, NamedItem, string]>([
  [{ area: 'I', start: 100, counts: 'bytes' }, item('uint16', 0), '%IW100'],
  [{ area: 'I', start: 100, counts: 'bytes' }, item('int32', 2), '%ID102'],
  [{ area: 'Q', start: 4, counts: 'bytes' }, item('bool', 0, 3), '%QX4.3'],
  [{ area: 'Q', start: 4, counts: 'bytes' }, item('uint8', 0), '%QB4'],
  [{ area: 'I', start: 100, counts: 'own-width' }, item('uint16', 0), '%IW50'],
  [{ area: 'I', start: 100, counts: 'own-width' }, item('float32', 4), '%ID26'],
  [{ area: 'I', start: 8, counts: 'own-width' }, item('float64', 8), '%IL2'],
])('%j %j is %s', (place, own, address) => {
  expect(addressIn(place, own)).toEqual({ ok: true, value: address });
});

it('a value across its own width has no address of that width, and says so', () => {
  expect(addressIn({ area: 'I', start: 100, counts: 'own-width' }, item('uint32', 2))).toEqual({
    ok: false,
    error: 'byte 102 is no multiple of 4 bytes: it has no address of its own width',
  });
});

it('names become identifiers', () => {
  expect(['PZD 1 out', '9.03 Drehzahl', 'G1_XIST1', 'größe'].map(identifierOf)).toEqual([
    'PZD_1_out',
    'item_9_03_Drehzahl',
    'G1_XIST1',
    'gro_e',
  ]);
});

/** A declaration as IEC 61131-3 writes it: `VAR_GLOBAL { name AT %address : TYPE ; } END_VAR`, comments between (* and *). */
function parsed(text: string): readonly (readonly [name: string, address: string, type: string])[] {
  const plain = text.replace(/\(\*.*?\*\)/gs, ' ');
  const body = /^\s*VAR_GLOBAL\b([\s\S]*)\bEND_VAR\s*$/.exec(plain)?.[1];
  if (body === undefined) throw new Error('no block of declarations');
  return body
    .split(';')
    .map((line) => line.trim())
    .filter((line) => line !== '')
    .map((line) => {
      const [, name, address, type] =
        /^([A-Za-z](?:_?[A-Za-z0-9])*) AT (%[IQ](?:X\d+\.[0-7]|[BWDL]\d+)) : ([A-Z]+)$/.exec(line) ?? [];
      if (!name || !address || !type) throw new Error(`no declaration: ${line}`);
      return [name, address, type] as const;
    });
}

it.each(TELEGRAM_BLOCKS.map((block) => [block.name, block] as const))(
  '%s: its declarations, read again, give the same layout',
  (_, block) => {
    const place: ControllerPlace = { area: block.direction === 'to-drive' ? 'Q' : 'I', start: 256, counts: 'bytes' };
    const text = declarationsOf(block.items, place);
    if (!text.ok) throw new Error(text.error);
    const read = parsed(text.value);
    expect(read.map(([name]) => name)).toEqual(block.items.map(({ name }) => name));
    read.forEach(([, address, type], i) => {
      const own = block.items[i]!;
      expect(Number(/\d+/.exec(address)?.[0]) - 256).toBe(own.byte);
      expect(type).toBe(typeName(own.type));
    });
    expect(layoutFaults(block.items, block.size)).toEqual([]);
  },
);

it('two items of one name get names of their own, and no comment ends early', () => {
  const twice = [
    { ...item('uint16', 0), name: 'word', what: 'first *) one' },
    { ...item('uint16', 2), name: 'WORD', what: 'second' },
  ];
  const text = declarationsOf(twice, { area: 'I', start: 0, counts: 'bytes' });
  expect(text.ok && parsed(text.value).map(([name]) => name)).toEqual(['word', 'WORD_2']);
});

it('the process data of a sheet are blocks both ways; a drive without any has none', () => {
  const [out, back] = blocksOfSheet(shippedIndex('dunlin'));
  expect([out?.size, back?.size]).toEqual([4, 4]);
  expect(out?.items.map(({ byte }) => byte)).toEqual([0, 2]);
  expect(back?.direction).toBe('from-drive');
  expect(blocksOfSheet(shippedIndex('tern'))).toEqual([]);
});
