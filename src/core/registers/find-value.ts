import { counted } from '../counted';

/**
 * Where registers hold a value that somebody knows, such as a rated voltage on a plate or a speed on a display: in every usual type, order of bytes
 * and decimal scale. Several known values together tell the order of words. Nothing is concluded from what any register could hold by chance.
 */

/** How the bytes of a wide value stand on the wire: which word goes first, and whether the bytes of each word are swapped. */
const ORDER_FAMILIES = [
  { id: 'high-first', name: 'high word first', 2: 'ABCD', 4: 'ABCDEFGH' },
  { id: 'low-first', name: 'low word first', 2: 'CDAB', 4: 'GHEFCDAB' },
  { id: 'high-first-swapped', name: 'high word first, bytes of each word swapped', 2: 'BADC', 4: 'BADCFEHG' },
  { id: 'low-first-swapped', name: 'low word first, bytes of each word swapped', 2: 'DCBA', 4: 'HGFEDCBA' },
] as const;
type OrderFamily = (typeof ORDER_FAMILIES)[number];
type FoundType = 'int16' | 'uint16' | 'int32' | 'uint32' | 'float32' | 'int64' | 'uint64' | 'float64';

/** A place that holds a known value, and as what. */
export interface ValueFound {
  readonly address: number;
  readonly words: 1 | 2 | 4;
  readonly type: FoundType;
  /** As a sheet says it; undefined for the plain one. */
  readonly order: string | undefined;
  readonly orderName: string;
  /** One count is 10 to the power of minus this; 0 for floats. */
  readonly places: number;
  /** Whether it is the value itself, not only what a display would round to it. */
  readonly isExact: boolean;
  /** Bits of agreement that chance would not give, less what had to be assumed; the greater, the surer. */
  readonly weight: number;
  /** In words: what stands there. */
  readonly text: string;
}

export interface KnownFound {
  readonly known: string;
  /** Why it cannot be looked for; empty where it was. */
  readonly trouble: string;
  /** What it may mean otherwise than it was taken; empty where there is no doubt. */
  readonly doubt: string;
  /** The surest first. */
  readonly found: readonly ValueFound[];
}

/** How many of the known values an order of words explains that no other place of one register does. */
export interface OrderEvidence {
  readonly name: string;
  readonly known: readonly string[];
}

export interface ValuesFound {
  readonly values: readonly KnownFound[];
  /** Orders that explain at least one value, the one that explains most first. */
  readonly orders: readonly OrderEvidence[];
}

/** More places of one value than this tell nothing. */
const MOST_FOUND = 12;
/** So many known values are looked for at once; more are told and left. */
export const MOST_KNOWN = 8;
/** Registers that are looked through; beyond that the search would be felt. */
export const MOST_SEARCHED = 4096;

/** A known value as typed: its number, and how many decimal places its display shows. */
interface Known {
  readonly text: string;
  readonly value: number;
  readonly places: number;
  /** Half of the last place that is shown. */
  readonly half: number;
}

const NUMBER = /^([+\-\u2212]?\d{1,15})(?:[.,](\d{1,6}))?(?!\d)/;

function knownIn(text: string): Known | string {
  const match = NUMBER.exec(text.trim());
  if (!match) return `“${text.trim()}” begins with no number`;
  const [, whole = '', fraction = ''] = match;
  const value = Number(`${whole.replace('\u2212', '-')}.${fraction || '0'}`);
  return value === 0
    ? '0 stands in many registers: take a value that is not 0'
    : { text: text.trim(), value, places: fraction.length, half: 0.5 * 10 ** -fraction.length };
}

/** Known values, separated by semicolons or lines, each once: twice the same proves no more. A comma belongs to a number. */
export const knownList = (text: string): readonly string[] => [
  ...new Set(
    text
      .split(/[;\n]/)
      .map((one) => one.trim())
      .filter((one) => one !== ''),
  ),
];

/** Three digits behind one mark may be thousands: that is said, and not decided. */
function doubtOf(text: string): string {
  const [, whole, mark, fraction] = /^[+\-\u2212]?([1-9]\d{0,2})([.,])(\d{3})(?!\d)/.exec(text) ?? [];
  return whole === undefined
    ? ''
    : `taken as ${whole}.${fraction ?? ''}; if ${mark === ',' ? 'the comma' : 'the point'} parts thousands, write ${whole}${fraction ?? ''}`;
}

interface Target {
  readonly known: number;
  readonly places: number;
  readonly isExact: boolean;
}

/** The raw integers that show a value, with the scale of each: exactly, or rounded by a display that shows one place less. */
function targetsOf(values: readonly Known[]): ReadonlyMap<number, readonly Target[]> {
  const targets = new Map<number, Target[]>();
  const put = (raw: number, target: Target): void => {
    const own = targets.get(raw) ?? [];
    if (!own.some(({ known, places }) => known === target.known && places === target.places))
      targets.set(raw, [...own, target]);
  };
  values.forEach(({ value, places: shown }, known) => {
    for (let places = 0; places <= shown + 3; places++) {
      const raw = value * 10 ** places;
      const whole = Math.round(raw);
      if (Math.abs(raw - whole) < 1e-6 && Math.abs(whole) <= Number.MAX_SAFE_INTEGER)
        put(whole, { known, places, isExact: true });
      if (places === shown + 1)
        for (let off = -5; off <= 5; off++) if (off !== 0) put(whole + off, { known, places, isExact: false });
    }
  });
  return targets;
}

const ONE_REGISTER: readonly OrderFamily[] = ORDER_FAMILIES.slice(0, 1);
const NONE: readonly Target[] = [];
const view = new DataView(new ArrayBuffer(8));

/** The words of a value put into the order of the number. */
function fill(words: readonly number[], count: number, { id }: OrderFamily): void {
  const isLowFirst = id === 'low-first' || id === 'low-first-swapped';
  const isSwapped = id === 'high-first-swapped' || id === 'low-first-swapped';
  for (let i = 0; i < count; i++) {
    const word = words[i] ?? 0;
    view.setUint16(2 * (isLowFirst ? count - 1 - i : i), isSwapped ? ((word & 0xff) << 8) | (word >>> 8) : word);
  }
}

/** What is read of so many words, type by type; a signed type only where it says another number. */
function eachReading(count: number, tell: (type: FoundType, number: number) => void): void {
  if (count === 1) {
    tell('uint16', view.getUint16(0));
    if (view.getInt16(0) < 0) tell('int16', view.getInt16(0));
  } else if (count === 2) {
    tell('uint32', view.getUint32(0));
    if (view.getInt32(0) < 0) tell('int32', view.getInt32(0));
    tell('float32', view.getFloat32(0));
  } else {
    const signed = Number(view.getBigInt64(0));
    tell(signed < 0 ? 'int64' : 'uint64', signed);
    tell('float64', view.getFloat64(0));
  }
}

/** A number whose other words are only its sign: its last word alone says as much. */
const isShort = (words: number, number: number): boolean =>
  words > 1 && number >= -(2 ** (16 * (words / 2) - 1)) && number < 2 ** (16 * (words / 2));

/** A small number may still have two registers: it is told behind the one alone. Of more words, or of swapped ones, nobody would guess it. */
const mayBeWide = (count: number, { id }: OrderFamily): boolean =>
  count === 2 && (id === 'high-first' || id === 'low-first');

const isFloat = (type: FoundType): boolean => type === 'float32' || type === 'float64';

/** Looks for known values in what was found, register by register; of very many registers only the first are looked at. */
export function findValues(words: ReadonlyMap<number, number>, texts: readonly string[]): ValuesFound {
  const read = texts.slice(0, MOST_KNOWN).map((text) => ({ text, known: knownIn(text) }));
  const known = read.flatMap((one) => (typeof one.known === 'string' ? [] : [one.known]));
  const targets = targetsOf(known);
  const found: ValueFound[][] = known.map(() => []);
  const addresses = [...words.keys()].sort((a, b) => a - b).slice(0, MOST_SEARCHED);
  const own = [0, 0, 0, 0];
  for (const address of addresses) {
    let there = 0;
    for (let word = words.get(address); word !== undefined && there < 4; word = words.get(address + there))
      own[there++] = word;
    for (const count of [1, 2, 4] as const) {
      if (count > there) break;
      for (const family of count === 1 ? ONE_REGISTER : ORDER_FAMILIES) {
        fill(own, count, family);
        eachReading(count, (type, number) => {
          const place = { address, count, family, type, number };
          if (isFloat(type)) {
            for (let i = 0; i < known.length; i++) {
              const one = known[i] as Known;
              // What is no number is near to none.
              if (!(Math.abs(number - one.value) <= one.half)) continue;
              const isExact = number === one.value || number === Math.fround(one.value);
              found[i]?.push(foundAt(place, one, { places: 0, isExact }));
            }
          } else if (!isShort(count, number) || mayBeWide(count, family))
            for (const target of targets.get(number) ?? NONE)
              found[target.known]?.push(foundAt(place, known[target.known] as Known, target));
        });
      }
    }
  }
  // Where more had to be assumed than agrees, chance alone would give it.
  const sorted = new Map(
    known.map((one, i) => [
      one,
      (found[i] ?? []).filter(({ weight }) => weight > 0).sort((a, b) => b.weight - a.weight),
    ]),
  );
  return {
    values: read.map(({ text, known: one }) =>
      typeof one === 'string'
        ? { known: text, trouble: one, doubt: '', found: [] }
        : {
            known: text,
            trouble: '',
            doubt: doubtOf(text.trim()),
            found: (sorted.get(one) ?? []).slice(0, MOST_FOUND),
          },
    ),
    orders: ordersOf(sorted),
  };
}

function foundAt(
  {
    address,
    count,
    family,
    type,
    number,
  }: {
    readonly address: number;
    readonly count: 1 | 2 | 4;
    readonly family: OrderFamily;
    readonly type: FoundType;
    readonly number: number;
  },
  known: Known,
  { places, isExact }: Pick<Target, 'places' | 'isExact'>,
): ValueFound {
  const isSmall = !isFloat(type) && isShort(count, number);
  // What the display tells: its digits, and for a float also that all the digits behind them fit.
  const bits = Math.log2(Math.abs(known.value) * 10 ** known.places + 1) + (isFloat(type) && isExact ? 6 : 0);
  const assumed =
    (isFloat(type) ? 0 : 2 * Math.abs(places - known.places)) +
    (family.id.endsWith('swapped') ? 3 : 0) +
    (isExact ? 0 : 4) +
    (isSmall ? 1 : 0);
  const last = address + count - 1;
  const where = count === 1 ? `${address}` : `${address} to ${last}`;
  const scale = places === 0 ? '' : ` in steps of ${(10 ** -places).toFixed(places)}`;
  const order = count === 1 ? '' : `, ${family.name}`;
  const shown = isFloat(type) ? Number(number.toPrecision(8)) : number;
  return {
    address,
    words: count,
    type,
    order: count === 1 || family.id === 'high-first' ? undefined : family[count],
    orderName: count === 1 ? '' : family.name,
    places,
    isExact,
    weight: bits - assumed,
    text: `${counted(count, 'register')}, ${where}: ${type}${scale}${order}, holds ${`${shown}`.replace('-', '−')}${isSmall ? '; the other register is only its sign, so it may be one alone' : ''}`,
  };
}

/** Below this a hit may well be chance, among some hundred registers read in every way. */
const LEAST_WEIGHT = 10;

function ordersOf(found: ReadonlyMap<Known, readonly ValueFound[]>): readonly OrderEvidence[] {
  const evidence = ORDER_FAMILIES.map(({ name }) => ({
    name,
    known: [...found].flatMap(([{ text }, places]) => {
      const [best] = places;
      // A value that one register holds as well says nothing of an order.
      const wide = places.find(({ orderName, weight }) => orderName === name && weight >= LEAST_WEIGHT);
      return wide && best && best.words > 1 && wide.weight >= best.weight - 3 ? [text] : [];
    }),
  }));
  return evidence.filter(({ known }) => known.length > 0).sort((a, b) => b.known.length - a.known.length);
}
