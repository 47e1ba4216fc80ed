import { serveIdentity, type RtuServices, type StationIdentity } from './rtu-services';

/**
 * The server's half of Modbus RTU, written from the standards and not from our encoder (Modbus Application Protocol V1.1b3, section 6;
 * Modbus over Serial Line V1.02, 2.5 and 6.2): a second opinion on every frame.
 */

/** What a device keeps behind its registers. A refusal is an exception code. */
export interface RegisterBank {
  /** The word at an address, or null where there is no register. */
  read(address: number): number | null;
  /** Writes all or nothing; 0 when done, else the exception code. */
  write(address: number, words: readonly number[]): number;
  /** What it says of itself; without it, it has no function that tells. */
  readonly identity?: StationIdentity;
}

/** Bit by bit, as section 6.2.2 of the serial-line standard describes it. */
export function bitwiseCrc(bytes: readonly number[]): number {
  let crc = 0xffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let i = 0; i < 8; i++) {
      const carry = crc % 2;
      crc = Math.floor(crc / 2);
      if (carry === 1) crc ^= 0xa001;
    }
  }
  return crc;
}

const high = (word: number): number => Math.floor(word / 256);
const low = (word: number): number => word % 256;
const word = (bytes: readonly number[], at: number): number => (bytes[at] ?? 0) * 256 + (bytes[at + 1] ?? 0);

const ILLEGAL_FUNCTION = 1;
const ILLEGAL_ADDRESS = 2;
const ILLEGAL_VALUE = 3;

const refuse = (fc: number, code: number): number[] => [fc + 128, code];

function readRegisters(pdu: readonly number[], bank: RegisterBank): number[] {
  const fc = pdu[0] ?? 0;
  const count = word(pdu, 3);
  if (pdu.length !== 5 || count < 1 || count > 125) return refuse(fc, ILLEGAL_VALUE);
  const start = word(pdu, 1);
  if (start + count > 65536) return refuse(fc, ILLEGAL_ADDRESS);
  const reply = [fc, 2 * count];
  for (let i = 0; i < count; i++) {
    const value = bank.read(start + i);
    if (value === null) return refuse(fc, ILLEGAL_ADDRESS);
    reply.push(high(value), low(value));
  }
  return reply;
}

function writeOne(pdu: readonly number[], bank: RegisterBank): number[] {
  if (pdu.length !== 5) return refuse(6, ILLEGAL_VALUE);
  const refusal = bank.write(word(pdu, 1), [word(pdu, 3)]);
  return refusal === 0 ? [...pdu] : refuse(6, refusal);
}

function writeSeveral(pdu: readonly number[], bank: RegisterBank): number[] {
  const count = word(pdu, 3);
  const bytes = pdu[5] ?? 0;
  if (count < 1 || count > 123 || bytes !== 2 * count || pdu.length !== 6 + bytes) return refuse(16, ILLEGAL_VALUE);
  const start = word(pdu, 1);
  if (start + count > 65536) return refuse(16, ILLEGAL_ADDRESS);
  const words = Array.from({ length: count }, (_, i) => word(pdu, 6 + 2 * i));
  const refusal = bank.write(start, words);
  return refusal === 0 ? pdu.slice(0, 5) : refuse(16, refusal);
}

/** 08/00 gives back what came; this drive keeps no counters, so it refuses the others. */
const diagnose = (pdu: readonly number[]): number[] =>
  pdu.length >= 3 && word(pdu, 1) === 0 ? [...pdu] : refuse(8, ILLEGAL_FUNCTION);

/** (current AND and-mask) OR (or-mask AND NOT and-mask), section 6.16. */
function maskWrite(pdu: readonly number[], bank: RegisterBank): number[] {
  if (pdu.length !== 7) return refuse(22, ILLEGAL_VALUE);
  const [address, and, or] = [word(pdu, 1), word(pdu, 3), word(pdu, 5)];
  const current = bank.read(address);
  if (current === null) return refuse(22, ILLEGAL_ADDRESS);
  const refusal = bank.write(address, [(current & and) | (or & ~and & 0xffff)]);
  return refusal === 0 ? [...pdu] : refuse(22, refusal);
}

/** Writes first, then reads, section 6.17. */
function readAndWrite(pdu: readonly number[], bank: RegisterBank): number[] {
  const [readCount, writeCount, bytes] = [word(pdu, 3), word(pdu, 7), pdu[9] ?? 0];
  const isWhole = writeCount >= 1 && writeCount <= 121 && bytes === 2 * writeCount && pdu.length === 10 + bytes;
  if (!isWhole || readCount < 1 || readCount > 125) return refuse(23, ILLEGAL_VALUE);
  if (word(pdu, 1) + readCount > 65536 || word(pdu, 5) + writeCount > 65536) return refuse(23, ILLEGAL_ADDRESS);
  const words = Array.from({ length: writeCount }, (_, i) => word(pdu, 10 + 2 * i));
  const refusal = bank.write(word(pdu, 5), words);
  if (refusal !== 0) return refuse(23, refusal);
  const reply = readRegisters([3, ...pdu.slice(1, 5)], bank);
  return reply[0] === 3 ? [23, ...reply.slice(1)] : refuse(23, reply[1] ?? ILLEGAL_ADDRESS);
}

const SERVICES: Readonly<Partial<Record<number, (pdu: readonly number[], bank: RegisterBank) => number[]>>> = {
  3: readRegisters,
  4: readRegisters,
  6: writeOne,
  8: diagnose,
  16: writeSeveral,
  22: maskWrite,
  23: readAndWrite,
};

const withCrc = (bytes: readonly number[]): Uint8Array => {
  const crc = bitwiseCrc(bytes);
  return Uint8Array.from([...bytes, low(crc), high(crc)]);
};

/** The reply's function and data to a request's. */
export function serveFunction(
  pdu: readonly number[],
  bank: RegisterBank,
  services: RtuServices | null = null,
): number[] {
  const fc = pdu[0] ?? 0;
  const own = services ? services.serve(pdu) : bank.identity ? serveIdentity(pdu, bank.identity) : null;
  if (own) return own;
  return SERVICES[fc]?.(pdu, bank) ?? refuse(fc % 128, ILLEGAL_FUNCTION);
}

/**
 * What a station says to one frame: null when it is not whole, not for this station, or a broadcast (which is carried out silently).
 */
export function serveRtu(
  frame: readonly number[],
  station: number,
  bank: RegisterBank,
  services: RtuServices | null = null,
): Uint8Array | null {
  if (frame.length < 4 || frame.length > 256 || bitwiseCrc(frame) !== 0) {
    services?.count('busErrors');
    return null;
  }
  services?.count('busMessages');
  const unit = frame[0] ?? 0;
  if (unit !== station && unit !== 0) return null;
  const reply = serveFunction(frame.slice(1, -2), bank, services);
  if (unit === 0) services?.count('silent');
  else services?.answered(reply, frame[1] ?? 0);
  return unit === 0 ? null : withCrc([unit, ...reply]);
}

/** The same answer in another station's name: what a badly set second drive does to a line. */
export function impersonate(reply: Uint8Array, station: number): Uint8Array {
  return withCrc([station, ...Array.from(reply.subarray(1, reply.length - 2))]);
}
