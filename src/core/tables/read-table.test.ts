import { manualPage } from '../../../tests/harness/manual-page';
import { printed } from '../../../tests/harness/printed-page';
import { pick, seededRandom } from '../random/random';
import type { DescribedParameter } from '../values/described';
import { tableOfPages } from './page-table';
import { readTable } from './read-table';

const FIELDS = [
  'key',
  'address',
  'table',
  'name',
  'type',
  'bits',
  'unit',
  'scale',
  'min',
  'max',
  'default',
  'access',
  'when',
  'choices',
  'bitNames',
] as const;
const isEmpty = (value: unknown): boolean =>
  value === null || value === '' || (Array.isArray(value) && value.length === 0);

interface Score {
  cells: number;
  right: number;
  rows: number;
  rowsFound: number;
  invented: number;
  given: number;
}

function compare(
  truth: readonly DescribedParameter[],
  found: readonly DescribedParameter[],
  score: Score,
  wrong: string[],
  layout: string,
): void {
  const byKey = new Map(found.map((parameter) => [parameter.key, parameter]));
  score.rows += truth.length;
  for (const expected of truth) {
    const parameter = byKey.get(expected.key);
    if (parameter) score.rowsFound++;
    for (const field of FIELDS) {
      const [wanted, given] = [expected[field], parameter?.[field] ?? null];
      if (!isEmpty(given)) score.given++;
      if (!isEmpty(wanted)) score.cells++;
      if (JSON.stringify(wanted) === JSON.stringify(given)) score.right += isEmpty(wanted) ? 0 : 1;
      else {
        if (isEmpty(wanted)) score.invented++;
        wrong.push(`${layout}: ${expected.key} ${field} ${JSON.stringify(wanted)} ≠ ${JSON.stringify(given)}`);
      }
    }
  }
}

// The limits are those that the users asked for: 95 % of cells, 98 % of rows, under 2 % invented.
it('reads made-up pages in all layouts', () => {
  const score: Score = { cells: 0, right: 0, rows: 0, rowsFound: 0, invented: 0, given: 0 };
  const wrong: string[] = [];
  let extra = 0;
  for (let seed = 1; seed <= 400; seed++) {
    const { text, truth, layout } = manualPage(seed);
    const { parameters } = readTable(text);
    compare(truth, parameters, score, wrong, layout);
    extra += Math.max(0, parameters.length - truth.length);
  }
  expect(wrong.slice(0, 5)).toEqual([]);
  expect(score.right / score.cells).toBeGreaterThan(0.98);
  expect(score.rowsFound / score.rows).toBeGreaterThan(0.99);
  expect((score.invented + extra) / score.given).toBeLessThan(0.01);
});

// The same pages as print: only the places of their letters tell rows and columns.
it('reads made-up pages from the places of their text', () => {
  const score: Score = { cells: 0, right: 0, rows: 0, rowsFound: 0, invented: 0, given: 0 };
  const wrong: string[] = [];
  let extra = 0;
  for (let seed = 1; seed <= 400; seed++) {
    const page = manualPage(seed);
    const { parameters } = readTable(tableOfPages(printed(page, seededRandom(seed))).text);
    compare(page.truth, parameters, score, wrong, page.layout);
    extra += Math.max(0, parameters.length - page.truth.length);
  }
  expect(wrong.slice(0, 5)).toEqual([]);
  expect(score.right / score.cells).toBeGreaterThan(0.95);
  expect(score.rowsFound / score.rows).toBeGreaterThan(0.98);
  expect((score.invented + extra) / score.given).toBeLessThan(0.02);
});

const only = (text: string): readonly string[] =>
  readTable(text).parameters.map((parameter) =>
    Object.entries(parameter)
      .flatMap(([field, value]: [string, unknown]) => {
        if (field === 'line' || isEmpty(value)) return [];
        if (field === 'choices' || field === 'bitNames')
          return [
            (value as { value?: number; bit?: number; text: string }[])
              .map((one) => `${one.value ?? one.bit}:${one.text}`)
              .join(','),
          ];
        return [typeof value === 'string' || typeof value === 'number' ? `${value}` : JSON.stringify(value)];
      })
      .join(' | '),
  );

// The ways of printing are common practice of manuals, no source; every name and number is invented.
it.each<[string, string, readonly string[]]>([
  [
    'a heading of two lines, wrapped names, values below each other, a page number between',
    `Modbus     Parameter name            Setting            Factory   Unit   Acc.
address                              range              setting
40203      Motor pole pairs          1 to 12            2                R/W
           (see nameplate)
                                  - 17 -
Modbus     Parameter name            Setting            Factory   Unit   Acc.
address                              range              setting
40204      Direction                 0 = forward        0                R/W
                                     1 = reverse`,
    [
      '40203 | 202 | holding-register | Motor pole pairs (see nameplate) | 1 | 12 | 2 | read-write',
      '40204 | 203 | holding-register | Direction | 0 | read-write | 0:forward,1:reverse',
    ],
  ],
  [
    'titles that name the table, and sizes as factors',
    'Input registers (function 04)\nAddress   Name               Format    Unit   Scaling\n7         Output frequency   UINT16    Hz     x100\nCoils\nAddress   Name               Format\n3         Run                BOOL',
    ['7 | 7 | input-register | Output frequency | uint16 | 16 | Hz | 1/100', '3 | 3 | coil | Run | bool | 1'],
  ],
  [
    'a rule, and a mark that the legend explains',
    'Modbus address = group × 64 + index + 1000 (decimal), holding registers\nPar.\tName\tRange\tAttr.\n9.03\tReference\t0 to 12287\tR/W*\n* only when stopped',
    ['9.03 | 1579 | holding-register | Reference | 0 | 12287 | read-write | standstill'],
  ],
  [
    'a table of bits after its register',
    'Address\tName\tType\tAccess\n256\tStatus word\tWORD\tR\n257\tSpeed\tINT\tR\n\nStatus word (256)\nBit\tMeaning\n0\tready\n3\tfault',
    ['256 | 256 | Status word | uint16 | 16 | read | 0:ready,3:fault', '257 | 257 | Speed | int16 | 16 | read'],
  ],
  [
    'limits in counts, told by what the type can hold',
    'Register,Name,Min,Max,Default,Scale,Unit,Access\n1,Ramp,1,6000,50,"1 = 0.1 s",s,R/W\n2,Limit,0,65000,5000,"1 = 0.01 Hz",Hz,R/W',
    ['1 | 1 | Ramp | s | 1/10 | 0.1 | 600 | 5 | read-write', '2 | 2 | Limit | Hz | 1/100 | 0 | 650 | 50 | read-write'],
  ],
  [
    'addresses in hex without a mark, and several registers in a cell',
    'Address (hex)   Parameter            Data      Resolution   Access\n0100-0101       Position             0-6000    0.01 mm      R/W\n010A            Current              0-999     0.1 A        R',
    [
      '0100-0101 | 256 | Position | 32 | mm | 1/100 | 0 | 60 | read-write',
      '010A | 266 | Current | A | 1/10 | 0 | 99.9 | read',
    ],
  ],
  [
    'numbers in German, with a number column that has points of its own',
    'Parameter-Nr.  Bezeichnung                 Einheit  Min      Max       Werk     Änderbar\n1.01           Mindestdrehzahl             1/min    0        3.000     90       im Stillstand\n1.03           Rampe auf                   s        0,05     120,00    2,50     jederzeit',
    ['1.01 | Mindestdrehzahl | 1/min | 0 | 3000 | 90 | standstill', '1.03 | Rampe auf | s | 0.05 | 120 | 2.5 | always'],
  ],
  [
    'rows that lost their columns',
    '40108 Ramp up time 0.1 to 600.0 s 5.0 R/W\n40109 Ramp down time 0.1 to 600.0 s 5.0 s R/W',
    [
      '40108 | 107 | holding-register | Ramp up time | s | 0.1 | 600 | 5 | read-write',
      '40109 | 108 | holding-register | Ramp down time | s | 0.1 | 600 | 5 | read-write',
    ],
  ],
  [
    'limits that are other parameters, and no headings',
    'P-01  Maximum frequency    P-02 to 400 Hz   50 Hz\nP-02  Minimum frequency    0 Hz to P-01     0 Hz',
    ['P-01 | Maximum frequency | Hz | 400 | 50', 'P-02 | Minimum frequency | Hz | 0 | 0'],
  ],
])('%s', (_, text, rows) => {
  expect(only(text)).toEqual(rows);
});

it('keeps a row that it cannot read, with its line and the reason', () => {
  const { parameters, unread } = readTable('Register\tName\tRange\n40108\tRamp\t0 to 9\n4O109\tHold\t0 to 9');
  expect(parameters).toHaveLength(1);
  expect(unread).toEqual([
    { line: 3, text: '4O109\tHold\t0 to 9', why: '“4O109” is no address and no parameter number' },
  ]);
});

it('reads any text in linear time and never throws', () => {
  const random = seededRandom(11);
  const alphabet = [
    '\t',
    '|',
    ';',
    ',',
    '  ',
    ' ',
    '\n',
    '"',
    '0',
    '1',
    '4',
    'A',
    'x',
    '-',
    '–',
    ':',
    '=',
    '(',
    ')',
    'Bit',
    'Range',
    'Name',
    'Address',
    'é',
    '\u0000',
  ];
  for (let i = 0; i < 300; i++) {
    const text = Array.from({ length: 1 + pick(random, 300) }, () => alphabet[pick(random, alphabet.length)]).join('');
    const { parameters, unread } = readTable(text);
    const lines = text.split('\n').length;
    for (const { line } of [...parameters, ...unread]) expect(line >= 1 && line <= lines).toBe(true);
  }
});
