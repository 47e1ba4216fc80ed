import { bytesToHex, hexNumber } from '../bytes/hex';
import { counted } from '../counted';
import { BYTE_CHECKS } from '../checksum/catalogue';
import { fault, type Fault } from '../fault';
import type { UssMessage } from './message';

/**
 * Telegrams of the universal serial interface protocol. Source: its published description, from memory.
 * STX, LGE, ADR, net characters, BCC; LGE counts ADR, net characters and BCC.
 */
export const STX = 0x02;
export const USS_MIN = 4;
export const USS_MAX = 256;
export const STATION_MAX = 31;
export const PZD_MAX = 16;
/** Characters that LGE does not count: STX and LGE itself. */
const BEFORE = 2;
export const NET_AT = 3;
const LEAST_LENGTH = 2;
const MOST_LENGTH = USS_MAX - BEFORE;

export const ADR = { broadcast: 0x20, mirror: 0x40, special: 0x80, station: 0x1f } as const;

/** The check byte of a USS telegram: XOR over all bytes from STX up to `end`. */
export const bcc = (bytes: Uint8Array, end: number): number => BYTE_CHECKS['XOR-8'](bytes.subarray(0, end));

/** Where the parts of a telegram stand. `check` is -1 where it was cut before its BCC. */
export interface UssShape {
  readonly netEnd: number;
  readonly check: number;
  readonly checkGood: boolean;
  readonly end: number;
}

export interface UssReading {
  readonly message: UssMessage | null;
  readonly faults: readonly Fault[];
  readonly shape: UssShape;
}

/**
 * How many words of net data belong to the parameter channel where nobody says it: the usual telegrams are PZD alone (2 words), PKW of 3 alone
 * or with 2 words of PZD, and PKW of 4 with the rest.
 */
function guessPkwWords(words: number): number {
  if (words < 3) return 0;
  return words === 3 || words === 5 ? 3 : 4;
}

/** Reads one telegram; request and answer have the same form. Never throws. `pkwWords` comes from the sheet or is told by the length. */
export function readUss(bytes: Uint8Array, pkwWords?: number): UssReading {
  const size = bytes.length;
  if (size < USS_MIN)
    return {
      message: null,
      faults: [fault('too-short', 0, size, `${counted(size, 'byte')}; the shortest USS telegram has ${USS_MIN}`)],
      shape: { netEnd: size, check: -1, checkGood: false, end: size },
    };
  const faults: Fault[] = [];
  if (bytes[0] !== STX)
    faults.push(
      fault('missing-start', 0, 1, `a telegram begins with STX (02), not ${hexNumber(bytes[0] as number, 2)}`),
    );
  const length = bytes[1] as number;
  const lengthFits = length >= LEAST_LENGTH && length <= MOST_LENGTH;
  if (!lengthFits)
    faults.push(fault('length-mismatch', 1, 2, `LGE says ${length}; ${LEAST_LENGTH} to ${MOST_LENGTH} are possible`));
  const shape = shapeOf(bytes, lengthFits ? BEFORE + length : size);
  const message = messageOf(bytes, shape.netEnd, pkwWords, faults);
  faults.push(...faultsOfShape(bytes, shape, lengthFits));
  return { message, faults, shape };
}

function shapeOf(bytes: Uint8Array, total: number): UssShape {
  const size = bytes.length;
  const good = (end: number): boolean => end >= USS_MIN && bcc(bytes, end) === 0;
  const at = (end: number, checkGood: boolean): UssShape => ({ netEnd: end - 1, check: end - 1, checkGood, end });
  if (total <= size && (total === size || good(total) || !good(size))) return at(total, good(total));
  // A good check at the very end says that LGE is wrong, not that the telegram was cut.
  if (good(size) && total !== size) return at(size, true);
  return { netEnd: size, check: -1, checkGood: false, end: size };
}

function faultsOfShape(bytes: Uint8Array, shape: UssShape, lengthFits: boolean): readonly Fault[] {
  const size = bytes.length;
  const said = BEFORE + (bytes[1] as number);
  if (shape.check < 0)
    return [fault('truncated', size, size, `LGE says ${bytes[1]} characters after it, only ${size - BEFORE} came`)];
  const faults: Fault[] = [];
  if (lengthFits && shape.end !== said)
    faults.push(fault('length-mismatch', 1, 2, `LGE says ${bytes[1]}, the telegram has ${shape.end - BEFORE}`));
  if (!shape.checkGood)
    faults.push(
      fault(
        'checksum-mismatch',
        shape.check,
        shape.end,
        `the BCC is ${hexNumber(bytes[shape.check] as number, 2)}, these bytes give ${hexNumber(bcc(bytes, shape.check), 2)}`,
      ),
    );
  if (shape.end < size)
    faults.push(fault('trailing-bytes', shape.end, size, `${counted(size - shape.end, 'byte')} after the telegram`));
  return faults;
}

function messageOf(bytes: Uint8Array, netEnd: number, asked: number | undefined, faults: Fault[]): UssMessage {
  const adr = bytes[2] as number;
  const head = {
    address: adr & ADR.station,
    mirror: (adr & ADR.mirror) !== 0,
    broadcast: (adr & ADR.broadcast) !== 0,
    special: (adr & ADR.special) !== 0,
  };
  if (head.special) return { ...head, pkwWords: 0, dataHex: bytesToHex(bytes.subarray(NET_AT, netEnd)) };
  const net = netEnd - NET_AT;
  const words = net >> 1;
  if (net % 2 === 1)
    faults.push(fault('length-mismatch', netEnd - 1, netEnd, `${counted(net, 'net character')} are no whole words`));
  const pkwWords = asked ?? guessPkwWords(words);
  const all: number[] = [];
  for (let at = NET_AT; all.length < words; at += 2) all.push(((bytes[at] as number) << 8) | (bytes[at + 1] as number));
  if (words < pkwWords)
    faults.push(
      fault(
        'truncated',
        Math.min(NET_AT + 2 * words, netEnd),
        netEnd,
        `a parameter channel of ${pkwWords} words does not fit ${counted(words, 'word')} of net data`,
      ),
    );
  const pkw = all.slice(0, pkwWords);
  const pzd = all.slice(pkwWords);
  if (pzd.length > PZD_MAX)
    faults.push(
      fault(
        'quantity-out-of-range',
        NET_AT + 2 * (pkwWords + PZD_MAX),
        netEnd,
        `${pzd.length} words of process data; ${PZD_MAX} at most`,
      ),
    );
  const [pke, ind, ...pwe] = pkw;
  return {
    ...head,
    pkwWords,
    ...(pke === undefined ? {} : { pke, ak: pke >> 12, spm: (pke & 0x800) !== 0, pnu: pke & 0x7ff }),
    ...(ind === undefined ? {} : { ind }),
    ...(pkwWords === 0 ? {} : { pwe }),
    pzd,
  };
}

/** Words of net data in a telegram of so many bytes. */
export const netWords = (size: number): number => Math.max(0, size - USS_MIN) >> 1;

/** The telegram with its LGE and BCC made right. */
export function sealUss(bytes: Uint8Array): Uint8Array {
  const sealed = bytes.slice();
  if (sealed.length < USS_MIN || sealed.length > USS_MAX) return sealed;
  sealed[1] = sealed.length - BEFORE;
  sealed[sealed.length - 1] = bcc(sealed, sealed.length - 1);
  return sealed;
}

/** Length of the telegram that begins at `start`: 0 while it may still become one, -1 when none begins here. */
export function probeUss(bytes: Uint8Array, start: number, end: number): number {
  if (end <= start) return 0;
  if (bytes[start] !== STX) return -1;
  if (end - start < 2) return 0;
  const length = bytes[start + 1] as number;
  if (length < LEAST_LENGTH || length > MOST_LENGTH) return -1;
  const total = BEFORE + length;
  if (end - start < total) return 0;
  return bcc(bytes.subarray(start, start + total), total) === 0 ? total : -1;
}
