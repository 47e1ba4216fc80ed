import type { LineCommand } from '../messages/line';
import type { ExchangeResult } from '../link/request';

/** A held key that is not said again for so long counts as let go. */
const HELD_MS = 300;

/** What held keys need of the host. */
export interface HeldPorts {
  readonly nowMs: () => number;
  readonly send: (line: string, station: number, bytes: Uint8Array, ticket: number) => void;
  readonly stop: (line: string, station: number, cause: string) => void;
}

/** A key that is held down at a drive. */
interface Hold {
  readonly line: string;
  readonly station: number;
  readonly release: readonly Uint8Array[];
  /** When the page said last that it is held. */
  readonly saidMs: number;
}

const keyOf = (line: string, station: number): string => `${line} ${station}`;

/**
 * Keys that let a shaft turn while they are held. The page says over and over that one is held; when it does not, and when what ends a hold is not
 * confirmed, the drive is stopped by all means that there are.
 */
export class HeldKeys {
  readonly #ports: HeldPorts;
  readonly #held = new Map<string, Hold>();
  /** Requests that end a hold, by ticket; the page's own tickets are positive. */
  readonly #releases = new Map<number, Hold>();
  #nextTicket = -1;

  constructor(ports: HeldPorts) {
    this.#ports = ports;
  }

  press({ line, station, press, release }: Extract<LineCommand, { kind: 'hold' }>): void {
    this.#held.set(keyOf(line, station), { line, station, release, saidMs: this.#ports.nowMs() });
    for (const bytes of press) this.#ports.send(line, station, bytes, 0);
  }

  saidAgain(line: string, station: number): void {
    const hold = this.#held.get(keyOf(line, station));
    if (hold) this.#held.set(keyOf(line, station), { ...hold, saidMs: this.#ports.nowMs() });
  }

  letGo(line: string, station: number): void {
    const hold = this.#held.get(keyOf(line, station));
    if (!hold) return;
    this.#held.delete(keyOf(line, station));
    for (const bytes of hold.release) {
      const ticket = this.#nextTicket--;
      this.#releases.set(ticket, hold);
      this.#ports.send(line, station, bytes, ticket);
    }
  }

  /** An exchange is over; was it the end of a hold? */
  exchanged({ request, outcome }: ExchangeResult): void {
    const release = this.#releases.get(request.ticket);
    if (!release) return;
    this.#releases.delete(request.ticket);
    if (outcome !== 'answered' && outcome !== 'closed')
      this.#ports.stop(release.line, release.station, 'the end of the jog was not confirmed');
  }

  /** To be called some twenty times a second. */
  expire(): void {
    const nowMs = this.#ports.nowMs();
    for (const [key, { line, station, saidMs }] of this.#held) {
      if (nowMs - saidMs <= HELD_MS) continue;
      this.#held.delete(key);
      this.#ports.stop(line, station, 'the key that was held was not heard of any more');
    }
  }
}
