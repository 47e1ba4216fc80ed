import type { Parameter } from '../sheet/parameter-section';

/**
 * The long tail of the dictionaries that ship, made from one small table, so that a drive of the demo has as many values as a real one has: inputs,
 * outputs, guards, a regulator, counters, past faults. All of it is invented, and stands for no product.
 */

type Names = readonly (readonly [number, string])[];

/** An entry before it has its number: `locked` needs the key, `resetsRide` sets the group Ride back. */
type TailValue = Omit<Parameter, 'number' | 'at'> & {
  readonly locked?: true;
  readonly isKey?: true;
  readonly resetsRide?: true;
};
type More = Partial<TailValue>;

interface TailGroup {
  /** Where the drive's own keys find it. */
  readonly menu: string;
  /** How often the group comes; `%` in a name is the number of the channel. */
  readonly times: number;
  readonly values: readonly TailValue[];
}

const ON: Names = [
  [0, 'off'],
  [1, 'on'],
];
const USES: Names = [
  [0, 'free'],
  [1, 'run'],
  [2, 'reverse'],
  [3, 'fixed speed'],
  [4, 'fault reset'],
  [5, 'outside fault'],
];
const SHOWS: Names = [
  [0, 'nothing'],
  [1, 'ready'],
  [2, 'turning'],
  [3, 'fault'],
  [4, 'at speed'],
  [5, 'no load'],
];
const SEEN_AT_OUTPUT: Names = [
  [0, 'speed'],
  [1, 'current'],
  [2, 'load'],
  [3, 'voltage'],
];
const LOSSES: Names = [
  [0, 'go on'],
  [1, 'lowest speed'],
  [2, 'ramp down'],
  [3, 'fault'],
];

/** One value: name, unit, value of a count, least, most, default (in counts), and what is special about it. */
const value = (
  name: string,
  unit: string,
  one: string,
  min: number,
  max: number,
  byDefault: number,
  more: More = {},
): TailValue => ({
  name,
  ...(unit === '' ? {} : { unit }),
  type: min < 0 ? 'int16' : max > 0xffff ? 'uint32' : 'uint16',
  ...(one === '1' ? {} : { scale: { kind: 'resolution', value: one } }),
  min,
  max,
  default: byDefault,
  write: 'always',
  kept: true,
  ...more,
});

const choice = (name: string, names: Names, byDefault: number, more: More = {}): TailValue => ({
  name,
  type: 'uint16',
  choices: names.map(([number, text]) => ({ value: number, name: text })),
  default: byDefault,
  write: 'standstill',
  kept: true,
  ...more,
});

/** What the drive shows and nobody writes. */
const shown = (name: string, unit: string, one: string, min: number, max: number, byDefault: number): TailValue =>
  value(name, unit, one, min, max, byDefault, { write: 'never', kept: false });
const MOST_COUNTED = 4_000_000_000;
const counter = (name: string, unit: string, one: string, byDefault: number): TailValue =>
  shown(name, unit, one, 0, MOST_COUNTED, byDefault);

const GROUPS: readonly TailGroup[] = [
  {
    menu: 'Plate',
    times: 1,
    values: [
      value('plate voltage', 'V', '1', 180, 480, 400, { role: 'rated-voltage', write: 'standstill', sizeBound: true }),
      value('plate power', 'kW', '0.01', 37, 2200, 400, { role: 'rated-power', write: 'standstill', sizeBound: true }),
      value('plate power factor', '', '0.01', 50, 100, 81, {
        role: 'power-factor',
        write: 'standstill',
        sizeBound: true,
      }),
      value('winding resistance', 'ohm', '0.001', 0, 60000, 1820, { write: 'standstill', sizeBound: true }),
      value('no-load current', 'A', '0.1', 0, 400, 31, { write: 'standstill', sizeBound: true }),
      value('overload for one minute', '%', '1', 100, 200, 150, { sizeBound: true }),
    ],
  },
  {
    menu: 'Wires',
    times: 8,
    values: [
      choice('wire % use', USES, 0),
      value('wire % delay', 'ms', '1', 0, 5000, 0),
      choice(
        'wire % sense',
        [
          [0, 'high is on'],
          [1, 'low is on'],
        ],
        0,
        { effect: 'restart' },
      ),
    ],
  },
  {
    menu: 'Signals in',
    times: 3,
    values: [
      choice(
        'signal % kind',
        [
          [0, '0 to 10 V'],
          [1, '0 to 20 mA'],
          [2, '4 to 20 mA'],
        ],
        0,
        { effect: 'restart' },
      ),
      value('signal % low end', '%', '0.1', -1000, 1000, 0),
      value('signal % high end', '%', '0.1', -1000, 1000, 1000),
      value('signal % filter', 's', '0.01', 0, 1000, 10),
      value('signal % dead band', '%', '0.1', 0, 200, 0),
      choice('signal % lost', LOSSES, 3),
    ],
  },
  {
    menu: 'Relays',
    times: 4,
    values: [
      choice('relay % shows', SHOWS, 3),
      value('relay % on delay', 's', '0.1', 0, 6000, 0),
      value('relay % off delay', 's', '0.1', 0, 6000, 0),
      choice(
        'relay % sense',
        [
          [0, 'closes'],
          [1, 'opens'],
        ],
        0,
      ),
    ],
  },
  {
    menu: 'Signals out',
    times: 2,
    values: [
      choice('meter % shows', SEEN_AT_OUTPUT, 0, { write: 'always' }),
      value('meter % low end', '%', '0.1', 0, 2000, 0, { outside: 'limited' }),
      value('meter % high end', '%', '0.1', 0, 2000, 1000, { outside: 'limited' }),
      value('meter % filter', 's', '0.01', 0, 1000, 20),
    ],
  },
  {
    menu: 'Fixed speeds',
    times: 8,
    values: [value('fixed speed %', '%', '0.1', -1000, 1000, 0, { kept: false })],
  },
  {
    menu: 'Regulator',
    times: 2,
    values: [
      choice('regulator %', ON, 0, { locked: true }),
      value('regulator % gain', '', '0.01', 0, 10000, 100, { locked: true }),
      value('regulator % integral time', 's', '0.01', 0, 60000, 300, { locked: true }),
      value('regulator % derivative time', 's', '0.001', 0, 10000, 0, { locked: true }),
      value('regulator % low limit', '%', '0.1', -1000, 1000, 0, { locked: true }),
      value('regulator % high limit', '%', '0.1', -1000, 1000, 1000, { locked: true }),
      value('regulator % dead band', '%', '0.1', 0, 500, 5, { locked: true }),
      value('regulator % wanted', '%', '0.1', -1000, 1000, 500, { locked: true }),
    ],
  },
  {
    menu: 'Clock',
    times: 4,
    values: [
      value('timer % begins', 'min', '1', 0, 1440, 0, { step: 5 }),
      value('timer % lasts', 'min', '1', 0, 1440, 0, { step: 5 }),
      choice('timer % starts', USES, 0),
    ],
  },
  {
    menu: 'Guards',
    times: 1,
    values: [
      value('heat sink warning', '°C', '1', 40, 110, 85),
      value('heat sink trip', '°C', '1', 40, 120, 95),
      choice(
        'motor heat guard',
        [
          [0, 'off'],
          [1, 'by its model'],
          [2, 'by a probe'],
        ],
        1,
      ),
      value('motor heat time', 'min', '1', 1, 120, 20),
      value('no-load level', '%', '1', 0, 100, 20),
      value('no-load delay', 's', '0.1', 0, 6000, 100),
      choice('on no load', LOSSES, 0),
      value('stall level', '%', '1', 50, 200, 150),
      value('stall delay', 's', '0.1', 1, 600, 20),
      choice('on a missing phase', LOSSES, 3),
      value('tries after a fault', '', '1', 0, 10, 0),
      value('pause before a try', 's', '0.1', 5, 6000, 100),
      choice('starts by itself after power', ON, 0, { role: 'power-return' }),
      value('brake resistor share', '%', '1', 0, 100, 10),
      value('voltage dip bridged', 's', '0.01', 0, 500, 30),
    ],
  },
  {
    menu: 'Ride',
    times: 1,
    values: [
      value('second ramp time', 's', '0.1', 1, 6000, 80),
      value('fast stop time', 's', '0.1', 1, 6000, 15),
      value('start boost', '%', '0.1', 0, 300, 20),
      value('slip made up', '%', '1', 0, 200, 60),
      choice(
        'way to stop',
        [
          [0, 'ramp'],
          [1, 'let run out'],
          [2, 'brake by current'],
        ],
        0,
        { role: 'stop-way' },
      ),
      value('braking current', '%', '1', 0, 100, 40),
      value('braking time', 's', '0.1', 0, 600, 10),
      choice('finds a turning shaft', ON, 0),
      value('switching rate', 'kHz', '1', 2, 16, 4, { outside: 'limited' }),
      choice('quiet at low load', ON, 0),
      choice(
        'fan of the drive',
        [
          [0, 'always'],
          [1, 'when warm'],
          [2, 'when it turns'],
        ],
        1,
      ),
    ],
  },
  {
    menu: 'Panel',
    times: 1,
    values: [
      choice(
        'panel language',
        [
          [0, 'pictures'],
          [1, 'long words'],
          [2, 'short words'],
        ],
        0,
        { write: 'always' },
      ),
      choice('panel shows', SEEN_AT_OUTPUT, 0, { write: 'always' }),
      value('panel factor', '', '0.001', 1, 60000, 1000),
      value('panel dims after', 'min', '1', 0, 120, 10),
      value('key', '', '1', 0, 9999, 0, { isKey: true, kept: false }),
      choice(
        'load a preset',
        [
          [0, 'nothing'],
          [1, 'fan'],
          [2, 'pump'],
          [3, 'belt'],
        ],
        0,
        { resetsRide: true, kept: false },
      ),
    ],
  },
  {
    menu: 'Seen',
    times: 1,
    values: [
      counter('hours under power', 'h', '1', 6213),
      counter('hours turning', 'h', '1', 3977),
      counter('times started', '', '1', 1204),
      counter('energy used', 'kWh', '0.1', 181_402),
      shown('heat sink', '°C', '1', -40, 150, 41),
      shown('inside air', '°C', '1', -40, 150, 33),
      shown('signal 1 now', '%', '0.1', -1000, 1000, 0),
      shown('load now', '%', '0.1', -3000, 3000, 0),
    ],
  },
  {
    menu: 'Past faults',
    times: 8,
    values: [
      shown('past fault %', '', '1', 0, 999, 0),
      counter('past fault % at', 'h', '1', 0),
      shown('past fault % load', '%', '0.1', -3000, 3000, 0),
    ],
  },
];

/** The key that opens what is locked. */
const KEY = 2718;

/** How a sheet numbers its tail: the first group's number, or its first one and how many numbers each group has. */
export type TailNumbering =
  | { readonly kind: 'groups'; readonly first: number }
  | { readonly kind: 'row'; readonly first: number; readonly stride: number; readonly uss?: true };

/** Numbers in a row within each group; a value of 32 bits in registers takes two. */
function numberedGroup({ values, times }: TailGroup, group: number, numbering: TailNumbering) {
  let at = 0;
  return Array.from({ length: times }, (_, channel) => values.map((own) => ({ own, channel })))
    .flat()
    .map(({ own, channel }) => {
      const number =
        numbering.kind === 'groups'
          ? `${numbering.first + group}.${String(at + 1).padStart(2, '0')}`
          : `${numbering.first + group * numbering.stride + at}`;
      at += own.type === 'uint32' ? 2 : 1;
      return { own, number, name: own.name.replace('%', `${channel + 1}`) };
    });
}

/** The entries of the tail as a sheet numbers them. */
export function longTail(numbering: TailNumbering): readonly Parameter[] {
  const groups = GROUPS.map((group, i) => ({ group, entries: numberedGroup(group, i, numbering) }));
  const key = groups.flatMap(({ entries }) => entries).find(({ own }) => own.isKey)?.number ?? '';
  const ride = groups.find(({ group }) => group.menu === 'Ride')?.entries.map(({ number }) => number) ?? [];
  return groups.flatMap(({ group, entries }) =>
    entries.map(({ own, number, name }): Parameter => {
      const { locked, resetsRide, ...marked } = own;
      const { isKey, ...rest } = marked;
      return {
        ...rest,
        number,
        name,
        ...(numbering.kind === 'row' && numbering.uss ? { at: [{ kind: 'uss', number: Number(number) }] } : {}),
        path: `Menu, ${group.menu.toLowerCase()}`,
        ...(isKey ? { secret: true } : {}),
        ...(locked ? { lockedBy: { parameter: key, value: KEY } } : {}),
        ...(resetsRide ? { resets: [...ride] } : {}),
      };
    }),
  );
}
