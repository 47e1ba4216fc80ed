import { hexToBytes } from '../bytes/hex';
import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import { pkeOf, type UssMessage } from './message';
import { ADR, bcc, NET_AT, PZD_MAX, STATION_MAX, STX, USS_MAX } from './telegram';

/** What is needed to build a telegram; `pke`, or `ak` and `pnu`, name the task. Without a parameter channel all of it may be left out. */
export type UssDraft = Partial<UssMessage> & Pick<UssMessage, 'address'>;

type Bytes = Result<Uint8Array, readonly Fault[]>;

const no = (
  at: number,
  size: number,
  text: string,
  code: 'value-out-of-range' | 'missing-field' | 'quantity-out-of-range' | 'too-long' = 'value-out-of-range',
): Bytes => failed([fault(code, at, at + size, text)]);

const fits = (value: number, most: number): boolean => Number.isInteger(value) && value >= 0 && value <= most;

/**
 * Builds a telegram with LGE and BCC. Words beyond those given are 0, as a master sends them.
 * Faults: `value-out-of-range`, `missing-field`, `quantity-out-of-range` (more than 16 words of process data), `too-long`.
 */
export function encodeUss(draft: UssDraft): Bytes {
  const { address, mirror = false, broadcast = false, special = false } = draft;
  if (!fits(address, STATION_MAX)) return no(2, 1, `station ${address}: 0 to ${STATION_MAX} exist`);
  const net = special && draft.dataHex !== undefined ? specialData(draft.dataHex) : netOf(draft);
  if (!net.ok) return net;
  const total = NET_AT + net.value.length + 1;
  if (total > USS_MAX)
    return no(USS_MAX, total - USS_MAX, `${total} characters; a telegram has ${USS_MAX} at most`, 'too-long');
  const bytes = new Uint8Array(total);
  bytes.set([
    STX,
    total - 2,
    address | (broadcast ? ADR.broadcast : 0) | (mirror ? ADR.mirror : 0) | (special ? ADR.special : 0),
  ]);
  bytes.set(net.value, NET_AT);
  bytes[total - 1] = bcc(bytes, total - 1);
  return done(bytes);
}

function specialData(dataHex: string): Bytes {
  const bytes = hexToBytes(dataHex);
  return bytes.ok ? bytes : failed([bytes.error]);
}

function netOf(draft: UssDraft): Bytes {
  const { pwe = [], pzd = [], pkwWords = channelOf(draft) } = draft;
  if (pzd.length > PZD_MAX)
    return no(NET_AT, 0, `${pzd.length} words of process data; ${PZD_MAX} at most`, 'quantity-out-of-range');
  if (!fits(pkwWords, 126) || pkwWords === 1 || pkwWords === 2)
    return no(NET_AT, 0, `a parameter channel of ${pkwWords} words: 0, 3, 4 or more are possible`);
  const words: number[] = [];
  if (pkwWords > 0) {
    const pke = taskWord(draft);
    if (typeof pke !== 'number') return pke;
    if (pwe.length > pkwWords - 2)
      return no(NET_AT + 4, 2 * pwe.length, `${pwe.length} value words do not fit a channel of ${pkwWords} words`);
    words.push(pke, draft.ind ?? 0, ...pwe, ...new Array<number>(pkwWords - 2 - pwe.length).fill(0));
  }
  words.push(...pzd);
  const bad = words.findIndex((word) => !fits(word, 0xffff));
  if (bad >= 0) return no(NET_AT + 2 * bad, 2, `word ${bad + 1} of the net data is ${words[bad]}: 0 to 65535 fit`);
  return done(Uint8Array.from(words.flatMap((word) => [word >> 8, word & 0xff])));
}

/** The channel that the given fields need: none, or 4 words, in which every value fits. */
const channelOf = ({ pke, ak, pnu, ind, pwe }: UssDraft): number =>
  pke === undefined && ak === undefined && pnu === undefined && ind === undefined && pwe === undefined ? 0 : 4;

function taskWord({ pke, ak, pnu, spm = false }: UssDraft): number | Extract<Bytes, { ok: false }> {
  if (ak === undefined && pnu === undefined && pke !== undefined) return pke;
  const refused = (text: string): Extract<Bytes, { ok: false }> =>
    failed([fault('value-out-of-range', NET_AT, NET_AT + 2, text)]);
  const [id, number] = [ak ?? 0, pnu ?? 0];
  if (!fits(id, 15)) return refused(`id ${id}: 0 to 15 fit`);
  if (!fits(number, 2047))
    return refused(`parameter number ${number}: 0 to 2047 fit the word; higher ones need the sheet’s page bits`);
  const word = pkeOf(id, spm, number);
  return pke === undefined || pke === word ? word : refused('pke says another thing than ak, spm and pnu');
}
