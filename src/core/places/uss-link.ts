import type { SheetIndex } from '../sheet/index-sheet';
import type { PlacedParameter } from '../sheet/index-sheet';
import { cellOf, type Cell, type Place, type PlaceOf } from '../sheet/place';
import { wordsOfPattern } from '../values/pattern';
import { wordsOfType } from '../values/type';
import { encodeUss, type UssDraft } from '../uss/encode';
import type { AnsweredParameter } from '../uss/expect';
import { channelState } from '../uss/pairing';
import { channelWords, numberOf, readTask, writeTask, type UssParameter } from '../uss/parameter';
import { netWords, readUss } from '../uss/telegram';
import { patternOfCells } from '../drive/seen';
import { actOfTask } from '../uss/task';
import { processCell, processPlace, withProcessData, type ProcessWay } from './process-data';
import { NO_PLACES } from './no-places';
import { alsoByOwn, byOwn, oneNumber, type PlaceLink } from './place-link';

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

const wayOf = <Kind extends Place['kind']>({ place, others }: PlacedParameter, kind: Kind): PlaceOf<Kind> | undefined =>
  [place, ...others].find((way): way is PlaceOf<Kind> => way.kind === kind);

/** A parameter as the tasks of the channel need it; null where USS does not reach it. */
export function ussParameterOf(parameter: PlacedParameter): (UssParameter & { readonly element: number }) | null {
  const way = wayOf(parameter, 'uss');
  return way
    ? {
        number: way.number,
        double: wordsOfType(parameter.type) > 1,
        elements: way.elements ?? 1,
        element: way.element ?? 0,
      }
    : null;
}

/** The cell of a parameter that a telegram is about; an index that is no element of an array has none. */
const cellIn = ({ number, element }: { readonly number: number; readonly element: number }): Cell =>
  cellOf({ kind: 'uss', number, element });

/** What is known of each parameter of the channel, to say what its answer will be. */
export const answeredParameters = (index: SheetIndex): readonly AnsweredParameter[] =>
  index.parameters.flatMap((parameter) => {
    const way = ussParameterOf(parameter);
    const { min, max, write = 'always' } = parameter;
    return way?.element === 0 ? [{ ...way, min, max, write }] : [];
  });

/** Tasks that change a parameter. */
const WRITING_TASKS: ReadonlySet<number> = new Set([2, 3, 5, 7, 8, 11, 12, 13, 14]);

/** Process data and parameters behind USS. Every telegram carries all words of the process data. */
export function ussLink(index: SheetIndex): PlaceLink {
  const rule = index.sheet.uss;
  if (!rule) return NO_PLACES;
  const open = (bytes: Uint8Array) => readUss(bytes, channelWords(netWords(bytes.length), rule));
  const asking = (pzdWords: number): number[] =>
    [neutralControlWord(index), ...new Array<number>(pzdWords).fill(0)].slice(0, pzdWords);
  const write: PlaceLink['write'] = (address, place, word, known) => {
    const out = processPlace(place, 'out');
    if (out) {
      const pzd = withProcessData(index, asking(rule.pzdWords), known);
      const own = wordsOfPattern(word, place.cells.length, place.order);
      pzd.splice(out.word, own.length, ...own);
      return built({ address, pkwWords: rule.pkwWords, pzd });
    }
    const parameter = ussParameterOf(place);
    const task = parameter && writeTask(rule, address, parameter, word, 'working', parameter.element);
    return task?.ok ? built({ ...task.value.draft, pzd: asking(rule.pzdWords) }) : null;
  };
  return {
    write,
    writeWords: oneNumber(write),
    writeKept: (address, place, words) => {
      const parameter = ussParameterOf(place);
      const pattern = patternOfCells(place, words);
      const task =
        parameter && pattern !== null && writeTask(rule, address, parameter, pattern, 'kept', parameter.element);
      return task && task.ok ? built({ ...task.value.draft, pzd: asking(rule.pzdWords) }) : null;
    },
    keeps: (request) => {
      const { message } = open(request);
      const act = message && !message.mirror ? actOfTask(message.ak ?? 0) : null;
      return act === 'kept' ? true : act === 'working' ? false : null;
    },
    read: (address, places) => {
      const parameters = places.flatMap((place) => ussParameterOf(place) ?? []);
      // Each telegram brings the process data back as well; without a parameter to ask for, one of them is enough.
      if (parameters.length === 0)
        return [built({ address, pkwWords: rule.pkwWords, pzd: asking(rule.pzdWords) })].filter(
          (bytes) => bytes !== null,
        );
      return parameters.flatMap((parameter) => {
        const task = readTask(rule, address, parameter, parameter.element);
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
        ? pzd.map((word, i) => [processCell('out', i), word] as const)
        : [];
      const place = pnu === undefined || ind === undefined ? null : numberOf(rule, pnu, ind);
      const parameter = WRITING_TASKS.has(ak) && place ? [[cellIn(place), numberIn(pwe)] as const] : [];
      return byOwn(index, [...process, ...parameter]);
    },
    learned: (request, reply) => {
      const [asked, said] = [open(request).message, open(reply).message];
      if (!asked || !said || asked.mirror || said.mirror || said.special) return [];
      const words = (pzd: readonly number[] | undefined, direction: ProcessWay) =>
        (pzd ?? []).map((word, i) => [processCell(direction, i), word] as const);
      const sent = wordCounts(index, asked.pzd?.[0] ?? 0) ? words(asked.pzd, 'out') : [];
      // A word or a double word, of a single value or of an array's element.
      const isAnswer = said.ak === 1 || said.ak === 2 || said.ak === 4 || said.ak === 5;
      const place = said.pnu === undefined || said.ind === undefined ? null : numberOf(rule, said.pnu, said.ind);
      const value = said.pwe && numberIn(said.pwe);
      const parameter =
        isAnswer && place && value !== undefined && channelState(asked, said).kind === 'done'
          ? [[cellIn(place), value] as const]
          : [];
      return alsoByOwn(index, [...sent, ...words(said.pzd, 'in'), ...parameter]);
    },
    known: (told) => alsoByOwn(index, told),
  };
}
