import { characterUs } from '../core/line/settings';
import type { CharacterFault } from './serial-bus';
import { SerialStation } from './serial-station';
import type { UssDrive } from './uss-drive';

/**
 * The station's half of USS, written from the published description (from memory) and not from our reader: a telegram begins with STX after a
 * gap of two characters and is as long as its second character says; all characters together give 0 under exclusive or.
 */
const STX = 2;
const GAP_CHARACTERS = 2;
const THINKING = { shortestUs: 1_500, longestUs: 7_000 };
const STATION_BITS = 31;
const BROADCAST = 32;
const MIRROR = 64;
const SPECIAL = 128;

const exclusiveOr = (bytes: readonly number[]): number => {
  let sum = 0;
  for (const byte of bytes) sum ^= byte;
  return sum;
};

/** STX, length, address, net data and the check behind them. */
export function telegram(address: number, net: readonly number[]): Uint8Array {
  const open = [STX, net.length + 2, address, ...net];
  return Uint8Array.from([...open, exclusiveOr(open)]);
}

/** A USS station on a serial line: it listens for its telegrams and answers for its drive. */
export class UssStation extends SerialStation<UssDrive> {
  #heard: number[] = [];
  /** What began without STX is not listened to until the line is silent. */
  #deaf = false;

  readonly hearBreak = (us: number): void => this.drive.heardBreak(us);

  readonly hear = (byte: number, fault: CharacterFault): void => {
    this.afterSilence(GAP_CHARACTERS * characterUs(this.settings()), () => this.#gap());
    if (fault || (this.#heard.length === 0 && byte !== STX)) this.#deaf = true;
    if (this.#deaf) return;
    this.#heard.push(byte);
    const length = this.#heard[1];
    if (length === undefined || this.#heard.length < length + 2) return;
    const whole = this.#heard;
    this.#heard = [];
    this.#deaf = true;
    if (exclusiveOr(whole) === 0 && this.drive.isUp()) this.#take(whole);
  };

  #gap(): void {
    this.#heard = [];
    this.#deaf = false;
  }

  #take(whole: readonly number[]): void {
    const address = whole[2] ?? 0;
    const net = whole.slice(3, -1);
    const isMine = address % 32 === this.drive.link().station;
    if (Math.floor(address / SPECIAL) % 2 === 1) return;
    if (Math.floor(address / BROADCAST) % 2 === 1) {
      this.drive.exchange(net);
      return;
    }
    if (!isMine) return;
    const reply = Math.floor(address / MIRROR) % 2 === 1 ? net : this.drive.exchange(net);
    if (!reply) return;
    const foreign = (bytes: Uint8Array): Uint8Array =>
      telegram(
        ((bytes[2] ?? 0) & ~STATION_BITS) | (((bytes[2] ?? 0) + 1) & STATION_BITS),
        Array.from(bytes.subarray(3, -1)),
      );
    this.answer(telegram(address, reply), THINKING, foreign);
  }
}
