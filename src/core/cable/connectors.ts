import type { Signal } from './signals';

export const SIGNAL_TEXT: Readonly<Record<Signal, string>> = {
  tx: 'sends',
  rx: 'receives',
  rts: 'request to send',
  cts: 'clear to send',
  dtr: 'terminal ready',
  dsr: 'data set ready',
  dcd: 'carrier',
  ri: 'ring',
  plus: 'D1 (+)',
  minus: 'D0 (−)',
  'tx-plus': 'sends +',
  'tx-minus': 'sends −',
  'rx-plus': 'receives +',
  'rx-minus': 'receives −',
  common: 'common',
  shield: 'shield',
  supply: 'supply',
};

export type Pinout = Readonly<Record<string, Signal>>;

/** A connector as it is looked at from the front of the part that sits on the device. */
export interface ConnectorKind {
  readonly id: string;
  readonly name: string;
  readonly shape: 'dsub' | 'modular' | 'terminals';
  readonly pins: readonly string[];
  /** Colour of the core in each pin where a scheme fixes it. */
  readonly colours?: Readonly<Record<string, string>>;
  /** The same pins counted from the other side, which is the usual slip. */
  readonly mirrored?: Readonly<Record<string, string>>;
}

const numbers = (count: number): readonly string[] => Array.from({ length: count }, (_, i) => `${i + 1}`);
const zip = (pins: readonly string[], values: readonly string[]): Readonly<Record<string, string>> =>
  Object.fromEntries(pins.map((pin, i) => [pin, values[i] ?? '']));

const DE9 = numbers(9);
const DB25 = numbers(25);
const RJ45 = numbers(8);
const MIRRORED_DE9 = zip(DE9, ['5', '4', '3', '2', '1', '9', '8', '7', '6']);
/** Each row counted from its other end: 13 to 1, then 25 to 14. */
const MIRRORED_DB25 = zip(DB25, [...DB25.slice(0, 13).reverse(), ...DB25.slice(13).reverse()]);
const MIRRORED_RJ45 = zip(RJ45, [...RJ45].reverse());

/** Pair colours of the two schemes, pins 1 to 8 (ANSI/TIA-568, from memory). */
const T568A = ['white/green', 'green', 'white/orange', 'blue', 'white/blue', 'orange', 'white/brown', 'brown'];
const T568B = ['white/orange', 'orange', 'white/green', 'blue', 'white/blue', 'green', 'white/brown', 'brown'];

export const CONNECTORS: readonly ConnectorKind[] = [
  { id: 'de9', name: 'DE-9', shape: 'dsub', pins: DE9, mirrored: MIRRORED_DE9 },
  { id: 'db25', name: 'DB-25', shape: 'dsub', pins: DB25, mirrored: MIRRORED_DB25 },
  {
    id: 'modular-6',
    name: 'modular, 6 pins (RJ12)',
    shape: 'modular',
    pins: numbers(6),
    mirrored: zip(numbers(6), [...numbers(6)].reverse()),
  },
  {
    id: 'rj45-a',
    name: 'RJ45, colours T568A',
    shape: 'modular',
    pins: RJ45,
    colours: zip(RJ45, T568A),
    mirrored: MIRRORED_RJ45,
  },
  {
    id: 'rj45-b',
    name: 'RJ45, colours T568B',
    shape: 'modular',
    pins: RJ45,
    colours: zip(RJ45, T568B),
    mirrored: MIRRORED_RJ45,
  },
  {
    id: 'terminals-3',
    name: 'screw terminals, 3',
    shape: 'terminals',
    pins: ['1', '2', '3'],
    mirrored: zip(['1', '2', '3'], ['3', '2', '1']),
  },
  {
    id: 'terminals-5',
    name: 'screw terminals, 5',
    shape: 'terminals',
    pins: numbers(5),
    mirrored: zip(numbers(5), ['5', '4', '3', '2', '1']),
  },
];

/** A kind of connector by its id. */
export const connectorOf = (id: string): ConnectorKind | null => CONNECTORS.find((kind) => kind.id === id) ?? null;

/** Usual assignments, to start from. A drive's manual may have another one: that is what the fields are for. */
export interface EndPreset {
  readonly id: string;
  readonly name: string;
  readonly connector: string;
  readonly pinout: Pinout;
}

export const END_PRESETS: readonly EndPreset[] = [
  {
    // TIA-574, from memory.
    id: 'computer',
    name: 'computer, RS-232',
    connector: 'de9',
    pinout: {
      '1': 'dcd',
      '2': 'rx',
      '3': 'tx',
      '4': 'dtr',
      '5': 'common',
      '6': 'dsr',
      '7': 'rts',
      '8': 'cts',
      '9': 'ri',
    },
  },
  {
    // TIA-232-F, from memory.
    id: 'computer-25',
    name: 'computer or old drive, RS-232 on DB-25',
    connector: 'db25',
    pinout: {
      '1': 'shield',
      '2': 'tx',
      '3': 'rx',
      '4': 'rts',
      '5': 'cts',
      '6': 'dsr',
      '7': 'common',
      '8': 'dcd',
      '20': 'dtr',
      '22': 'ri',
    },
  },
  {
    id: 'rs232-drive',
    name: 'drive, RS-232 on DE-9',
    connector: 'de9',
    pinout: { '2': 'rx', '3': 'tx', '5': 'common' },
  },
  {
    // Modbus over Serial Line V1.02, 3.5, from memory.
    id: 'modbus-de9',
    name: 'RS-485 two-wire on DE-9, by the serial-line standard',
    connector: 'de9',
    pinout: { '1': 'common', '5': 'plus', '9': 'minus' },
  },
  {
    id: 'modbus-rj45',
    name: 'RS-485 two-wire on RJ45, by the serial-line standard',
    connector: 'rj45-b',
    pinout: { '4': 'plus', '5': 'minus', '8': 'common' },
  },
  {
    id: 'terminals',
    name: 'RS-485 two-wire on terminals',
    connector: 'terminals-3',
    pinout: { '1': 'plus', '2': 'minus', '3': 'common' },
  },
  {
    id: 'four-wire',
    name: 'RS-485 four-wire on terminals',
    connector: 'terminals-5',
    pinout: { '1': 'tx-plus', '2': 'tx-minus', '3': 'rx-plus', '4': 'rx-minus', '5': 'common' },
  },
];
