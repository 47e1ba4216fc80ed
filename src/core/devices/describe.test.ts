import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { pick, seededRandom } from '../random/random';
import type { DescribedParameter } from '../values/described';
import { describe as describeFile, kindOf } from './describe';

const folder = path.join(__dirname, '../../../sheets/descriptions');
const files = readdirSync(folder);
const open = (name: string): string => readFileSync(path.join(folder, name), 'utf8');

const line = ({ choices, bitNames, ...fields }: DescribedParameter): string =>
  [
    ...Object.values(fields).filter((value) => value !== null && value !== ''),
    ...choices.map(({ value, text }) => `${value}:${text}`),
    ...bitNames.map(({ bit, text }) => `${bit}:${text}`),
  ].join(' | ');

// The formats are those of CiA 306, of the EtherNet/IP and IO-Link description files and of PROFINET's GSDML, all from memory; the devices are invented.
it.each<[string, string, readonly string[], readonly string[]]>([
  [
    'rook.eds',
    'Rook conveyor drive | 0x00000A17 | 0x0000004C | 0x00020001',
    [
      '0x1000:00 | Device type | uint32 | 32 | 131474 | read',
      '0x1018:01 | Vendor | uint32 | 32 | 2583 | read',
      '0x1018:02 | Product | uint32 | 32 | 76 | read',
      // 0xFF38 in 16 bits with a sign is −200; 012 is octal.
      '0x2107:00 | Belt slack | int16 | 16 | -200 | 200 | -15 | read-write',
      '0x2130:00 | Node of the neighbour | uint32 | 32 | read-write',
      '0x2144:01 | Zone at the infeed | uint8 | 8 | 10 | read-write',
      '0x2144:02 | Zone2 | uint8 | 8 | 10 | read-write',
      '0x2144:03 | Zone at the saw | uint8 | 8 | 31 | read-write',
      '0x2144:04 | Zone4 | uint8 | 8 | 10 | read-write',
      '0x6040:00 | Control word | uint16 | 16 | 0 | read-write',
      '0x6041:00 | Status word | uint16 | 16 | read',
      '0x60FF:00 | Target velocity | int32 | 32 | -3500 | 3500 | 0 | read-write',
    ],
    [
      '0x1600 to-drive 6: Control word 0+16, Target velocity 16+32',
      '0x1A00 from-drive 4: Status word 0+16, Zone at the saw 24+8',
    ],
  ],
  [
    'wagtail.eds',
    'Wagtail lift axis | 2583 | 91 | 0x00010004',
    [
      '0x2010:00 | Gain | float32 | 32 | 0.25 | 40 | 1.75 | read-write',
      '0x2011:00 | Label | text | read',
      '0x2012:00 | Travel seen | int64 | 64 | -9000000000 | 9000000000 | read',
    ],
    [],
  ],
  [
    'shrike.eds',
    'Vent drive | 2583 | 317 | 3.14',
    [
      'param 1 | Command bits | uint16 | 16 | 0 | 65535 | 0 | read-write | 0:open | 1:close | 7:reset',
      'param 2 | Vent speed | uint16 | 16 | Hz | 1/100 | 0 | 52.5 | 4.8 | read-write',
      // (raw − 40) / 2
      'param 3 | Air temperature | int16 | 16 | °C | 1/2 | -35 | 65 | -20 | read',
      'param 4 | Stops by | uint8 | 8 | 0 | 2 | 1 | read-write | 0:coasting | 1:its ramp | 2:the brake',
    ],
    [
      'assem 20 to-drive 4: Command bits 0+16, Vent speed 16+16',
      'assem 70 from-drive 6: Command bits 0+16, Air temperature 32+16',
    ],
  ],
  [
    'stonechat.eds',
    'Label press | 0x0A17 | 9 | 1.0',
    ['param 7 | Force seen | float32 | 32 | kN | read', 'param 8 | Lamp | bool | 1 | 0 | 1 | 1 | read-write'],
    [],
  ],
  [
    'plover.iodd.xml',
    'Plover gripper | 2583 | 7041 | V1.3',
    [
      '21:0 | Serial number | text | 128 | read',
      '72:0 | Force | uint16 | 16 | N | 1/2 | 10 | 450 | 70 | read-write',
      '73:0 | Mode | uint8 | 8 | 3 | read-write | 0:let go | 3:hold & watch',
      '80:1 | Lower limit | int16 | 16 | °C | 1/10 | 2.5 | read-write',
      '80:2 | Lamp | bool | 1 | read',
      '91:1 | Last grips 1 | float32 | 32 | read',
      '91:2 | Last grips 2 | float32 | 32 | read',
      '91:3 | Last grips 3 | float32 | 32 | read',
    ],
    ['PI_State from-drive 4: Finger position 0+16, State 28+4, Lamp 24+1', 'PO_Command to-drive 1: To the gripper 0+8'],
  ],
  ['dipper.iodd.xml', 'Dipper pump | 2583 | 7050 | V1.0', ['66:0 | Tag | text | 96 | read-write'], []],
  [
    'heron.gsdml.xml',
    'Heron sorter | 0x0A17 | 0x0042 | V2.7',
    [
      '3:2 | Gate speed | uint16 | 16 | 0 | 2000 | 350 | read-write',
      '3:4 | Throws to | uint8 | 3 | 0 | 2 | 1 | read-write | 0:left | 1:right | 2:both sides',
      '3:6 | Shift | int16 | 16 | -5 | read',
    ],
    ['SUB_1 from-drive 6: State 0+16, Position 16+32', 'SUB_1 to-drive 2: Command 0+16'],
  ],
  ['egret.gsdml.xml', 'Egret | 0x0A17 | 0x0043 | ', [], ['S_F from-drive 4: Pull 0+32']],
])('%s', (name, who, parameters, images) => {
  const found = describeFile(open(name));
  expect(
    Object.values(found.identity)
      .map((part: string | null) => part ?? '')
      .join(' | '),
  ).toBe(who);
  expect(found.parameters.map(line)).toEqual(parameters);
  expect(
    found.images.map(
      ({ id, direction, bytes, items }) =>
        `${id} ${direction} ${bytes}: ${items.map((item) => `${item.name} ${item.bit}+${item.bits}`).join(', ')}`,
    ),
  ).toEqual(images);
  expect(found.faults).toEqual([]);
});

it.each<[string, string, number, RegExp]>([
  ['neither kind', 'Register\tName\n40001\tRamp', 1, /none of CANopen EDS/],
  [
    'an entity bomb',
    '<?xml version="1.0"?>\n<!DOCTYPE x [<!ENTITY a "aa"><!ENTITY b "&a;&a;">]>\n<IODevice>&b;</IODevice>',
    2,
    /document type/,
  ],
  ['an element that is never closed', '<IODevice>\n<ProfileBody>\n</IODevice>', 3, /no XML/],
  [
    'an element that nobody nests so deep',
    `<IODevice>${'<a>'.repeat(3000)}${'</a>'.repeat(3000)}</IODevice>`,
    1,
    /no XML/,
  ],
  [
    'a list of objects without sections',
    '[DeviceInfo]\nProductName=x\n[MandatoryObjects]\nSupportedObjects=1\n1=0x1000',
    5,
    /0x1000 is listed/,
  ],
  ['a type that nobody knows', '[2000]\nParameterName=x\nDataType=0x0099\nAccessType=ro', 1, /unknown data type/],
  [
    'a limit that is no number',
    '[2000]\nParameterName=x\nDataType=0x0005\nAccessType=ro\nLowLimit=low',
    1,
    /the min “low” is no number/,
  ],
  ['a line without =', '[DeviceInfo]\nProductName', 2, /neither a section nor an entry/],
  [
    'an entry without its semicolon',
    '[Device]\nVendCode = 4\n[Params]\nParam1 = 0,,,0,0xC7,2,"a","","",0,1,0;',
    2,
    /not ended/,
  ],
  ['a text without its end', '[Params]\nParam1 = 0,,,0,0xC7,2,"a\n;', 2, /closing quotation mark/],
  [
    'a text id that leads nowhere',
    '<IODevice><ProfileBody><DeviceFunction><VariableCollection>\n<Variable id="V" index="70"><Datatype type="BooleanT"/><Name textId="T"/></Variable></VariableCollection></DeviceFunction></ProfileBody></IODevice>',
    2,
    /text T is not in the file/,
  ],
])('%s is said with its line', (_, text, at, sentence) => {
  const { faults } = describeFile(text);
  expect(faults[0]?.text).toMatch(sentence);
  expect(faults[0]?.line).toBe(at);
});

it('says the kind where another is asked for', () => {
  expect(kindOf(open('heron.gsdml.xml'))).toBe('gsdml');
  expect(describeFile(open('heron.gsdml.xml'), 'iodd').faults[0]?.text).toMatch(/begins with <ISO15745Profile>/);
});

it('500 damaged files: never a throw, every fault has a line of the file and a sentence', () => {
  const random = seededRandom(17);
  for (let i = 0; i < 500; i++) {
    const text = open(files[i % files.length] ?? '');
    const from = pick(random, text.length);
    const damage = [
      (): string => text.slice(0, from),
      (): string => text.slice(0, from) + text.slice(from + 1 + pick(random, 40)),
      (): string =>
        text.slice(0, from) + String.fromCharCode(32 + pick(random, 90)).repeat(1 + pick(random, 5)) + text.slice(from),
      (): string => text.slice(0, from) + text.slice(0, pick(random, text.length)) + text.slice(from),
      (): string => text.replaceAll(/\d/g, () => `${pick(random, 10)}`),
    ];
    const spoilt = damage[pick(random, damage.length)]?.() ?? '';
    const lines = spoilt.split('\n').length;
    const { faults } = describeFile(spoilt);
    for (const fault of faults) {
      expect(fault.text.length).toBeGreaterThan(5);
      expect(fault.line >= 1 && fault.line <= lines).toBe(true);
    }
  }
});
