import { onceFor } from '../once-for';
import { notationsOf } from '../registers/notation';
import type { PlacedParameter } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import type { CompareRow } from './compare-sets';
import type { Plan } from './plan';
import type { Witness } from './witness';

/** What is shown of all rows. */
export const ONLY = [
  { id: 'all', name: 'all values' },
  { id: 'differs', name: 'what differs' },
  { id: 'settings', name: 'settings that differ' },
  { id: 'refused', name: 'what was refused' },
  { id: 'planned', name: 'what is planned' },
  { id: 'restart', name: 'what waits for a restart' },
  { id: 'not-kept', name: 'what is not kept' },
  { id: 'size', name: 'what belongs to the size' },
] as const;
export type Only = (typeof ONLY)[number]['id'];

/** What people say of a drive, and the settings that it may come from. Common practice, no source. */
const SYMPTOMS: readonly (readonly [RegExp, readonly ParameterRole[]])[] = [
  [
    /start|run|turn|dreht|läuft/,
    ['command-source', 'reference-source', 'selector', 'direction-lock', 'fault-code', 'end-inputs'],
  ],
  [
    /slow|fast|speed|schnell|langsam/,
    ['maximum-speed', 'minimum-speed', 'reference-form', 'motor-poles', 'skip-from', 'skip-to', 'speed-reference'],
  ],
  [/stop|trip|link|loss|lost/, ['watchdog-time', 'watchdog-action', 'ramp-time']],
  [/answer|silent|comm/, ['station', 'bit-rate', 'character-form']],
  [/direction|reverse|backward|wrong way/, ['direction-lock', 'reference-form']],
  [/ramp|accel|brake/, ['ramp-time']],
];

const fold = (text: string): string =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '');

/** What a row is found by: its number, name, path, unit, note, names of values, every notation of its address. */
const foldedOf = onceFor(({ number, name, path, unit, note, choices, fields, place }: PlacedParameter): string => {
  const notations = place.kind === 'register' ? notationsOf(place.table, place.address) : null;
  return fold(
    [
      number,
      name,
      path,
      unit,
      note,
      ...(choices?.map((choice) => choice.name) ?? []),
      ...(fields?.map((field) => field.name) ?? []),
      ...(notations ? [`${notations.decimal}`, notations.hex, notations.reference5, notations.reference6] : []),
      place.kind === 'uss' ? `${place.number}` : '',
    ]
      .filter((part) => part !== undefined && part !== null)
      .join(' '),
  );
});

/** Where the drive's own keys find a value; the part of its number before the point where the sheet does not say it. */
const groupOf = ({ path, number }: PlacedParameter): string =>
  path ?? (/^\d+\.\d+$/.test(number) ? `group ${number.split('.', 1)[0] ?? ''}` : '');

/** All groups, in the order of the rows. */
export const groupsIn = (rows: readonly CompareRow[]): readonly string[] =>
  [...new Set(rows.map(({ parameter }) => groupOf(parameter)))].filter((group) => group !== '');

const KEEPS: Readonly<Record<Only, (row: CompareRow, witnesses: readonly Witness[], plan: Plan) => boolean>> = {
  all: () => true,
  differs: ({ verdict }) => verdict === 'differs',
  settings: ({ verdict, aside }) => verdict === 'differs' && aside === null,
  refused: ({ number }, witnesses) => witnesses.some(({ said }) => said.get(number)?.kind === 'refused'),
  planned: ({ number }, _, plan) => plan.has(number),
  restart: ({ parameter }) => parameter.effect === 'restart',
  'not-kept': ({ parameter }) => parameter.kept === false && parameter.write !== 'never',
  size: ({ parameter }) => parameter.sizeBound === true,
};

/** The rows that hold all the words, or one of whose symptoms they are, in a group or in all. Linear. */
export function findRows(
  rows: readonly CompareRow[],
  text: string,
  only: Only,
  witnesses: readonly Witness[],
  plan: Plan,
  group = '',
): readonly CompareRow[] {
  const words = fold(text)
    .split(/\s+/)
    .filter((word) => word !== '');
  const roles = new Set(
    text.trim().length < 3 ? [] : SYMPTOMS.flatMap(([symptom, named]) => (symptom.test(fold(text)) ? named : [])),
  );
  const keeps = KEEPS[only];
  return rows.filter((row) => {
    if (!keeps(row, witnesses, plan) || (group !== '' && groupOf(row.parameter) !== group)) return false;
    if (words.length === 0) return true;
    const own = foldedOf(row.parameter);
    return (
      words.every((word) => own.includes(word)) || (row.parameter.role !== undefined && roles.has(row.parameter.role))
    );
  });
}
