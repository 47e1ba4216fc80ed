import type { Segment } from './packet';

/** More ports than this are not counted. */
const MOST_PORTS = 1000;

/** Counts the ports of packets that were passed over, so that the one that was meant can be named. */
export class PortTally {
  readonly #packets = new Map<number, number>();

  count({ fromPort, toPort }: Pick<Segment, 'fromPort' | 'toPort'>): void {
    for (const port of [fromPort, toPort])
      if (this.#packets.has(port) || this.#packets.size < MOST_PORTS)
        this.#packets.set(port, (this.#packets.get(port) ?? 0) + 1);
  }

  /** The busiest port, the lower one of two alike (a caller's own port is rather high); empty where there was none. */
  text(): string {
    const [busiest] = [...this.#packets].sort(([a, n], [b, m]) => m - n || a - b);
    return busiest ? `; ${busiest[1]} of them are on port ${busiest[0]}: name it if it is the line` : '';
  }
}
