import type { Table } from './parameter-store';
import { serveIdentity, type RtuServices, type StationIdentity } from './rtu-services';

/**
 * The server's half of Modbus RTU, written from the standards and not from our encoder (Modbus Application Protocol V1.1b3, section 6;
 * Modbus over Serial Line V1.02, 2.5 and 6.2): a second opinion on every frame.
 */

/** What a device keeps behind its registers. A refusal is an exception code. */
export interface RegisterBank {
  /** The word at an address of a table, or null where there is nothing; a coil or input is 0 or not. */
  read(address: number, table?: Table): number | null;
  /** Writes all or nothing; 0 when done, else the exception code. */
  write(address: number, words: readonly number[], table?: Table): number;
  /** Tables that it has beside its holding registers; one that it has not is an unknown function. Absent: input registers, with the same words. */
  hasTable?(table: Table): boolean;
  /** What it says of itself; without it, it has no function that tells. */
  readonly identity?: StationIdentity;
}

/** Bit by bit, as section 6.2.2 of the serial-line standard describes it. */
export function bitwiseCrc(bytes: readonly number[]): number {
  let crc = 0xffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let i = 0; i < 8; i++) {
      const carry = crc & 1;
      crc >>>= 1;
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
    const value = bank.read(start + i, fc === 4 ? 'input-register' : 'holding-register');
    if (value === null) return refuse(fc, ILLEGAL_ADDRESS);
    reply.push(high(value), low(value));
  }
  return reply;
}

/** 01 and 02: eight to a byte, the first in the lowest bit, section 6.1. */
function readBits(pdu: readonly number[], bank: RegisterBank): number[] {
  const fc = pdu[0] ?? 0;
  const [start, count] = [word(pdu, 1), word(pdu, 3)];
  if (pdu.length !== 5 || count < 1 || count > 2000) return refuse(fc, ILLEGAL_VALUE);
  const bytes = new Array<number>(Math.ceil(count / 8)).fill(0);
  for (let i = 0; i < count; i++) {
    const value = start + i > 65535 ? null : bank.read(start + i, fc === 1 ? 'coil' : 'discrete-input');
    if (value === null) return refuse(fc, ILLEGAL_ADDRESS);
    const at = Math.floor(i / 8);
    if (value !== 0) bytes[at] = (bytes[at] ?? 0) + 2 ** (i % 8);
  }
  return [fc, bytes.length, ...bytes];
}

/** 05: FF00 is on, 0000 off, anything else is no value, section 6.5. */
function writeCoil(pdu: readonly number[], bank: RegisterBank): number[] {
  const value = word(pdu, 3);
  if (pdu.length !== 5 || (value !== 0xff00 && value !== 0)) return refuse(5, ILLEGAL_VALUE);
  const refusal = bank.write(word(pdu, 1), [value === 0 ? 0 : 1], 'coil');
  return refusal === 0 ? [...pdu] : refuse(5, refusal);
}

function writeCoils(pdu: readonly number[], bank: RegisterBank): number[] {
  const [start, count, bytes] = [word(pdu, 1), word(pdu, 3), pdu[5] ?? 0];
  if (count < 1 || count > 1968 || bytes !== Math.ceil(count / 8) || pdu.length !== 6 + bytes)
    return refuse(15, ILLEGAL_VALUE);
  if (start + count > 65536) return refuse(15, ILLEGAL_ADDRESS);
  const coils = Array.from(
    { length: count },
    (_, i) => Math.floor((pdu[6 + Math.floor(i / 8)] ?? 0) / 2 ** (i % 8)) % 2,
  );
  const refusal = bank.write(start, coils, 'coil');
  return refusal === 0 ? pdu.slice(0, 5) : refuse(15, refusal);
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
  1: readBits,
  2: readBits,
  3: readRegisters,
  4: readRegisters,
  5: writeCoil,
  6: writeOne,
  8: diagnose,
  15: writeCoils,
  16: writeSeveral,
  22: maskWrite,
  23: readAndWrite,
};

/** The table that a function needs, where it is not the holding registers. */
const NEEDS: Readonly<Partial<Record<number, Table>>> = {
  1: 'coil',
  2: 'discrete-input',
  4: 'input-register',
  5: 'coil',
  15: 'coil',
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
  const table = NEEDS[fc];
  if (table && !(bank.hasTable?.(table) ?? table === 'input-register')) return refuse(fc, ILLEGAL_FUNCTION);
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
