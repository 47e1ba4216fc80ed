import type { Segment } from './packet';

const WRAP = 2 ** 32;
/** So many bytes may wait for one that is missing; then it counts as lost by the capture. */
const MOST_WAITING = 1 << 18;
const MOST_SEGMENTS = 256;

/** How far `a` lies behind `b` on the circle of sequence numbers; negative when it lies before. */
const ahead = (a: number, b: number): number => {
  const distance = (a - b + WRAP) % WRAP;
  return distance >= WRAP / 2 ? distance - WRAP : distance;
};

/**
 * One direction of a connection put together again: repeats are dropped, what overtook others waits, what the capture lost is told
 * (RFC 9293, 3.4).
 */
export class TcpStream {
  readonly #onBytes: (bytes: Uint8Array, timeUs: number) => void;
  readonly #onLoss: (bytes: number, timeUs: number) => void;
  #next = -1;
  #waiting: { readonly sequence: number; readonly payload: Uint8Array; readonly timeUs: number }[] = [];

  constructor(onBytes: (bytes: Uint8Array, timeUs: number) => void, onLoss: (bytes: number, timeUs: number) => void) {
    this.#onBytes = onBytes;
    this.#onLoss = onLoss;
  }

  take({ sequence, payload, opens }: Segment, timeUs: number): void {
    if (opens) {
      this.flush(timeUs);
      this.#next = (sequence + 1) % WRAP;
    }
    if (payload.length === 0) return;
    if (this.#next < 0) this.#next = sequence;
    // A packet's bytes are borrowed from the file's chunk, so what waits is copied.
    if (ahead(sequence, this.#next) > 0) this.#waiting.push({ sequence, payload: payload.slice(), timeUs });
    else this.#pass(sequence, payload, timeUs);
    this.#drain();
    if (this.#waiting.length > MOST_SEGMENTS || this.#waitingBytes() > MOST_WAITING) this.#skip();
  }

  /** Nothing more comes: what waits is told, with what is missing before it. */
  flush(timeUs: number): void {
    while (this.#waiting.length > 0) this.#skip();
    if (timeUs < 0) this.#next = -1;
  }

  #waitingBytes(): number {
    return this.#waiting.reduce((sum, { payload }) => sum + payload.length, 0);
  }

  #pass(sequence: number, payload: Uint8Array, timeUs: number): void {
    const known = -ahead(sequence, this.#next);
    if (known >= payload.length) return;
    this.#onBytes(payload.subarray(known), timeUs);
    this.#next = (sequence + payload.length) % WRAP;
  }

  #drain(): void {
    for (;;) {
      const place = this.#waiting.findIndex(({ sequence }) => ahead(sequence, this.#next) <= 0);
      const [found] = place < 0 ? [] : this.#waiting.splice(place, 1);
      if (!found) return;
      this.#pass(found.sequence, found.payload, found.timeUs);
    }
  }

  /** The nearest of what waits comes next; the bytes before it were lost. */
  #skip(): void {
    const nearest = this.#waiting.reduce((best, one) => (ahead(one.sequence, best.sequence) < 0 ? one : best));
    this.#onLoss(ahead(nearest.sequence, this.#next), nearest.timeUs);
    this.#next = nearest.sequence;
    this.#drain();
  }
}
