import { concatBytes } from '../bytes/concat';
import { hexNumber } from '../bytes/hex';
import type { Direction } from '../direction';
import { anatomyUss } from '../uss/anatomy';
import { encodeUss } from '../uss/encode';
import { ussLink } from '../places/uss-link';
import type { UssMessage } from '../uss/message';
import { USS_START_GAP_CHARACTERS } from '../line/budget';
import { answersAlike, channelState, pairUss } from '../uss/pairing';
import { refusalText } from '../uss/tables';
import { channelWords, numberOf, type UssRule } from '../uss/parameter';
import { netWords, probeUss, readUss, sealUss, STATION_MAX, USS_MAX } from '../uss/telegram';
import { channelText } from '../uss/value';
import { parameterIn, parameterText, processTexts } from './annotate-uss';
import type { SheetIndex } from '../sheet/index-sheet';
import type { LineProtocol } from './line-protocol';
import type { RefusalWhy } from './refusal';

/** A pattern in which every bit changes to its neighbour. */
const MIRRORED = [0x5555, 0xaaaa];

/** The numbers of refusals as the published list has them, from memory. */
const WHY: Readonly<Partial<Record<number, RefusalWhy>>> = {
  0: 'place',
  1: 'fixed',
  2: 'value',
  3: 'place',
  4: 'function',
  5: 'value',
  6: 'value',
  7: 'fixed',
  9: 'function',
  10: 'right',
  11: 'right',
  12: 'right',
  15: 'function',
  17: 'state',
};

/** USS on a line. The drives' sheets say how wide the parameter channel is; without one it is told by the length. */
export function ussProtocol(rule: UssRule | null): LineProtocol {
  const open = (bytes: Uint8Array) => readUss(bytes, channelWords(netWords(bytes.length), rule));
  return {
    family: 'uss',
    name: 'USS',
    speaksText: false,
    sharesLine: true,
    restCharacters: USS_START_GAP_CHARACTERS,
    longest: USS_MAX,
    stations: { least: 0, most: STATION_MAX },
    read: (bytes) => {
      const { message, faults, shape } = open(bytes);
      return { faults, whole: message !== null && shape.checkGood, modbus: null };
    },
    anatomy: (bytes, direction) => anatomyUss(bytes, direction, open(bytes).message?.pkwWords),
    seal: sealUss,
    completed: (bytes) => {
      const frame = sealUss(concatBytes(bytes, new Uint8Array(1)));
      // LGE is what tells a telegram without its check from one that is cut elsewhere.
      return bytes[1] === frame[1] && open(frame).faults.length === 0 ? frame : null;
    },
    probe: probeUss,
    pair: (request, reply) => {
      const [asked, said] = [open(request).message, open(reply).message];
      return asked && said ? pairUss(asked, said) : { kind: 'other', why: 'one of the two says nothing' };
    },
    shareAnswer: (one, other) => {
      const [a, b] = [open(one).message, open(other).message];
      return a !== null && b !== null && answersAlike(a, b);
    },
    answers: (request) => open(request).message?.broadcast !== true,
    stationOf: (bytes) => open(bytes).message?.address ?? null,
    numbered: (bytes) => bytes,
    placesOf: ussLink,
    harmless: (address) => {
      const built = encodeUss({ address, mirror: true, pzd: MIRRORED });
      return built.ok ? built.value : null;
    },
    refusal: (code) => ({ why: WHY[code] ?? 'other', text: `number ${code}, ${refusalText(code)}` }),
    sentence: (bytes, direction, request, index) => {
      const { message, faults } = open(bytes);
      if (!message || faults.length > 0) return faults[0]?.text ?? 'no telegram';
      return telegramSentence(message, direction, request ? open(request).message : null, rule, index);
    },
  };
}

/** A telegram in a line: what the parameter channel says, then the process data. */
function telegramSentence(
  message: UssMessage,
  direction: Direction,
  request: UssMessage | null,
  rule: UssRule | null,
  index: SheetIndex | null,
): string {
  const head = message.broadcast ? 'to all: ' : '';
  if (message.mirror) return direction === 'request' ? 'mirror: send the same back' : 'mirror: the same came back';
  if (message.special) return 'special telegram';
  const { pnu, ind, pzd = [] } = message;
  const place = rule && pnu !== undefined && ind !== undefined ? numberOf(rule, pnu, ind) : null;
  const name = index ? parameterIn(message, direction, index)?.name : undefined;
  const channel =
    message.pkwWords === 0
      ? ''
      : channelText(message, direction, {
          ...(place ? { called: ['parameter', place.number, name].filter(Boolean).join(' ') } : {}),
          ...(index ? { meaning: parameterText(message, direction, index) } : {}),
        });
  const state = direction === 'response' && request ? channelState(request, message) : null;
  const older =
    state?.kind === 'older'
      ? `answer to an older task: ${state.text}; `
      : state?.kind === 'not-yet'
        ? 'no answer to the task yet; '
        : '';
  const known = index ? processTexts(message, direction, index) : [];
  const names = direction === 'request' ? ['control', 'reference'] : ['status', 'actual'];
  const data = pzd
    .flatMap((word, i) => {
      const own = known[i];
      // A value of several words is said once; words of which the sheet says nothing are said where they are not empty.
      if (own ? own.part > 0 : index !== null && word === 0) return [];
      const called = names[i] ?? own?.name;
      const text = own?.text ?? hexNumber(word);
      return called ? `${called} ${text}` : text;
    })
    .join(', ');
  return head + older + [channel, data].filter((part) => part !== '').join(' · ');
}
