import type { SheetIndex } from '../sheet/index-sheet';
import { isProcessOut, isUssParameter, PLACES } from '../sheet/places';
import { encodeUss, type UssDraft } from '../uss/encode';
import { channelState } from '../uss/pairing';
import { channelWords, numberOf, readTask, writeTask, type UssParameter } from '../uss/parameter';
import { netWords, readUss } from '../uss/telegram';
import type { PlaceLink } from './place-link';

const built = (draft: UssDraft): Uint8Array | null => {
  const telegram = encodeUss(draft);
  return telegram.ok ? telegram.value : null;
};

/** Bit 10 of PROFIdrive's control word: without it the drive does not look at the process data. */
const CONTROL_BY_PLC = 0x400;

/**
 * A control word with which a telegram only asks: one that the drive does not look at, where its profile has such a one, else the last of its
 * stop words.
 */
export function neutralControlWord({ profile, sheet }: SheetIndex): number {
  if (profile?.id === 'profidrive') return 0;
  const words = sheet.commands?.stop.words ?? [];
  return words[words.length - 1] ?? 0;
}

/** Whether the drive looks at this control word at all. */
export const wordCounts = ({ profile }: SheetIndex, control: number): boolean =>
  profile?.id !== 'profidrive' || (control & CONTROL_BY_PLC) !== 0;

/** The words of a value as one number, high word first. */
const numberIn = (pwe: readonly number[]): number => pwe.reduce((number, word) => number * 0x1_0000 + word, 0);

/** Tasks that change a parameter. */
const WRITING_TASKS: ReadonlySet<number> = new Set([2, 3, 5, 7, 8, 11, 12, 13, 14]);

/** Process data and parameters behind USS. Every telegram carries all words of the process data. */
export function ussLink(index: SheetIndex): PlaceLink {
  const rule = index.sheet.uss;
  if (!rule)
    return {
      write: () => null,
      writeRow: () => null,
      read: () => [],
      writes: () => false,
      written: () => [],
      learned: () => [],
    };
  const open = (bytes: Uint8Array) => readUss(bytes, channelWords(netWords(bytes.length), rule));
  const parameterOf = (number: number): UssParameter | null => {
    const found = rule.parameters.find((parameter) => parameter.number === number);
    return found ? { number, double: found.double === true, elements: found.elements ?? 1 } : null;
  };
  const asking = (pzdWords: number): number[] =>
    [neutralControlWord(index), ...new Array<number>(pzdWords).fill(0)].slice(0, pzdWords);
  return {
    write: (address, place, word, known) => {
      if (isProcessOut(place.address)) {
        const at = place.address - PLACES.processOut;
        const pzd = Array.from({ length: rule.pzdWords }, (_, i) => {
          const role = index.byAddress.get(PLACES.processOut + i)?.role;
          return i === at ? word : ((role && known(role)) ?? (i === 0 ? neutralControlWord(index) : 0));
        });
        return built({ address, pkwWords: rule.pkwWords, pzd });
      }
      const parameter = isUssParameter(place.address) ? parameterOf(place.address - PLACES.ussParameter) : null;
      const task = parameter && writeTask(rule, address, parameter, word, 'working');
      return task?.ok ? built({ ...task.value.draft, pzd: asking(rule.pzdWords) }) : null;
    },
    writeRow: () => null,
    read: (address, places) => {
      const parameters = places.flatMap((place) =>
        isUssParameter(place.address) ? (parameterOf(place.address - PLACES.ussParameter) ?? []) : [],
      );
      // Each telegram brings the process data back as well; without a parameter to ask for, one of them is enough.
      if (parameters.length === 0)
        return [built({ address, pkwWords: rule.pkwWords, pzd: asking(rule.pzdWords) })].filter(
          (bytes) => bytes !== null,
        );
      return parameters.flatMap((parameter) => {
        const task = readTask(rule, address, parameter);
        return (task.ok && built({ ...task.value.draft, pzd: asking(rule.pzdWords) })) || [];
      });
    },
    writes: (request) => {
      const { message } = open(request);
      if (!message || message.mirror) return false;
      return wordCounts(index, message.pzd?.[0] ?? 0) || WRITING_TASKS.has(message.ak ?? 0);
    },
    written: (request) => {
      const { message } = open(request);
      if (!message || message.mirror) return [];
      const { pzd = [], ak = 0, pnu, ind, pwe = [] } = message;
      const process = wordCounts(index, pzd[0] ?? 0)
        ? pzd.map((word, i) => [PLACES.processOut + i, word] as const)
        : [];
      const place = pnu === undefined || ind === undefined ? null : numberOf(rule, pnu, ind);
      const parameter =
        WRITING_TASKS.has(ak) && place?.element === 0
          ? [[PLACES.ussParameter + place.number, numberIn(pwe)] as const]
          : [];
      return [...process, ...parameter];
    },
    learned: (request, reply) => {
      const [asked, said] = [open(request).message, open(reply).message];
      if (!asked || !said || asked.mirror || said.mirror || said.special) return [];
      const words = (pzd: readonly number[] | undefined, from: number) =>
        (pzd ?? []).map((word, i) => [from + i, word] as const);
      const sent = wordCounts(index, asked.pzd?.[0] ?? 0) ? words(asked.pzd, PLACES.processOut) : [];
      const isAnswer = said.ak === 1 || said.ak === 2;
      const place = said.pnu === undefined || said.ind === undefined ? null : numberOf(rule, said.pnu, said.ind);
      const value = said.pwe && numberIn(said.pwe);
      const parameter =
        isAnswer && place?.element === 0 && value !== undefined && channelState(asked, said).kind === 'done'
          ? [[PLACES.ussParameter + place.number, value] as const]
          : [];
      return [...sent, ...words(said.pzd, PLACES.processIn), ...parameter];
    },
  };
}
