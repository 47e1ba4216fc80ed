import { placed, TELEGRAMS, type TelegramItem } from '../profile/telegrams';
import type { Parameter } from '../sheet/parameter-section';

/** What a sheet's file needs so that its process data can be laid out anew. */
interface TelegramSheet {
  readonly slug: string;
  readonly revision: number;
  readonly name: string;
  readonly scalings: readonly unknown[];
  readonly uss: { readonly pzdWords: number };
  readonly parameters: readonly { readonly number: string; readonly at?: readonly unknown[] }[];
}

/** Full scale of N4, and of the words that a drive of 50 Hz counts by it (IEC 61800-7-203, from memory). */
const N4 = 0x4000_0000;
const SPEED_32 = {
  id: 'speed-32',
  name: 'speed, 0x40000000 = 100 % = 50 Hz',
  chain: {
    unit: 'Hz',
    steps: [{ kind: 'full-scale', value: '50', raw: `${N4}` }],
    rounding: 'nearestHalfUp',
    word: { bits: 32, signed: true },
  },
};

const LARGEST = { uint16: 0xffff, uint32: 0xffff_ffff } as const;

/** What the bench knows of the signals: the others are words of bits, or counts. */
const KNOWN: Readonly<Record<string, Partial<Parameter>>> = {
  STW1: { name: 'control word', role: 'control-word' },
  ZSW1: { name: 'status word', role: 'status-word' },
  NSOLL_B: speed('main set-point', 'speed-reference', -N4, N4),
  NIST_B: speed('main actual value', 'actual-speed', -(2 ** 31), 2 ** 31 - 1),
  STW2: { bitNames: lifeSign('the controller’s sign of life') },
  ZSW2: { bitNames: lifeSign('the drive’s sign of life') },
  G1_STW: { bitNames: encoderBits('asked for') },
  G1_ZSW: { bitNames: encoderBits('so') },
};

function speed(name: string, role: 'speed-reference' | 'actual-speed', min: number, max: number): Partial<Parameter> {
  return { name, role, unit: 'Hz', type: 'int32', scale: { kind: 'chain', id: SPEED_32.id }, min, max };
}

function lifeSign(name: string): Parameter['bitNames'] {
  return [12, 13, 14, 15].map((bit, i) => ({ bit, name: `${name}, bit ${i}` }));
}

function encoderBits(word: string): Parameter['bitNames'] {
  return [
    { bit: 13, name: `absolute position in each cycle ${word}` },
    { bit: 14, name: `encoder parked ${word}` },
  ];
}

const WAYS = [
  ['out', 'always'],
  ['in', 'never'],
] as const;

/** The entries of the process data of standard telegram 3, each with the word at which it begins. */
function entries(): readonly Parameter[] {
  const telegram = TELEGRAMS.find(({ number }) => number === 3);
  return WAYS.flatMap(([direction, write]) =>
    placed(telegram?.[direction] ?? []).map((item): Parameter => ({
      number: `PZD ${item.at + 1} ${direction}`,
      name: item.name,
      ...plain(item),
      default: 0,
      write,
      at: [{ kind: 'process', direction, word: item.at }],
      ...KNOWN[item.signal],
    })),
  );
}

const plain = ({ words }: TelegramItem): Pick<Parameter, 'type' | 'min' | 'max'> => {
  const type = words === 2 ? 'uint32' : 'uint16';
  return { type, min: 0, max: LARGEST[type] };
};

const isProcess = ({ number }: { readonly number: string }): boolean => /^PZD \d/.test(number);

/** The same drive when standard telegram 3 is chosen at it: its process data are others, all else stays. */
export function inTelegram3<T extends TelegramSheet>(sheet: T) {
  return {
    ...sheet,
    slug: `${sheet.slug}-telegram-3`,
    revision: 1,
    name: `${sheet.name}, telegram 3`,
    summary: `${sheet.name} when standard telegram 3 is chosen at it: speed in 32 bits, and an encoder, in 9 words each way.`,
    scalings: [...sheet.scalings, SPEED_32],
    uss: { ...sheet.uss, pzdWords: 9 },
    parameters: [
      ...entries(),
      ...sheet.parameters
        .filter((one) => !isProcess(one))
        .map((one) => ('role' in one && one.role === 'telegram' ? { ...one, default: 3 } : one)),
    ],
  };
}
