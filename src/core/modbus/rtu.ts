import type { Direction } from '../direction';
import { decodeWith, type ModbusDecoded, type ModbusReading } from './reading';
import { readSerial, sealSerial, type SerialRules } from './serial';
import { CRC_CHECK } from './serial-check';

/** Limits of Modbus over Serial Line V1.02: the smallest frame is station, function and check. */
export const RTU_MIN = 4;
export const RTU_MAX = 256;

const RULES: SerialRules = { name: 'RTU frame', check: CRC_CHECK, most: RTU_MAX };

/**
 * Decodes one RTU frame. Never throws; a faulty frame gives all that was understood, with its faults.
 * Without a direction both are tried, and the one that fits better is told; `either` when they fit alike.
 */
export const decodeRtu = (bytes: Uint8Array, direction?: Direction): ModbusDecoded =>
  decodeWith(readRtu, bytes, direction);

/** Reads an RTU frame: address, function, body, CRC (Modbus over Serial Line 1.02, 2.5.1). Never throws; faults carry their bytes. */
export const readRtu = (bytes: Uint8Array, direction: Direction): ModbusReading => readSerial(bytes, direction, RULES);

/** The frame with its last two bytes made the right check. */
export const sealRtu = (bytes: Uint8Array): Uint8Array => sealSerial(bytes, CRC_CHECK);
