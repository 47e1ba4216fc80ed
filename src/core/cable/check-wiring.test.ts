import Papa from 'papaparse';
import { seededRandom } from '../random/random';
import { checkWiring, wiringCsv } from './check-wiring';
import type { Wiring } from './wiring';
import { drawWiring } from './wiring-picture';

/** `saw P1 - lift P2` a link; a length or a medium behind it where the test needs one. */
function wiring(root: string, ...links: readonly string[]): Wiring {
  return {
    root,
    ring: false,
    links: links.map((text) => {
      const [, a = '', p = '', b = '', q = '', lengthM = '', medium = 'copper'] =
        /^(.*?) (\S*) - (.*?) (\S*?)(?:, (\S+) m(?: (\w+))?)?$/.exec(text) ?? [];
      return {
        a: { device: a, port: p },
        b: { device: b, port: q },
        medium: medium as Wiring['links'][number]['medium'],
        lengthM,
      };
    }),
  };
}

const notesOf = (plan: Wiring, expected: readonly string[] = []): readonly string[] =>
  checkWiring(plan, expected).notes.map(
    ({ link, weight, text }) => `${link < 0 ? 'all' : link + 1} ${weight}: ${text}`,
  );

it('a line of devices that is right has nothing against it, and says how far each is', () => {
  const line = wiring('master', 'master 1 - saw P1, 20 m', 'saw P2 - lift P1', 'lift P2 - gate P1, 100 m');
  expect(notesOf(line, ['saw', 'lift'])).toEqual([]);
  expect(checkWiring(line, []).devices).toEqual([
    { name: 'master', hops: 0 },
    { name: 'saw', hops: 1 },
    { name: 'lift', hops: 2 },
    { name: 'gate', hops: 3 },
  ]);
});

it.each<[string, Wiring, readonly string[], readonly string[]]>([
  [
    'a port twice',
    wiring('master', 'master 1 - saw P1', 'master 2 - lift P1', 'gate P1 - lift P1'),
    [],
    ['3 fault: port P1 of lift is taken by link 2 already'],
  ],
  [
    'a loop',
    wiring('master', 'master 1 - saw P1', 'saw P2 - lift P1', 'lift P2 - gate P1', 'gate P2 - saw P3'),
    [],
    ['4 fault: it closes a loop: gate – lift – saw – gate'],
  ],
  [
    'two links between the same two',
    wiring('master', 'master 1 - saw P1', 'master 2 - saw P2'),
    [],
    ['2 fault: it closes a loop: master – saw – master'],
  ],
  ['a device wired to itself', wiring('saw', 'saw P1 - saw P2'), [], ['1 fault: saw is wired to itself']],
  [
    'ends that are not said',
    wiring('master', 'master 1 -  ', 'master  - saw P1'),
    [],
    [
      '1 fault: the second device has no name',
      '1 fault: the second port is not said',
      '2 fault: the first port is not said, at master',
    ],
  ],
  [
    'lengths of each medium: ISO/IEC 11801 and IEEE 802.3 for pairs, 100BASE-FX for fibre',
    wiring(
      'm',
      'm 1 - a 1, 100 m',
      'm 2 - b 1, 100.5 m',
      'm 3 - c 1, 2000 m fibre',
      'm 4 - d 1, 2001 m fibre',
      'm 5 - e 1, 50 m polymer',
      'm 6 - f 1, 51 m polymer',
      'm 7 - g 1, far m',
    ),
    [],
    [
      '2 fault: 100.5 m of twisted pair: 100 m at most',
      '4 fault: 2001 m of glass fibre: 2000 m at most',
      '6 fault: 51 m of polymer fibre: 50 m at most',
      '7 fault: “far” is no length in metres',
    ],
  ],
  [
    'what is not reached, and what is not there',
    wiring('master', 'master 1 - saw P1', 'lift P1 - gate P1'),
    ['saw', 'hoist'],
    [
      'all fault: not reached from master: lift, gate',
      'all warning: hoist is in the address plan, and no link goes to it',
    ],
  ],
  ['a root that no link has', wiring('laptop', 'saw P1 - lift P1'), [], ['all fault: no link goes to laptop']],
  ['no root', wiring(' ', 'saw P1 - lift P1'), [], ['all fault: the device to count from is not said']],
  [
    'one name in two ways',
    wiring('master', 'master 1 - Saw P1'),
    ['saw'],
    [
      'all warning: “saw” and “Saw”: two devices, or one that is written in two ways',
      'all warning: saw is in the address plan, and no link goes to it',
    ],
  ],
])('%s', (_, plan, expected, notes) => {
  expect(notesOf(plan, expected)).toEqual(notes);
});

it('one ring may be wanted: then it must be closed, and only once', () => {
  const open = wiring('master', 'master 1 - saw P1', 'saw P2 - lift P1');
  const closed = wiring('master', 'master 1 - saw P1', 'saw P2 - lift P1', 'lift P2 - master 2');
  const twice = wiring('master', 'master 1 - saw P1', 'saw P2 - lift P1', 'lift P2 - master 2', 'saw P3 - lift P3');
  expect(notesOf({ ...open, ring: true })).toEqual(['all warning: a ring is wanted, and no link closes one']);
  expect(notesOf({ ...closed, ring: true })).toEqual([]);
  expect(notesOf({ ...twice, ring: true })).toEqual(['4 fault: it closes a second ring: saw – lift – saw']);
});

it('names of the address plan are taken without the blanks around them, and each once', () => {
  const line = wiring('master', 'master 1 - saw P1');
  expect(notesOf(line, ['saw ', ' saw', ''])).toEqual([]);
  expect(notesOf(line, ['lift', 'lift '])).toEqual([
    'all warning: lift is in the address plan, and no link goes to it',
  ]);
});

it('no two notes of one link say the same, whatever is not typed yet', () => {
  const notes = notesOf(wiring('', '  -  ', 'a  - a '));
  expect(new Set(notes).size).toBe(notes.length);
});

it('nothing is said against an empty list, whatever is planned', () => {
  expect(notesOf(wiring(''), ['saw'])).toEqual([]);
  expect(checkWiring(wiring(''), []).devices).toEqual([]);
});

// A graph of n devices in c pieces with e links has e - n + c independent rings (Euler; any textbook of graph theory).
it('as many loops are named as a graph has, and the drawing has each device once, on a place of its own', () => {
  const random = seededRandom(5);
  for (let run = 0; run < 200; run++) {
    const size = 2 + Math.floor(random() * 9);
    const links = Array.from({ length: Math.floor(random() * 16) }, (_, i) => {
      const a = Math.floor(random() * size);
      const b = (a + 1 + Math.floor(random() * (size - 1))) % size;
      return `d${a} ${i}a - d${b} ${i}b`;
    });
    const plan = wiring('d0', ...links);
    const facts = checkWiring(plan, []);
    const names = new Set(facts.devices.map(({ name }) => name));
    const group = new Map([...names].map((name) => [name, name]));
    for (const { a, b } of plan.links) {
      const [from, to] = [group.get(a.device), group.get(b.device)];
      for (const [name, own] of group) if (own === from) group.set(name, to ?? '');
    }
    const rings = plan.links.length - names.size + new Set(group.values()).size;
    expect(facts.notes.filter(({ text }) => text.includes('closes a loop'))).toHaveLength(rings);
    const drawn = drawWiring(facts);
    expect(new Set(drawn.devices.map(({ name }) => name))).toEqual(names);
    expect(new Set(drawn.devices.map(({ column, row }) => `${column} ${row}`)).size).toBe(names.size);
    expect(drawn.links).toHaveLength(plan.links.length);
    expect(Math.max(0, ...drawn.devices.map(({ row }) => row + 1))).toBe(drawn.rows);
    for (const { from, to, closes } of drawn.links) if (!closes) expect(Math.abs(from.column - to.column)).toBe(1);
  }
});

it('600 devices in a line are drawn in one row, and in a star in one column', () => {
  const line = checkWiring(wiring('d0', ...Array.from({ length: 600 }, (_, i) => `d${i} b - d${i + 1} a`)), []);
  expect(drawWiring(line)).toMatchObject({ columns: 601, rows: 1 });
  const star = checkWiring(wiring('m', ...Array.from({ length: 600 }, (_, i) => `m ${i} - d${i} a`)), []);
  expect(drawWiring(star)).toMatchObject({ columns: 2, rows: 600 });
});

it('the list opens in a spreadsheet, and a name is never a formula there', () => {
  const text = wiringCsv(wiring('master', 'master 1 - =SUM(A1) P1, 20 m', 'saw "a", P2 - lift P1'));
  expect(Papa.parse(text, { skipEmptyLines: true }).data).toEqual([
    ['link', 'device', 'port', 'device', 'port', 'medium', 'length in m', 'links from master'],
    ['1', 'master', '1', "'=SUM(A1)", 'P1', 'twisted pair', '20', '0'],
    ['2', 'saw "a",', 'P2', 'lift', 'P1', 'twisted pair', '', ''],
  ]);
});
