import { bytesToHex, hexNumber } from '../bytes/hex';
import type { PlaceLink } from '../places/place-link';
import { notationsOf } from '../registers/notation';
import { ROUNDING_TEXT } from '../scaling/rounding';
import { stagesOf, toRaw } from '../scaling/scale';
import { ratio } from '../scaling/rational';
import { signText } from '../scaling/wire';
import { binaryText } from '../words/read';
import { chainOf } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';

/** A word to send, in every base, with the frame that carries it. */
export interface CardWord {
  readonly name: string;
  readonly hex: string;
  readonly decimal: string;
  readonly binary: string;
  /** The whole request, hex; empty where the link carries no such word. */
  readonly frame: string;
}

/** A place that the controller reads or writes, in every notation of its address. */
export interface CardPlace {
  readonly name: string;
  readonly number: string;
  readonly access: 'read' | 'read and write';
  readonly type: string;
  readonly fromZero: string;
  readonly fromOne: string;
  readonly hex: string;
  readonly reference5: string;
  readonly reference6: string;
  readonly scale: string;
}

export interface WordCard {
  readonly title: string;
  readonly link: string;
  readonly byteOrder: string;
  readonly words: readonly CardWord[];
  readonly places: readonly CardPlace[];
  readonly scale: readonly string[];
}

/** What a controller's programmer must have, in the order in which it is used. */
const ROLES: readonly ParameterRole[] = [
  'control-word',
  'speed-reference',
  'target-position',
  'mode',
  'status-word',
  'actual-speed',
  'mode-display',
  'actual-position',
  'fault-code',
  'minimum-speed',
  'maximum-speed',
  'ramp-time',
  'watchdog-time',
];

function scaleText(index: SheetIndex, place: PlacedParameter): string {
  const chain = chainOf(index.sheet, place);
  if (!chain) return place.unit ?? '';
  const one = toRaw(chain, ratio(1n));
  const step = chain.steps.find((candidate) => candidate.kind === 'full-scale');
  if (step) return `${step.raw} = ${step.value} ${chain.unit}`;
  return one.ok ? `1 ${chain.unit} = ${one.value.working[0]?.split(' = ')[1] ?? ''} counts` : '';
}

/** The card of a station: its words, its addresses and its scale. `places` builds the frames. */
export function wordCard(index: SheetIndex, station: number, link: string, places: PlaceLink | null): WordCard {
  const width = index.words?.control.width ?? 16;
  const control = index.byRole.get('control-word');
  const reference = index.byRole.get('speed-reference');
  const chain = reference && chainOf(index.sheet, reference);
  const stages = chain && stagesOf(chain);
  return {
    title: `${index.sheet.name}, station ${station}`,
    link,
    byteOrder: 'high byte first in each word; a 32-bit value in two registers has its high word first',
    words: index.commands.map(({ name, word }) => {
      const frame = control && places?.write(station, control, word, () => undefined);
      return {
        name,
        hex: hexNumber(word, width / 4),
        decimal: `${word}`,
        binary: binaryText(word, width),
        frame: frame ? bytesToHex(frame, ' ').toUpperCase() : '',
      };
    }),
    places: ROLES.flatMap((role): CardPlace[] => {
      const place = index.byRole.get(role);
      if (!place) return [];
      const notations = place.place.kind === 'register' ? notationsOf(place.place.table, place.place.address) : null;
      return [
        {
          name: place.name,
          number: place.number,
          access: place.write === 'never' ? 'read' : 'read and write',
          type: `${place.type}${place.order === undefined ? '' : ` ${place.order}`}`,
          fromZero: notations?.decimal ?? place.working,
          fromOne: notations?.fromOne ?? '',
          hex: notations?.hex ?? '',
          reference5: notations?.reference5 ?? '',
          reference6: notations?.reference6 ?? '',
          scale: scaleText(index, place),
        },
      ];
    }),
    scale:
      chain && stages?.ok
        ? [
            `${reference.name}: ${stages.value.map(({ name }) => name).join(', then ')}, ${ROUNDING_TEXT[chain.rounding]}`,
            `${chain.word.bits} bits, ${chain.word.signed ? `backward as ${signText(chain.word)}` : 'no sign'}`,
          ]
        : [],
  };
}

/** Headings of a place's row, and its cells. */
export const PLACE_HEAD = [
  'place',
  'number',
  'access',
  'type',
  'from 0',
  'from 1',
  'hex',
  '5 digits',
  '6 digits',
  'scale',
];
/** A row of the word card as the cells of its table. */
export const placeCells = (place: CardPlace): readonly string[] => [
  place.name,
  place.number,
  place.access,
  place.type,
  place.fromZero,
  place.fromOne,
  place.hex,
  place.reference5,
  place.reference6,
  place.scale,
];

/** The card as rows for a table file: a heading row before each part. */
export function cardRows({ title, link, byteOrder, words, places, scale }: WordCard): readonly (readonly string[])[] {
  return [
    [title],
    ['link', link],
    ['byte order', byteOrder],
    ...scale.map((line) => ['scale', line]),
    [],
    ['word', 'hex', 'decimal', 'binary', 'frame'],
    ...words.map(({ name, hex, decimal, binary, frame }) => [name, hex, decimal, binary, frame]),
    [],
    [...PLACE_HEAD],
    ...places.map(placeCells),
  ];
}
