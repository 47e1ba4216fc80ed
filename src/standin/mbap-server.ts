import { serveFunction, type RegisterBank } from './rtu-server';

/**
 * The server's half of Modbus TCP for one connection, written from Modbus Messaging on TCP/IP V1.0b, 3.1.3 and 4.4: takes bytes in any
 * chunks and gives whole answers. A header that cannot be right ends the connection, for nobody can know where the next frame begins.
 */
export class MbapServer {
  readonly #bank: RegisterBank;
  #pending: number[] = [];

  constructor(bank: RegisterBank) {
    this.#bank = bank;
  }

  /** Answers to all requests that are whole by now, or null when the stream makes no sense. */
  take(chunk: Uint8Array): readonly Uint8Array[] | null {
    this.#pending.push(...chunk);
    const answers: Uint8Array[] = [];
    while (this.#pending.length >= 7) {
      const protocol = this.#word(2);
      const length = this.#word(4);
      if (protocol !== 0 || length < 2 || length > 254) return null;
      if (this.#pending.length < 6 + length) break;
      const frame = this.#pending.splice(0, 6 + length);
      const pdu = serveFunction(frame.slice(7), this.#bank);
      const size = pdu.length + 1;
      answers.push(Uint8Array.from([...frame.slice(0, 4), size >> 8, size & 255, frame[6] ?? 0, ...pdu]));
    }
    return answers;
  }

  #word(at: number): number {
    return (this.#pending[at] ?? 0) * 256 + (this.#pending[at + 1] ?? 0);
  }
}
