/**
 * The services of a station that are not its registers, written from the Modbus Application Protocol V1.1b3, sections 6.7 to 6.10, 6.13 and 6.21,
 * and not from our decoder: diagnostics with their counters, event counter and log, identity.
 */

/** What a station says of itself. */
export interface StationIdentity {
  readonly vendor: string;
  readonly product: string;
  readonly revision: string;
}

const ILLEGAL_FUNCTION = 1;
const ILLEGAL_ADDRESS = 2;
const ILLEGAL_VALUE = 3;
const MOST_EVENTS = 64;
/** Marks of a receive event and of the end of a restart (section 6.10). */
const RECEIVED = 0x80;
const RESTARTED = 0x00;

const refuse = (fc: number, code: number): number[] => [fc + 128, code];
const text = (value: string): number[] => Array.from(value, (letter) => letter.charCodeAt(0) & 0x7f);
const pair = (word: number): number[] => [Math.floor(word / 256) % 256, word % 256];
const word = (bytes: readonly number[], at: number): number => (bytes[at] ?? 0) * 256 + (bytes[at + 1] ?? 0);

/** The counters that sub-functions 11 to 18 tell, in their order. */
const COUNTERS = ['busMessages', 'busErrors', 'exceptions', 'served', 'silent', 'naks', 'busy', 'overruns'] as const;
type Counter = (typeof COUNTERS)[number];

/** What one serial station counts, and how it tells that. Counters have 16 bits and begin anew when they are full. */
export class RtuServices {
  readonly #identity: StationIdentity;
  #counts = new Map<Counter, number>();
  #completed = 0;
  #events: number[] = [RESTARTED];

  constructor(identity: StationIdentity) {
    this.#identity = identity;
  }

  count(counter: Counter): void {
    this.#counts.set(counter, (this.#of(counter) + 1) % 65536);
  }

  /** A request for this station was answered; polls of the counters themselves do not count. */
  answered(reply: readonly number[], fc: number): void {
    this.count('served');
    if ((reply[0] ?? 0) > 127) this.count('exceptions');
    else if (fc !== 11 && fc !== 12) this.#completed = (this.#completed + 1) % 65536;
    this.#events = [RECEIVED, ...this.#events].slice(0, MOST_EVENTS);
  }

  #of(counter: Counter): number {
    return this.#counts.get(counter) ?? 0;
  }

  /** The answer to a request, or null where it is none of these services. */
  serve(pdu: readonly number[]): number[] | null {
    switch (pdu[0]) {
      case 7:
        return pdu.length === 1 ? [7, 0] : refuse(7, ILLEGAL_VALUE);
      case 8:
        return this.#diagnose(pdu);
      case 11:
        return pdu.length === 1 ? [11, 0, 0, ...pair(this.#completed)] : refuse(11, ILLEGAL_VALUE);
      case 12:
        return pdu.length === 1 ? this.#log() : refuse(12, ILLEGAL_VALUE);
      default:
        return serveIdentity(pdu, this.#identity);
    }
  }

  #log(): number[] {
    const body = [0, 0, ...pair(this.#completed), ...pair(this.#of('busMessages')), ...this.#events];
    return [12, body.length, ...body];
  }

  #diagnose(pdu: readonly number[]): number[] {
    const sub = word(pdu, 1);
    if (sub === 0) return pdu.length >= 3 ? [...pdu] : refuse(8, ILLEGAL_VALUE);
    if (pdu.length !== 5 || word(pdu, 3) !== 0) return refuse(8, ILLEGAL_VALUE);
    const head = pdu.slice(0, 3);
    if (sub === 2) return [...head, 0, 0];
    const counter = COUNTERS[sub - 11];
    if (counter) return [...head, ...pair(this.#of(counter))];
    if (sub === 10) {
      this.#counts = new Map();
      this.#completed = 0;
    } else if (sub === 20) this.#counts.set('overruns', 0);
    else return refuse(8, ILLEGAL_FUNCTION);
    return [...pdu];
  }
}

/** 17 and 43/14; null for every other function. */
export function serveIdentity(pdu: readonly number[], { vendor, product, revision }: StationIdentity): number[] | null {
  if (pdu[0] === 17) {
    const said = text(`${vendor} ${product}`);
    return pdu.length === 1 ? [17, said.length + 1, ...said, 255] : refuse(17, ILLEGAL_VALUE);
  }
  if (pdu[0] !== 43) return null;
  const [, mei, code = 0, from = 0] = pdu;
  if (mei !== 14) return refuse(43, ILLEGAL_FUNCTION);
  if (pdu.length !== 4 || code < 1 || code > 4) return refuse(43, ILLEGAL_VALUE);
  const all = [vendor, product, revision];
  // Only the basic objects are there; one that is asked for by itself must exist.
  if (code === 4 && all[from] === undefined) return refuse(43, ILLEGAL_ADDRESS);
  const first = code === 4 ? from : all[from] === undefined ? 0 : from;
  const objects = all.slice(first, code === 4 ? first + 1 : undefined);
  const body = objects.flatMap((value, i) => [first + i, value.length, ...text(value)]);
  return [43, 14, code, 0x81, 0, 0, objects.length, ...body];
}
