import type { ExpectedReply } from '../expected-reply';
import { encodeUss } from './encode';
import type { UssMessage } from './message';
import { channelWords, numberOf, type UssRule } from './parameter';
import { NET_AT, netWords, readUss } from './telegram';
import { refusalText, TASKS } from './tables';

/** What decides how a drive answers for a parameter: its number, its width and elements, its limits and whether it can be written. */
export interface AnsweredParameter {
  readonly number: number;
  readonly double?: boolean | undefined;
  readonly elements?: number | undefined;
  readonly min: number;
  readonly max: number;
  readonly write: 'always' | 'standstill' | 'never';
}

/** The answer's parameter channel as far as the sheet tells it: its id and value words, null where only the drive knows. */
interface Channel {
  readonly ak: number;
  readonly pwe: readonly (number | null)[];
  readonly text: string;
}

const UNKNOWN = [null, null] as const;

function channelFor(request: UssMessage, rule: UssRule | null, parameters: readonly AnsweredParameter[]): Channel {
  const { ak = 0, pnu = 0, ind = 0, pwe = [] } = request;
  if (ak === 0) return { ak: 0, pwe: [0, 0], text: 'no answer in the channel, for no task is set' };
  const refused = (code: number): Channel => ({ ak: 7, pwe: [0, code], text: `a refusal: ${refusalText(code)}` });
  const place = rule ? numberOf(rule, pnu, ind) : null;
  const parameter = parameters.find(({ number }) => number === place?.number);
  const task = TASKS[ak];
  if (!rule || !place || !task)
    return { ak: -1, pwe: UNKNOWN, text: 'the sheet does not say what this task is answered with' };
  if (!parameter) return refused(0);
  const { elements = 1, double = false } = parameter;
  if (task.array && elements === 1) return refused(4);
  if (task.array && place.element >= elements) return refused(3);
  const id = task.array ? (double ? 5 : 4) : double ? 2 : 1;
  if (ak === 1 || ak === 6) return { ak: id, pwe: UNKNOWN, text: 'question marks where the value is not known yet' };
  if (ak === 9) return elements === 1 ? refused(4) : { ak: 6, pwe: [0, elements], text: 'the number of elements' };
  if (task.carries !== 'word' && task.carries !== 'double')
    return { ak: -1, pwe: UNKNOWN, text: 'as the drive has it' };
  if (parameter.write === 'never') return refused(1);
  if ((task.carries === 'double') !== double) return refused(5);
  const [high = 0, low = 0] = pwe;
  const raw = double ? high * 65536 + low : (pwe[1] ?? high);
  const half = double ? 2 ** 31 : 2 ** 15;
  const value = parameter.min < 0 && raw >= half ? raw - 2 * half : raw;
  if (value < parameter.min || value > parameter.max) return refused(2);
  return { ak: id, pwe, text: 'the value that was written comes back' };
}

/**
 * The answer to a telegram. Process data are the drive's own affair and stay unknown; so does the check over them. Null where nobody answers.
 * `last` is the answer that the same telegram got before.
 */
export function expectUss(
  bytes: Uint8Array,
  rule: UssRule | null,
  parameters: readonly AnsweredParameter[],
  last: Uint8Array | null,
): ExpectedReply | null {
  const { message, faults } = readUss(bytes, channelWords(netWords(bytes.length), rule));
  if (!message || faults.length > 0 || message.broadcast || message.special) return null;
  if (message.mirror) return { bytes: [...bytes], text: 'the same bytes back' };
  const channel = message.pkwWords === 0 ? null : channelFor(message, rule, parameters);
  if (last && (!channel || channel.pwe.includes(null))) return { bytes: [...last], text: 'with the values last seen' };
  const sketch = encodeUss({
    address: message.address,
    pkwWords: message.pkwWords,
    ...(channel && channel.ak >= 0
      ? {
          ak: channel.ak,
          pnu: channel.ak === 0 ? 0 : (message.pnu ?? 0),
          ind: channel.ak === 0 ? 0 : (message.ind ?? 0),
        }
      : {}),
    pwe: (channel?.pwe ?? []).map((word) => word ?? 0).slice(0, Math.max(message.pkwWords - 2, 0)),
    pzd: (message.pzd ?? []).map(() => 0),
  });
  if (!sketch.ok) return null;
  const known = new Set<number>([0, 1, 2]);
  if (channel && channel.ak >= 0) {
    for (let i = 0; i < 4; i++) known.add(NET_AT + i);
    channel.pwe.forEach((word, i) => {
      if (word !== null) known.add(NET_AT + 4 + 2 * i).add(NET_AT + 5 + 2 * i);
    });
  }
  return {
    bytes: [...sketch.value].map((byte, at) => (known.has(at) ? byte : null)),
    text: channel?.text ?? 'question marks where only the drive knows',
  };
}
