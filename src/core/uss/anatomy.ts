import type { Field } from '../bytes/field';
import { bytesToHex, hexNumber } from '../bytes/hex';
import { counted } from '../counted';
import type { Direction } from '../direction';
import { bcc, ADR, NET_AT, readUss, STX, USS_MIN } from './telegram';
import type { UssMessage } from './message';
import { channelText } from './value';

const plain = (bytes: Uint8Array, path: string, label: string, start: number, end: number, text: string): Field => ({
  path,
  label,
  start,
  end,
  value: bytesToHex(bytes.subarray(start, end)),
  text,
  codec: 'bytes',
});

const byteField = (bytes: Uint8Array, at: number, path: string, label: string, text: string): Field => ({
  path,
  label,
  start: at,
  end: at + 1,
  value: bytes[at] as number,
  text,
  codec: 'u8',
});

/** The tree of fields of one telegram; leaves cover every byte once, whatever the faults. */
export function anatomyUss(bytes: Uint8Array, direction: Direction, pkwWords?: number): readonly Field[] {
  if (bytes.length < USS_MIN)
    return bytes.length === 0 ? [] : [plain(bytes, 'rest', 'unread', 0, bytes.length, counted(bytes.length, 'byte'))];
  const { message, shape } = readUss(bytes, pkwWords);
  const length = bytes[1] as number;
  const fields: Field[] = [
    byteField(bytes, 0, 'stx', 'STX', bytes[0] === STX ? 'start of text' : 'must be 02'),
    byteField(bytes, 1, 'lge', 'LGE', `${length} characters follow`),
    byteField(bytes, 2, 'adr', 'ADR', addressText(bytes[2] as number)),
    ...netFields(bytes, shape.netEnd, message, direction),
  ];
  if (shape.check >= 0) {
    const wanted = bcc(bytes, shape.check);
    const text = bytes[shape.check] === wanted ? 'good' : `should be ${hexNumber(wanted, 2)}`;
    fields.push(byteField(bytes, shape.check, 'check', 'BCC', text));
  }
  if (shape.end < bytes.length)
    fields.push(
      plain(bytes, 'rest', 'after the telegram', shape.end, bytes.length, counted(bytes.length - shape.end, 'byte')),
    );
  return fields;
}

function addressText(adr: number): string {
  const kinds = [
    [ADR.special, 'special telegram'],
    [ADR.mirror, 'mirror: send the same back'],
    [ADR.broadcast, 'broadcast: nobody answers'],
  ] as const;
  return [`station ${adr & ADR.station}`, ...kinds.filter(([bit]) => adr & bit).map(([, text]) => text)].join(', ');
}

function netFields(bytes: Uint8Array, end: number, message: UssMessage | null, direction: Direction): readonly Field[] {
  if (end <= NET_AT) return [];
  if (!message || message.special)
    return [plain(bytes, 'data', 'net data', NET_AT, end, 'as the drive’s manual has it')];
  const words = (end - NET_AT) >> 1;
  const pkw = Math.min(message.pkwWords, words);
  const fields: Field[] = [];
  const group = (path: string, label: string, first: number, count: number, text: string): void => {
    const [start, until] = [NET_AT + 2 * first, NET_AT + 2 * (first + count)];
    if (count === 0) return;
    const children = Array.from({ length: count }, (_, i) => wordField(bytes, path, first + i, i, message, direction));
    fields.push({ ...plain(bytes, path, label, start, until, text), children });
  };
  group('pkw', 'parameter channel', 0, pkw, channelText(message, direction));
  group('pzd', 'process data', pkw, words - pkw, counted(words - pkw, 'word'));
  const reached = NET_AT + 2 * words;
  if (reached < end) fields.push(plain(bytes, 'half', 'half a word', reached, end, 'one byte with no place'));
  return fields;
}

function wordField(
  bytes: Uint8Array,
  group: string,
  word: number,
  place: number,
  message: UssMessage,
  direction: Direction,
): Field {
  const start = NET_AT + 2 * word;
  const value = ((bytes[start] as number) << 8) | (bytes[start + 1] as number);
  const base = { start, end: start + 2, value, codec: 'u16be' as const };
  if (group === 'pzd') {
    const names = direction === 'request' ? ['control word', 'main reference'] : ['status word', 'main actual value'];
    const text = place === 0 ? hexNumber(value) : `${hexNumber(value)} = ${value > 0x7fff ? value - 0x10000 : value}`;
    return { ...base, path: `pzd[${place}]`, label: names[place] ?? `process data ${place + 1}`, text };
  }
  if (place === 0) return { ...base, path: 'pke', label: 'PKE', text: channelText(message, direction) };
  if (place === 1) return { ...base, path: 'ind', label: 'IND', text: hexNumber(value) };
  return { ...base, path: `pwe[${place - 2}]`, label: `PWE ${place - 1}`, text: `${hexNumber(value)} = ${value}` };
}
