import * as v from 'valibot';
import { CableSchema, type Cable } from './cable';
import { checkCable, longestM, rightCores, wireList, wireListCsv } from './check-cable';
import { CONNECTORS, connectorOf, END_PRESETS } from './connectors';

const end = (preset: string, name: string): Cable['ends'][number] => {
  const found = END_PRESETS.find(({ id }) => id === preset)!;
  return { name, connector: found.connector, pinout: { ...found.pinout } };
};

function cable(medium: Cable['medium'], a: string, b: string, change: Partial<Cable> = {}): Cable {
  const ends: Cable['ends'] = [end(a, 'adapter'), end(b, 'drive')];
  return {
    medium,
    ends,
    cores: rightCores(medium, ends),
    lengthM: 20,
    longestStubM: 0.5,
    devices: 2,
    terminators: { near: true, far: true, between: 0, ohm: 120 },
    biased: 1,
    ...change,
  };
}

const texts = (made: Cable, rate = 19200): string =>
  checkCable(made, rate)
    .map(({ core, text }) => `${core}: ${text}`)
    .join('\n');

it.each<[string, Cable]>([
  ['RS-232, crossed', cable('rs232', 'computer', 'rs232-drive', { lengthM: 5 })],
  ['RS-485 DE-9 to RJ45', cable('rs485-2', 'modbus-de9', 'modbus-rj45')],
  ['RS-485 to terminals', cable('rs485-2', 'modbus-de9', 'terminals')],
  ['four-wire', cable('rs485-4', 'four-wire', 'four-wire')],
])('%s is right as it is made', (_, made) => {
  expect(texts(made)).toBe('');
  expect(v.safeParse(CableSchema, made).success).toBe(true);
});

it.each<[string, Cable, string]>([
  [
    'transmit to transmit',
    cable('rs232', 'computer', 'rs232-drive', {
      lengthM: 5,
      cores: [
        { from: '3', to: '3' },
        { from: '2', to: '2' },
        { from: '5', to: '5' },
      ],
    }),
    '0: pin 3 of adapter to pin 3 of drive: sends meets sends: both ends send on this core; cross it',
  ],
  [
    'A and B swapped',
    cable('rs485-2', 'modbus-de9', 'terminals', {
      cores: [
        { from: '5', to: '2' },
        { from: '9', to: '1' },
        { from: '1', to: '3' },
      ],
    }),
    'the conductors of a pair are swapped (A and B)',
  ],
  [
    'no common',
    cable('rs485-2', 'modbus-de9', 'terminals', {
      cores: [
        { from: '5', to: '1' },
        { from: '9', to: '2' },
      ],
    }),
    '-1: no common',
  ],
  [
    'pins counted from the wrong side',
    cable('rs485-2', 'modbus-de9', 'modbus-rj45', {
      cores: [
        { from: '5', to: '5' },
        { from: '9', to: '4' },
        { from: '1', to: '1' },
      ],
    }),
    'the pins of drive seem to be counted from the wrong side',
  ],
  [
    'a pin used twice',
    cable('rs485-2', 'modbus-de9', 'terminals', {
      cores: [
        { from: '5', to: '1' },
        { from: '5', to: '2' },
        { from: '1', to: '3' },
      ],
    }),
    '1: pin 5 of adapter has a core already: core 1',
  ],
  [
    'a pin that does not exist',
    cable('rs485-2', 'modbus-de9', 'terminals', { cores: [{ from: '11', to: '1' }] }),
    'has no pin 11',
  ],
  [
    'a core without a pin',
    cable('rs485-2', 'modbus-de9', 'terminals', { cores: [{ from: '', to: '1' }] }),
    'has no pin chosen',
  ],
  [
    'a pin without a signal',
    cable('rs485-2', 'modbus-de9', 'terminals', { cores: [{ from: '2', to: '1' }] }),
    'pin 2 of adapter carries no signal',
  ],
  ['a receive pair that nobody made', cable('rs485-4', 'four-wire', 'terminals'), 'no core carries sends +'],
  [
    'three devices on RS-232',
    cable('rs232', 'computer', 'rs232-drive', { lengthM: 5, devices: 3 }),
    'joins two devices, not 3',
  ],
  ['too long', cable('rs485-2', 'modbus-de9', 'terminals', { lengthM: 1300 }), '1300 m is more than about 1200 m'],
  [
    'a terminator in the middle',
    cable('rs485-2', 'modbus-de9', 'terminals', { terminators: { near: true, far: true, between: 2, ohm: 120 } }),
    '2 terminators between the ends',
  ],
  [
    'a missing terminator',
    cable('rs485-2', 'modbus-de9', 'terminals', {
      lengthM: 200,
      terminators: { near: true, far: false, between: 0, ohm: 120 },
    }),
    'a terminator is missing at the far end',
  ],
  ['a long stub', cable('rs485-2', 'modbus-de9', 'terminals', { longestStubM: 12 }), 'a stub of 12 m'],
  ['40 devices', cable('rs485-2', 'modbus-de9', 'terminals', { devices: 40 }), 'more than 32 unit loads'],
  ['no bias', cable('rs485-2', 'modbus-de9', 'terminals', { biased: 0 }), 'nothing pulls the resting line'],
  ['three biased places', cable('rs485-2', 'modbus-de9', 'terminals', { biased: 3 }), '3 places bias the line'],
])('%s is named', (_, made, text) => {
  expect(texts(made)).toContain(text);
});

// Common practice, no source.
it.each([
  ['rs485-2', 9600, 1200],
  ['rs485-2', 115_200, 868],
  ['rs485-4', 1_000_000, 100],
  ['rs232', 9600, 15],
  ['rs232', 38_400, 7],
] as const)('%s at %i bit/s reaches about %i m', (medium, rate, metres) => {
  expect(Math.floor(longestM(medium, rate))).toBe(metres);
});

it('colours come from the scheme; both schemes differ in the green and orange pairs only (ANSI/TIA-568, from memory)', () => {
  const colours = (id: string): readonly string[] => Object.values(connectorOf(id)?.colours ?? {});
  const differing = colours('rj45-a').flatMap((colour, i) => (colour === colours('rj45-b')[i] ? [] : [i + 1]));
  expect(differing).toEqual([1, 2, 3, 6]);
  expect(new Set(colours('rj45-b')).size).toBe(8);
  const rows = wireList(cable('rs485-2', 'modbus-de9', 'modbus-rj45'));
  expect(rows.map(({ from, colour, to }) => `${from} ${colour} ${to}`)).toEqual([
    '1 brown 8',
    '5 blue 4',
    '9 white/blue 5',
  ]);
});

it('the wire list is CSV that a spreadsheet reads', () => {
  const made = cable('rs485-2', 'modbus-de9', 'terminals');
  const csv = wireListCsv({ ...made, ends: [{ ...made.ends[0], name: 'laptop, left' }, made.ends[1]] });
  expect(csv.split('\r\n')[0]).toBe('core,"pin at laptop, left",signal,colour,pin at drive,signal');
  expect(csv.split('\r\n')).toHaveLength(5);
});

it('every connector mirrors onto itself, pin by pin', () => {
  for (const { pins, mirrored } of CONNECTORS) expect(pins.map((pin) => mirrored?.[mirrored[pin] ?? ''])).toEqual(pins);
});
