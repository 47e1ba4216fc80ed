import Papa from 'papaparse';
import { counted } from '../counted';
import type { Cable, CableCore, CableEnd } from './cable';
import type { Signal } from './signals';
import { connectorOf, SIGNAL_TEXT } from './connectors';

/** A fault of a cable, at a core (its place in the list), or of the whole with -1. */
export interface CableFault {
  readonly core: number;
  /** `warning`: it may work, but not well. */
  readonly weight: 'fault' | 'warning';
  readonly text: string;
}

/** What each signal must meet at the other end. */
const PARTNERS: Readonly<Record<Cable['medium'], Readonly<Partial<Record<Signal, Signal>>>>> = {
  rs232: { tx: 'rx', rx: 'tx', common: 'common', rts: 'cts', cts: 'rts', dtr: 'dsr', dsr: 'dtr', shield: 'shield' },
  'rs485-2': { plus: 'plus', minus: 'minus', common: 'common', shield: 'shield' },
  'rs485-4': {
    'tx-plus': 'rx-plus',
    'tx-minus': 'rx-minus',
    'rx-plus': 'tx-plus',
    'rx-minus': 'tx-minus',
    common: 'common',
    shield: 'shield',
  },
};

/** Signals without which nothing works; handshake lines are extra. */
const NEEDED: Readonly<Record<Cable['medium'], readonly Signal[]>> = {
  rs232: ['tx', 'rx', 'common'],
  'rs485-2': ['plus', 'minus', 'common'],
  'rs485-4': ['tx-plus', 'tx-minus', 'rx-plus', 'rx-minus', 'common'],
};

const HANDSHAKE: ReadonlySet<Signal> = new Set(['rts', 'cts', 'dtr', 'dsr', 'dcd', 'ri']);

/** RS-485: 1200 m at low rates, falling as the rate rises, about 10^8 m·bit/s (common practice, no source). */
const RS485_LONGEST_M = 1200;
const RS485_PRODUCT = 1e8;
/** RS-232: about 15 m at 20 kbit/s (common practice, no source). */
const RS232_LONGEST_M = 15;
const RS232_RATE = 20_000;
/** Unit loads on an RS-485 line (TIA-485, from memory). */
const UNIT_LOADS = 32;
/** A stub should be shorter than this (common practice, no source). */
const LONGEST_STUB_M = 3;
/** Shorter lines at low rates work without terminators (common practice, no source). */
const NEEDS_TERMINATORS_M = 30;

/** Longest cable at a rate in bit/s, in metres. */
export const longestM = (medium: Cable['medium'], rate: number): number =>
  medium === 'rs232'
    ? Math.min(RS232_LONGEST_M, (RS232_LONGEST_M * RS232_RATE) / rate)
    : Math.min(RS485_LONGEST_M, RS485_PRODUCT / rate);

const fault = (core: number, text: string): CableFault => ({ core, weight: 'fault', text });
const warning = (text: string, core = -1): CableFault => ({ core, weight: 'warning', text });

/** All that is wrong with a cable; `rate` in bit/s where it is known. An empty list means that it can be made. */
export function checkCable(cable: Cable, rate: number | null): readonly CableFault[] {
  const wiring = wiringFaults(cable);
  return [...wiring, ...mirrorHint(cable, wiring), ...lineFaults(cable, rate)];
}

const signalAt = ({ pinout }: CableEnd, pin: string): Signal | undefined =>
  Object.hasOwn(pinout, pin) ? pinout[pin] : undefined;

const pinText = ({ name, connector }: CableEnd, pin: string): string =>
  `${connectorOf(connector)?.shape === 'terminals' ? 'terminal' : 'pin'} ${pin} of ${name}`;

function wiringFaults(cable: Cable): readonly CableFault[] {
  return [
    ...pinFaults(cable),
    ...cable.cores.flatMap((core, i) => coreFaults(cable, core, i)),
    ...missingFaults(cable),
  ];
}

function pinFaults({ ends, cores }: Cable): readonly CableFault[] {
  return ends.flatMap((end, side) => {
    const kind = connectorOf(end.connector);
    if (!kind) return [fault(-1, `${end.name} has an unknown connector`)];
    const seen = new Map<string, number>();
    return cores.flatMap((core, i) => {
      const pin = side === 0 ? core.from : core.to;
      if (!kind.pins.includes(pin))
        return [fault(i, `${kind.name} of ${end.name} has no ${pin === '' ? 'pin chosen' : `pin ${pin}`}`)];
      const first = seen.get(pin);
      seen.set(pin, i);
      return first === undefined ? [] : [fault(i, `${pinText(end, pin)} has a core already: core ${first + 1}`)];
    });
  });
}

function coreFaults({ ends, medium }: Cable, { from, to }: CableCore, i: number): readonly CableFault[] {
  const [a, b] = [signalAt(ends[0], from), signalAt(ends[1], to)];
  const where = `${pinText(ends[0], from)} to ${pinText(ends[1], to)}`;
  if (a === undefined && b === undefined) return [];
  if (a === undefined || b === undefined) {
    const [end, pin] = a === undefined ? ([ends[0], from] as const) : ([ends[1], to] as const);
    return [fault(i, `${where}: ${pinText(end, pin)} carries no signal`)];
  }
  const wanted = PARTNERS[medium][a];
  if (wanted === undefined)
    return HANDSHAKE.has(a) || a === 'supply'
      ? [warning(`${where}: ${SIGNAL_TEXT[a]} is not needed here`, i)]
      : [fault(i, `${where}: ${SIGNAL_TEXT[a]} has no place on this kind of line`)];
  return b === wanted ? [] : [fault(i, `${where}: ${meeting(a, b)}`)];
}

/** What it means that two signals meet. */
function meeting(a: Signal, b: Signal): string {
  const what = `${SIGNAL_TEXT[a]} meets ${SIGNAL_TEXT[b]}`;
  if (a === b && (a === 'tx' || a === 'rx' || a.startsWith('tx-') || a.startsWith('rx-')))
    return `${what}: both ends ${a.startsWith('tx') ? 'send' : 'receive'} on this core; cross it`;
  const polarity = (signal: Signal): string | undefined => /(plus|minus)$/.exec(signal)?.[1];
  if (polarity(a) !== undefined && polarity(b) !== undefined && polarity(a) !== polarity(b))
    return `${what}: the conductors of a pair are swapped (A and B)`;
  return `${what}: they do not belong together`;
}

/** Needed signals of either end that no core carries. */
function missingFaults({ ends, cores, medium }: Cable): readonly CableFault[] {
  return NEEDED[medium].flatMap((signal) => {
    const carried = cores.some(
      ({ from, to }) => signalAt(ends[0], from) === signal || signalAt(ends[1], to) === signal,
    );
    if (carried) return [];
    return [
      fault(
        -1,
        signal === 'common'
          ? 'no common: the two ends have no common potential, which works until it does not'
          : `no core carries ${SIGNAL_TEXT[signal]}`,
      ),
    ];
  });
}

/** When counting one end's pins from the other side mends the wiring, that is the likely slip. */
function mirrorHint(cable: Cable, wiring: readonly CableFault[]): readonly CableFault[] {
  const bad = wiring.filter(({ weight }) => weight === 'fault').length;
  if (bad === 0) return [];
  return ([0, 1] as const).flatMap((side) => {
    const mirrored = connectorOf(cable.ends[side].connector)?.mirrored;
    if (!mirrored) return [];
    const turned: Cable = {
      ...cable,
      cores: cable.cores.map((core) =>
        side === 0
          ? { ...core, from: mirrored[core.from] ?? core.from }
          : { ...core, to: mirrored[core.to] ?? core.to },
      ),
    };
    return wiringFaults(turned).some(({ weight }) => weight === 'fault')
      ? []
      : [
          fault(
            -1,
            `the pins of ${cable.ends[side].name} seem to be counted from the wrong side: counted the other way all cores are right`,
          ),
        ];
  });
}

function lineFaults(
  { medium, lengthM, longestStubM, devices, terminators, biased }: Cable,
  rate: number | null,
): readonly CableFault[] {
  const most = rate === null ? null : longestM(medium, rate);
  const long =
    most !== null && lengthM > most
      ? [warning(`${lengthM} m is more than about ${Math.floor(most)} m, which ${rate} bit/s allow (common practice)`)]
      : [];
  if (medium === 'rs232')
    return [...long, ...(devices > 2 ? [fault(-1, `RS-232 joins two devices, not ${devices}`)] : [])];
  const { near, far, between } = terminators;
  return [
    ...long,
    ...(between > 0
      ? [fault(-1, `${counted(between, 'terminator')} between the ends: only the two outermost ends have one`)]
      : []),
    ...(lengthM > NEEDS_TERMINATORS_M && !(near && far)
      ? [
          warning(
            `a terminator is missing at the ${near ? 'far' : far ? 'near' : 'near and the far'} end; from about ${NEEDS_TERMINATORS_M} m on the line needs both`,
          ),
        ]
      : []),
    ...(longestStubM > LONGEST_STUB_M
      ? [
          warning(
            `a stub of ${longestStubM} m: keep stubs shorter than ${LONGEST_STUB_M} m, or lead the line through each device`,
          ),
        ]
      : []),
    ...(devices > UNIT_LOADS
      ? [
          warning(
            `${devices} devices: more than ${UNIT_LOADS} unit loads need devices of a fraction of a load, or a repeater`,
          ),
        ]
      : []),
    ...(biased === 0
      ? [warning('nothing pulls the resting line to its level: noise reads as characters between frames')]
      : []),
    ...(biased > 1 ? [warning(`${biased} places bias the line: one is enough, more weigh it down`)] : []),
  ];
}

/** The wire list that is carried to the bench: one row a core, in the order of the first end's pins. */
export interface WireRow {
  readonly core: number;
  readonly from: string;
  readonly fromSignal: string;
  readonly colour: string;
  readonly to: string;
  readonly toSignal: string;
}

/** The cores of a cable in the order of the first end’s pins, as they are wired at a bench. */
export function wireList({ ends, cores }: Cable): readonly WireRow[] {
  const order = connectorOf(ends[0].connector)?.pins ?? [];
  return cores
    .map((core, i): WireRow => {
      const [a, b] = [signalAt(ends[0], core.from), signalAt(ends[1], core.to)];
      return {
        core: i + 1,
        from: core.from,
        fromSignal: a ? SIGNAL_TEXT[a] : '',
        colour: core.colour ?? colourOf(ends, core),
        to: core.to,
        toSignal: b ? SIGNAL_TEXT[b] : '',
      };
    })
    .sort((a, b) => order.indexOf(a.from) - order.indexOf(b.from));
}

/** The colour that a scheme gives a core; the first end's where both have one. */
export const colourOf = (ends: Cable['ends'], { from, to }: CableCore): string =>
  ownOf(connectorOf(ends[0].connector)?.colours, from) ?? ownOf(connectorOf(ends[1].connector)?.colours, to) ?? '';

/** A pin may be called anything, a member of every object too. */
const ownOf = (map: Readonly<Record<string, string>> | undefined, key: string): string | undefined =>
  map && Object.hasOwn(map, key) ? map[key] : undefined;

/** The cores that join two ends as they should be, from their pinouts. */
export function rightCores(medium: Cable['medium'], [a, b]: Cable['ends']): Cable['cores'] {
  return Object.entries(a.pinout).flatMap(([from, signal]) => {
    const wanted = NEEDED[medium].includes(signal) ? PARTNERS[medium][signal] : undefined;
    const to = wanted && Object.entries(b.pinout).find(([, other]) => other === wanted)?.[0];
    return to === undefined ? [] : [{ from, to }];
  });
}

/** The wire list as CSV, for a spreadsheet or a label printer. */
export function wireListCsv(cable: Cable): string {
  const [a, b] = cable.ends;
  const head = ['core', `pin at ${a.name}`, 'signal', 'colour', `pin at ${b.name}`, 'signal'];
  const rows = wireList(cable).map((row) => [
    `${row.core}`,
    row.from,
    row.fromSignal,
    row.colour,
    row.to,
    row.toSignal,
  ]);
  return `${Papa.unparse([head, ...rows], { newline: '\r\n', escapeFormulae: true })}\r\n`;
}
