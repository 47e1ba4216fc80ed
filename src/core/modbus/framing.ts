import { concatBytes } from '../bytes/concat';
import type { Field } from '../bytes/field';
import type { Fault } from '../fault';
import type { Result } from '../result';
import { anatomyAscii, anatomyRtu, anatomyTcp } from './anatomy';
import { ASCII_MAX, completeAscii, readAscii, sealAscii } from './ascii';
import { encodeAscii, encodeRtu, encodeTcp } from './encode';
import type { Direction } from '../direction';
import type { ModbusMessage } from './message';
import type { ModbusReading } from './reading';
import { readRtu, RTU_MAX, sealRtu } from './rtu';
import { probeAscii, probeRtu, probeTcp } from './scan';
import { UNIT_MAX } from './serial';
import { readTcp, sealTcp, TCP_HEAD, TCP_MAX } from './tcp';

/** How a Modbus message is packed for the way it goes. Everything beyond the packing is the same. */
export interface ModbusFraming {
  readonly id: 'modbus-rtu' | 'modbus-ascii' | 'modbus-tcp';
  readonly name: string;
  /** Bytes before the station and after the body. */
  readonly head: number;
  readonly tail: number;
  /** Bytes of the check at the start of the tail, and bytes on the wire for a byte of the body. */
  readonly checkSize: number;
  readonly perByte: 1 | 2;
  readonly longest: number;
  readonly mostUnit: number;
  /** Whether a request to station 0 goes to everyone and nobody answers. */
  readonly broadcasts: boolean;
  readonly read: (bytes: Uint8Array, direction: Direction) => ModbusReading;
  /** Length of the frame that begins at `start`; see `probeRtu`. */
  readonly probe: (bytes: Uint8Array, start: number, end: number, direction: Direction) => number;
  readonly encode: (message: ModbusMessage, direction: Direction) => Result<Uint8Array, readonly Fault[]>;
  readonly anatomy: (bytes: Uint8Array, reading: ModbusReading) => readonly Field[];
  /** Makes the check, or the length, right again after an edit. */
  readonly seal: (bytes: Uint8Array) => Uint8Array;
  /** The bytes with check or head put on, as they would be if those had been left out. */
  readonly complete: (bytes: Uint8Array) => Uint8Array;
}

export const RTU: ModbusFraming = {
  id: 'modbus-rtu',
  name: 'Modbus RTU',
  head: 0,
  tail: 2,
  checkSize: 2,
  perByte: 1,
  longest: RTU_MAX,
  mostUnit: UNIT_MAX,
  broadcasts: true,
  read: readRtu,
  probe: probeRtu,
  encode: encodeRtu,
  anatomy: anatomyRtu,
  seal: sealRtu,
  complete: (bytes) => sealRtu(concatBytes(bytes, new Uint8Array(2))),
};

export const ASCII: ModbusFraming = {
  id: 'modbus-ascii',
  name: 'Modbus ASCII',
  head: 0,
  tail: 4,
  checkSize: 2,
  perByte: 2,
  longest: ASCII_MAX,
  mostUnit: UNIT_MAX,
  broadcasts: true,
  read: readAscii,
  probe: probeAscii,
  encode: encodeAscii,
  anatomy: anatomyAscii,
  seal: sealAscii,
  complete: completeAscii,
};

export const TCP: ModbusFraming = {
  id: 'modbus-tcp',
  name: 'Modbus TCP',
  head: TCP_HEAD,
  tail: 0,
  checkSize: 0,
  perByte: 1,
  longest: TCP_MAX,
  mostUnit: 255,
  broadcasts: false,
  read: readTcp,
  probe: probeTcp,
  encode: encodeTcp,
  anatomy: anatomyTcp,
  seal: sealTcp,
  complete: (bytes) => sealTcp(concatBytes(new Uint8Array(TCP_HEAD), bytes)),
};

export const MODBUS_FRAMINGS: readonly ModbusFraming[] = [RTU, ASCII, TCP];

/** The packing for a line's protocol; a protocol that is no Modbus is read as RTU until it has a codec of its own. */
export const framingOf = (protocol: string | undefined): ModbusFraming =>
  MODBUS_FRAMINGS.find(({ id }) => id === protocol) ?? RTU;
