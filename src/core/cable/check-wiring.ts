import Papa from 'papaparse';
import { MEDIA, type Wiring, type WiringEnd, type WiringLink } from './wiring';

export interface WiringNote {
  /** Place in the list; -1 for the whole. */
  readonly link: number;
  readonly weight: 'fault' | 'warning';
  readonly text: string;
}

/** A link that joins two devices, and whether it makes a ring with those before it. */
export interface Join {
  readonly link: number;
  readonly ends: readonly [string, string];
  /** The devices of the ring that it closes, in order; empty where it closes none. */
  readonly ring: readonly string[];
}

/** What a wiring amounts to. */
export interface WiringFacts {
  readonly notes: readonly WiringNote[];
  readonly joins: readonly Join[];
  /** Devices in the order in which they are reached, with the links that lie between each and the root; null for those that are not reached. */
  readonly devices: readonly { readonly name: string; readonly hops: number | null }[];
}

const named = (text: string): string => text.trim();
const endsOf = ({ a, b }: WiringLink): readonly [WiringEnd, WiringEnd] => [a, b];

/**
 * What is wrong with a wiring: ends without a name, a device wired to itself, a port used twice, a ring that nobody wants or that is not closed, devices that are
 * not reached, names that differ in their letters' case only, links that are too long, devices of the address plan that no link goes to. Linear in the links but
 * for the rings that are named.
 */
export function checkWiring(wiring: Wiring, expected: readonly string[]): WiringFacts {
  const planned = [...new Set(expected.map(named))].filter((name) => name !== '');
  const joins = joinsOf(wiring);
  const devices = hopsOf(named(wiring.root), joins, wiring);
  return {
    joins,
    devices,
    notes: [
      ...wiring.links.flatMap(linkNotes),
      ...portNotes(wiring),
      ...ringNotes(wiring, joins),
      ...caseNotes(wiring, planned),
      ...reachNotes(wiring, devices, planned),
    ],
  };
}

function linkNotes(link: WiringLink, i: number): readonly WiringNote[] {
  const fault = (text: string): WiringNote => ({ link: i, weight: 'fault', text });
  const { name, mostM } = MEDIA[link.medium];
  const typed = link.lengthM.trim().replace(',', '.');
  const metres = /^\d+(?:\.\d+)?$/.test(typed) ? Number(typed) : NaN;
  return [
    ...endsOf(link).flatMap(({ device, port }, side) => [
      ...(named(device) === '' ? [fault(`the ${side === 0 ? 'first' : 'second'} device has no name`)] : []),
      ...(named(port) === ''
        ? [
            fault(
              `the ${side === 0 ? 'first' : 'second'} port is not said${named(device) === '' ? '' : `, at ${named(device)}`}`,
            ),
          ]
        : []),
    ]),
    ...(named(link.a.device) !== '' && named(link.a.device) === named(link.b.device)
      ? [fault(`${named(link.a.device)} is wired to itself`)]
      : []),
    ...(typed === ''
      ? []
      : Number.isNaN(metres)
        ? [fault(`“${link.lengthM.trim()}” is no length in metres`)]
        : metres > mostM
          ? [fault(`${typed} m of ${name}: ${mostM} m at most`)]
          : []),
  ];
}

/** Groups in the order in which they came. */
function grouped<T>(items: readonly T[], keyOf: (item: T) => string): readonly (readonly T[])[] {
  const groups = new Map<string, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return [...groups.values()];
}

function portNotes({ links }: Wiring): readonly WiringNote[] {
  const ends = links.flatMap((link, i) =>
    endsOf(link).flatMap(({ device, port }) =>
      named(device) === '' || named(port) === '' ? [] : [{ link: i, device: named(device), port: named(port) }],
    ),
  );
  return grouped(ends, ({ device, port }) => `${device}\n${port}`).flatMap((uses) =>
    uses.slice(1).map(({ link, device, port }): WiringNote => ({
      link,
      weight: 'fault',
      text: `port ${port} of ${device} is taken by link ${(uses[0]?.link ?? 0) + 1} already`,
    })),
  );
}

/** The links with both ends named, and the ring that each closes over those before it. */
function joinsOf({ links }: Wiring): readonly Join[] {
  const groups = new Map<string, string>();
  const find = (name: string): string => {
    let at = name;
    for (let up = groups.get(at); up !== undefined && up !== at; up = groups.get(at)) {
      groups.set(at, groups.get(up) ?? up);
      at = up;
    }
    return at;
  };
  const ways = new Map<string, string[]>();
  return links.flatMap((link, i): readonly Join[] => {
    const [a, b] = [named(link.a.device), named(link.b.device)];
    if (a === '' || b === '' || a === b) return [];
    if (find(a) === find(b)) return [{ link: i, ends: [a, b], ring: wayBetween(ways, a, b) }];
    groups.set(find(a), find(b));
    addWay(ways, a, b);
    return [{ link: i, ends: [a, b], ring: [] }];
  });
}

/** Notes for two devices that each is a neighbour of the other. */
export function addWay(ways: Map<string, string[]>, a: string, b: string): void {
  for (const [from, to] of [
    [a, b],
    [b, a],
  ] as const) {
    const known = ways.get(from);
    if (known) known.push(to);
    else ways.set(from, [to]);
  }
}

/** The one way from a device to another along links that make no ring. */
function wayBetween(ways: ReadonlyMap<string, readonly string[]>, from: string, to: string): readonly string[] {
  const before = new Map<string, string>([[from, '']]);
  const queue = [from];
  for (const at of queue) {
    if (at === to) break;
    for (const next of ways.get(at) ?? [])
      if (!before.has(next)) {
        before.set(next, at);
        queue.push(next);
      }
  }
  const path: string[] = [];
  for (let at = to; at !== ''; at = before.get(at) ?? '') path.push(at);
  return path.reverse();
}

function ringNotes({ ring, links }: Wiring, joins: readonly Join[]): readonly WiringNote[] {
  const closing = joins.filter((join) => join.ring.length > 0);
  if (ring && closing.length === 0)
    return links.length === 0
      ? []
      : [{ link: -1, weight: 'warning', text: 'a ring is wanted, and no link closes one' }];
  return closing.slice(ring ? 1 : 0).map(({ link, ring: around }): WiringNote => ({
    link,
    weight: 'fault',
    text: `it closes a ${ring ? 'second ring' : 'loop'}: ${[...around, around[0] ?? ''].join(' – ')}`,
  }));
}

const namesIn = ({ root, links }: Wiring): readonly string[] =>
  [...new Set([named(root), ...links.flatMap(({ a, b }) => [named(a.device), named(b.device)])])].filter(
    (name) => name !== '',
  );

function caseNotes(wiring: Wiring, expected: readonly string[]): readonly WiringNote[] {
  return grouped([...new Set([...expected, ...namesIn(wiring)])], (name) => name.toLowerCase()).flatMap((spelt) =>
    spelt.length < 2
      ? []
      : [
          {
            link: -1,
            weight: 'warning',
            text: `${spelt.map((name) => `“${name}”`).join(' and ')}: two devices, or one that is written in two ways`,
          },
        ],
  );
}

function hopsOf(root: string, joins: readonly Join[], wiring: Wiring): WiringFacts['devices'] {
  const ways = new Map<string, string[]>();
  for (const { ends } of joins) addWay(ways, ...ends);
  // What is put into a map while it is gone through is gone through too: the nearest devices first.
  const hops = new Map<string, number>(root === '' ? [] : [[root, 0]]);
  for (const [at, count] of hops) for (const next of ways.get(at) ?? []) if (!hops.has(next)) hops.set(next, count + 1);
  return [
    ...[...hops].map(([name, count]) => ({ name, hops: count })),
    ...namesIn(wiring).flatMap((name) => (hops.has(name) ? [] : [{ name, hops: null }])),
  ];
}

function reachNotes(
  { root, links }: Wiring,
  devices: WiringFacts['devices'],
  expected: readonly string[],
): readonly WiringNote[] {
  const whole = (weight: WiringNote['weight'], text: string): WiringNote => ({ link: -1, weight, text });
  const wired = new Set(links.flatMap(({ a, b }) => [named(a.device), named(b.device)]));
  const apart = devices.filter(({ hops }) => hops === null).map(({ name }) => name);
  return [
    ...(links.length > 0 && !wired.has(named(root))
      ? [
          whole(
            'fault',
            `${named(root) === '' ? 'the device to count from is not said' : `no link goes to ${named(root)}`}`,
          ),
        ]
      : apart.length > 0
        ? [whole('fault', `not reached from ${named(root)}: ${apart.join(', ')}`)]
        : []),
    ...(links.length === 0
      ? []
      : expected
          .filter((name) => !wired.has(name))
          .map((name) => whole('warning', `${name} is in the address plan, and no link goes to it`))),
  ];
}

/** The list as CSV, for a spreadsheet or a label printer: a row a link, with how far the nearer end is from the root. */
export function wiringCsv(wiring: Wiring): string {
  const hops = new Map(checkWiring(wiring, []).devices.map((device) => [device.name, device.hops]));
  const rows = wiring.links.map(({ a, b, medium, lengthM }, i) => {
    const near = [hops.get(named(a.device)), hops.get(named(b.device))].filter((count) => typeof count === 'number');
    return [
      i + 1,
      named(a.device),
      named(a.port),
      named(b.device),
      named(b.port),
      MEDIA[medium].name,
      lengthM.trim(),
      near.length === 0 ? '' : Math.min(...near),
    ];
  });
  const head = [
    'link',
    'device',
    'port',
    'device',
    'port',
    'medium',
    'length in m',
    `links from ${named(wiring.root)}`,
  ];
  return `${Papa.unparse([head, ...rows], { newline: '\r\n', escapeFormulae: true })}\r\n`;
}
