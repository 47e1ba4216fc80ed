import { addWay, type WiringFacts } from './check-wiring';

/** Where a device stands in the drawing: columns by links from the root, rows so that no two share a place. */
export interface DrawnDevice {
  readonly name: string;
  readonly column: number;
  readonly row: number;
}

export interface DrawnLink {
  readonly link: number;
  readonly from: DrawnDevice;
  readonly to: DrawnDevice;
  /** It closes a ring: drawn beside the tree. */
  readonly closes: boolean;
}

export interface WiringPicture {
  readonly devices: readonly DrawnDevice[];
  readonly links: readonly DrawnLink[];
  readonly columns: number;
  readonly rows: number;
}

/** Lays a wiring out as a tree from its root; what is not reached from there stands below, as trees of its own. Linear. */
export function drawWiring({ devices, joins }: Pick<WiringFacts, 'devices' | 'joins'>): WiringPicture {
  const ways = new Map<string, string[]>();
  for (const { ends, ring } of joins) if (ring.length === 0) addWay(ways, ...ends);
  const placed = new Map<string, DrawnDevice>();
  let rows = 0;
  for (const { name } of devices) {
    if (placed.has(name)) continue;
    // Depth first, each device on the row of its first child; an explicit stack, since a line of drives may be long.
    const stack = [{ name, column: 0, isFirst: true, row: rows }];
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      if (placed.has(at.name)) continue;
      const row = at.isFirst ? at.row : rows;
      placed.set(at.name, { name: at.name, column: at.column, row });
      rows = Math.max(rows, row + 1);
      const next = (ways.get(at.name) ?? []).filter((other) => !placed.has(other));
      for (const [i, other] of [...next.entries()].reverse())
        stack.push({ name: other, column: at.column + 1, isFirst: i === 0, row });
    }
  }
  return {
    devices: [...placed.values()],
    links: joins.flatMap(({ link, ends: [a, b], ring }) => {
      const [from, to] = [placed.get(a), placed.get(b)];
      return from && to ? [{ link, from, to, closes: ring.length > 0 }] : [];
    }),
    columns: Math.max(0, ...[...placed.values()].map(({ column }) => column + 1)),
    rows,
  };
}
