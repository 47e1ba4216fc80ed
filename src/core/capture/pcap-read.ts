import { concatBytes } from '../bytes/concat';

/**
 * Capture files of packets, read as they come. Sources: the libpcap file format (draft-ietf-opsawg-pcap) and pcapng
 * (draft-ietf-opsawg-pcapng). Blocks of kinds that are not needed are passed over, as the drafts ask.
 */
export interface Packet {
  /** Microseconds since 1970; NaN where the block has no time. */
  readonly timeUs: number;
  readonly linkType: number;
  readonly data: Uint8Array;
  /** The capture kept only its beginning (snap length). */
  readonly isCut: boolean;
}

/** A block larger than this is no packet: the file is damaged or hostile. */
const LARGEST_BLOCK = 1 << 24;
const SECTION = 0x0a0d0d0a;
const INTERFACE = 1;
const SIMPLE = 3;
const ENHANCED = 6;
const BYTE_ORDER = 0x1a2b3c4d;
const PCAP_MICRO = 0xa1b2c3d4;
const PCAP_NANO = 0xa1b23c4d;

interface Interface {
  readonly linkType: number;
  readonly tick: Tick;
}

/** A tick of its clock in microseconds, as a fraction: neither a millionth nor a thousandth of a second is a binary number. */
interface Tick {
  readonly us: number;
  readonly over: number;
}

const MICROSECOND: Tick = { us: 1, over: 1 };
const NANOSECOND: Tick = { us: 1, over: 1000 };

/** Whether a file begins like one of the two. */
export function isPacketFile(head: Uint8Array): boolean {
  if (head.length < 4) return false;
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  return [true, false].some((little) => [SECTION, PCAP_MICRO, PCAP_NANO].includes(view.getUint32(0, little)));
}

/** Takes a file in any chunks and gives its packets. A damaged file ends with a sentence; the packets before it count. */
export class PacketFileReader {
  readonly #onPacket: (packet: Packet) => void;
  #pending: Uint8Array = new Uint8Array(0);
  #read = 0;
  #kind: 'unknown' | 'pcap' | 'pcapng' = 'unknown';
  #little = true;
  #classic: Interface = { linkType: 0, tick: MICROSECOND };
  #interfaces: Interface[] = [];
  #trouble = '';

  constructor(onPacket: (packet: Packet) => void) {
    this.#onPacket = onPacket;
  }

  /** Why reading stopped, or empty. */
  get trouble(): string {
    return this.#trouble;
  }

  push(chunk: Uint8Array): void {
    if (this.#trouble) return;
    this.#pending = this.#pending.length === 0 ? chunk : concatBytes(this.#pending, chunk);
    let at = 0;
    const view = new DataView(this.#pending.buffer, this.#pending.byteOffset, this.#pending.byteLength);
    while (!this.#trouble) {
      const taken = this.#take(view, at);
      if (taken === 0) break;
      at += taken;
    }
    this.#pending = this.#pending.slice(at);
    this.#read += at;
  }

  end(): void {
    if (this.#trouble || this.#pending.length === 0) return;
    this.#stop(0, this.#kind === 'unknown' ? 'the file ends inside its head' : 'the file is cut short inside a block');
  }

  #stop(at: number, text: string): void {
    this.#trouble = `at byte ${this.#read + at}: ${text}`;
  }

  /** Bytes of one block or record that was read at `at`, or 0 while more is needed. */
  #take(view: DataView, at: number): number {
    const left = view.byteLength - at;
    if (this.#kind === 'unknown') return left < 24 ? 0 : this.#begin(view, at);
    return this.#kind === 'pcap' ? this.#record(view, at, left) : this.#block(view, at, left);
  }

  #begin(view: DataView, at: number): number {
    if (view.getUint32(at) === SECTION) {
      this.#kind = 'pcapng';
      return this.#block(view, at, view.byteLength - at);
    }
    for (const little of [true, false]) {
      const magic = view.getUint32(at, little);
      if (magic !== PCAP_MICRO && magic !== PCAP_NANO) continue;
      this.#kind = 'pcap';
      this.#little = little;
      this.#classic = {
        linkType: view.getUint32(at + 20, little) & 0xffff,
        tick: magic === PCAP_NANO ? NANOSECOND : MICROSECOND,
      };
      return 24;
    }
    this.#stop(at, 'this is no capture of packets');
    return 0;
  }

  #record(view: DataView, at: number, left: number): number {
    if (left < 16) return 0;
    const seconds = view.getUint32(at, this.#little);
    const part = view.getUint32(at + 4, this.#little);
    const size = view.getUint32(at + 8, this.#little);
    if (size > LARGEST_BLOCK) {
      this.#stop(at, `a packet of ${size} bytes cannot be`);
      return 0;
    }
    if (left < 16 + size) return 0;
    const { linkType, tick } = this.#classic;
    this.#onPacket({
      timeUs: seconds * 1e6 + (part * tick.us) / tick.over,
      linkType,
      data: this.#pending.subarray(at + 16, at + 16 + size),
      isCut: view.getUint32(at + 12, this.#little) > size,
    });
    return 16 + size;
  }

  #block(view: DataView, at: number, left: number): number {
    if (left < 12) return 0;
    const type = view.getUint32(at, this.#little);
    if (type === SECTION) {
      const magic = view.getUint32(at + 8, true);
      this.#little = magic === BYTE_ORDER;
      if (!this.#little && view.getUint32(at + 8, false) !== BYTE_ORDER) {
        this.#stop(at, 'a section without its byte order');
        return 0;
      }
      this.#interfaces = [];
    }
    const size = view.getUint32(at + 4, this.#little);
    if (size < 12 || size > LARGEST_BLOCK || size % 4 !== 0) {
      this.#stop(at, `a block of ${size} bytes cannot be`);
      return 0;
    }
    if (left < size) return 0;
    if (view.getUint32(at + size - 4, this.#little) !== size) {
      this.#stop(at, 'the two lengths of a block differ');
      return 0;
    }
    if (type === INTERFACE) this.#interfaces.push(this.#interfaceOf(view, at, size));
    if (type === ENHANCED && size >= 32) this.#enhanced(view, at, size);
    if (type === SIMPLE && size >= 16) this.#simple(view, at, size);
    return size;
  }

  #interfaceOf(view: DataView, at: number, size: number): Interface {
    let tick = MICROSECOND;
    // Options are pairs of code and length, padded to four bytes; 9 says how fine the clock is.
    for (let option = at + 16; option + 4 <= at + size - 4;) {
      const code = view.getUint16(option, this.#little);
      const length = view.getUint16(option + 2, this.#little);
      if (code === 0) break;
      if (code === 9 && length >= 1 && option + 5 <= at + size - 4) {
        const fineness = view.getUint8(option + 4);
        tick = { us: 1e6, over: fineness & 0x80 ? 2 ** (fineness & 0x7f) : 10 ** fineness };
      }
      option += 4 + length + ((4 - (length % 4)) % 4);
    }
    return { linkType: view.getUint16(at + 8, this.#little), tick };
  }

  #enhanced(view: DataView, at: number, size: number): void {
    const own = this.#interfaces[view.getUint32(at + 8, this.#little)];
    const captured = view.getUint32(at + 20, this.#little);
    if (!own || captured > size - 32) return this.#stop(at, 'a packet without its interface, or longer than its block');
    const ticks = view.getUint32(at + 12, this.#little) * 2 ** 32 + view.getUint32(at + 16, this.#little);
    this.#onPacket({
      timeUs: (ticks * own.tick.us) / own.tick.over,
      linkType: own.linkType,
      data: this.#pending.subarray(at + 28, at + 28 + captured),
      isCut: view.getUint32(at + 24, this.#little) > captured,
    });
  }

  #simple(view: DataView, at: number, size: number): void {
    const [own] = this.#interfaces;
    if (!own) return this.#stop(at, 'a packet without its interface');
    const original = view.getUint32(at + 8, this.#little);
    const captured = Math.min(original, size - 16);
    this.#onPacket({
      timeUs: NaN,
      linkType: own.linkType,
      data: this.#pending.subarray(at + 12, at + 12 + captured),
      isCut: original > captured,
    });
  }
}
