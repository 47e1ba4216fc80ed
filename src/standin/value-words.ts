import type { Parameter } from '../core/sheet/parameter-section';

/**
 * The drive's own idea of how a number lies in its registers, written from the forms themselves and not from the bench's: two's complement, IEEE 754
 * single precision, decimal digits four bits each, and any order of bytes.
 */

type Form = Pick<Parameter, 'type' | 'order' | 'size'>;

/** Registers that a value of this form takes. */
function wordCount({ type, size = 1 }: Form): number {
  switch (type) {
    case 'int32':
    case 'uint32':
    case 'float32':
    case 'bcd32':
    case 'date-digits':
    case 'date-bcd':
    case 'date-seconds':
      return 2;
    case 'date-fields':
    case 'time-of-day':
      return 3;
    case 'time-fields':
      return 6;
    case 'int64':
    case 'uint64':
    case 'float64':
      return 4;
    case 'text':
    case 'bytes':
      return size;
    default:
      return 1;
  }
}

/** Whether a value is more than a number can hold: it is kept as its registers. */
export const isBeyondNumbers = (form: Form): boolean =>
  form.type === 'text' || form.type === 'bytes' || wordCount(form) > 2;

function bytesOf(form: Form, number: number): number[] {
  const bytes = new DataView(new ArrayBuffer(2 * wordCount(form)));
  switch (form.type) {
    case 'float32':
      bytes.setFloat32(0, number);
      break;
    case 'float64':
      bytes.setFloat64(0, number);
      break;
    case 'int64':
    case 'uint64':
      bytes.setBigInt64(0, BigInt(Math.trunc(number)));
      break;
    case 'bcd16':
      bytes.setUint16(0, parseInt(`${Math.trunc(number)}`, 16));
      break;
    case 'bcd32':
      bytes.setUint32(0, parseInt(`${Math.trunc(number)}`, 16));
      break;
    case 'text':
    case 'bytes':
      break;
    default:
      if (bytes.byteLength === 4) bytes.setInt32(0, number);
      else if (bytes.byteLength === 2) bytes.setInt16(0, number);
  }
  return Array.from({ length: bytes.byteLength }, (_, i) => bytes.getUint8(i));
}

function numberIn(form: Form, plain: readonly number[]): number {
  const bytes = new DataView(Uint8Array.from(plain).buffer);
  switch (form.type) {
    case 'bool':
      return bytes.getUint16(0) === 0 ? 0 : 1;
    case 'int8':
      return bytes.getInt8(1);
    case 'uint8':
      return bytes.getUint8(1);
    case 'int16':
      return bytes.getInt16(0);
    case 'int32':
      return bytes.getInt32(0);
    case 'uint32':
      return bytes.getUint32(0);
    case 'float32':
      return bytes.getFloat32(0);
    case 'float64':
      return bytes.getFloat64(0);
    case 'int64':
      return Number(bytes.getBigInt64(0));
    case 'uint64':
      return Number(bytes.getBigUint64(0));
    case 'bcd16':
      return parseInt(bytes.getUint16(0).toString(16), 10);
    case 'bcd32':
      return parseInt(bytes.getUint32(0).toString(16), 10);
    default:
      return bytes.byteLength === 4 ? bytes.getUint32(0) : bytes.byteLength >= 2 ? bytes.getUint16(0) : 0;
  }
}

/** `CDAB` says that the third byte of the number goes first on the wire. */
const place = (order: string, i: number): number => 'ABCDEFGH'.indexOf(order.charAt(i));

/** The registers that hold a number, in the order of their addresses. */
export function wordsFor(form: Form, number: number): number[] {
  const bytes = bytesOf(form, number);
  const { order } = form;
  const sent = order?.length === bytes.length ? bytes.map((_, i) => bytes[place(order, i)] ?? 0) : bytes;
  return Array.from({ length: sent.length / 2 }, (_, i) => (sent[2 * i] ?? 0) * 256 + (sent[2 * i + 1] ?? 0));
}

/** The number that registers hold. */
export function numberFrom(form: Form, words: readonly number[]): number {
  const sent = words.flatMap((word) => [Math.floor(word / 256), word % 256]);
  const { order } = form;
  if (order?.length !== sent.length) return numberIn(form, sent);
  const plain = sent.map(() => 0);
  sent.forEach((byte, i) => (plain[place(order, i)] = byte));
  return numberIn(form, plain);
}
