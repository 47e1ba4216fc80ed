import { characterUs } from '../core/line/settings';
import { literalBytes } from '../core/dialect/literal';
import { LINE_MAX } from '../core/dialect/probe';
import { checkSize, leadOf } from '../core/dialect/check';
import { readDialect } from '../core/dialect/read';
import { encodeDialect } from '../core/dialect/write';
import type { DialectDrive } from './dialect-drive';
import type { CharacterFault } from './serial-bus';
import { SerialStation } from './serial-station';

const THINKING = { shortestUs: 4_000, longestUs: 15_000 };

/** What a drive does with a line that it cannot read: a wrong check it passes over in silence, a wrong form it refuses. */
const SILENT: ReadonlySet<string> = new Set(['checksum-mismatch', 'missing-check', 'missing-start', 'missing-end']);

/**
 * The text side of a drive: gathers characters until the dialect's closing, and answers. Its parser is the dialect's, which it shares with the
 * bench; fixed vectors check the bytes.
 */
export class DialectStation extends SerialStation<DialectDrive> {
  #line: number[] = [];
  #spoiled = false;

  readonly hearBreak = (us: number): void => {
    if (us > characterUs(this.settings())) this.#line = [];
  };

  readonly hear = (byte: number, fault: CharacterFault): void => {
    const { dialect } = this.drive;
    if (fault) this.#spoiled = true;
    if (dialect.echo && !fault && this.drive.isUp()) this.bus.transmit(this, Uint8Array.of(byte));
    this.#line.push(byte);
    if (!this.#isClosed()) {
      if (this.#line.length > LINE_MAX) this.#line = [];
      return;
    }
    const line = Uint8Array.from(this.#line);
    const spoiled = this.#spoiled;
    this.#line = [];
    this.#spoiled = false;
    if (!spoiled && this.drive.isUp()) this.#take(line);
  };

  #isClosed(): boolean {
    const { check, close } = this.drive.dialect;
    const tail = check?.afterClose ? checkSize(check) + leadOf(check).length : 0;
    const closing = literalBytes(close);
    const at = this.#line.length - tail - closing.length;
    return at >= 0 && closing.every((byte, i) => this.#line[at + i] === byte);
  }

  #take(line: Uint8Array): void {
    const { dialect } = this.drive;
    const { message, faults } = readDialect(dialect, line, 'request');
    const { station } = this.drive.link();
    if (faults.some(({ code }) => SILENT.has(code)) || (dialect.station && message?.station !== station)) return;
    const [first] = faults;
    const answer =
      first || !message
        ? this.drive.refusal(
            first?.code === 'unknown-function' ? 'unknown' : first?.code === 'value-out-of-range' ? 'limit' : 'form',
          )
        : this.drive.obey(message);
    const reply = encodeDialect(dialect, { ...answer, ...(dialect.station ? { station } : {}) }, 'response');
    if (!reply.ok) return;
    this.answer(reply.value, THINKING, (bytes) => this.#inAnotherName(bytes));
  }

  #inAnotherName(reply: Uint8Array): Uint8Array {
    const { dialect } = this.drive;
    const { message } = readDialect(dialect, reply, 'response');
    if (!message || !dialect.station || message.station === undefined) return reply;
    const station = message.station === dialect.station.max ? dialect.station.min : message.station + 1;
    const other = encodeDialect(dialect, { ...message, station }, 'response');
    return other.ok ? other.value : reply;
  }
}
