import { hexNumber } from '../bytes/hex';
import type { Result } from '../result';
import { indexSheet } from './index-sheet';
import { loadSheet } from './load-sheet';
import type { Parameter } from './parameter-section';
import { cellOf, type Place } from './place';
import type { Sheet } from './sheet';
import { sheetFile } from './sheet-file';
import type { SheetFault } from './sheet-fault';
import { standardStop } from './standard-stop';
import { isFloatType, wordsOfType } from '../values/type';

/** The four values without which nobody runs a drive over a link. */
export const FIRST_ROLES = ['control-word', 'status-word', 'speed-reference', 'actual-speed'] as const;
export type FirstRole = (typeof FIRST_ROLES)[number];

/** How the speeds lie in their registers. A float holds its unit already; it needs no scale. */
export const SPEED_FORMS = {
  int16: { name: '16 bits', type: 'int16' },
  int32: { name: '32 bits, high word first', type: 'int32' },
  'int32-low': { name: '32 bits, low word first', type: 'int32', order: 'CDAB' },
  float32: { name: 'float, high word first', type: 'float32' },
  'float32-low': { name: 'float, low word first', type: 'float32', order: 'CDAB' },
} as const satisfies Readonly<Record<string, Pick<Parameter, 'type' | 'order'> & { readonly name: string }>>;
export type SpeedForm = keyof typeof SPEED_FORMS;

/** What must be said before a drive without a sheet is commanded. What is left out stays unknown. */
export interface FirstFacts {
  /** `plain`: the manual’s bits are not known yet, each stands for itself. */
  readonly profile: 'plain' | 'cia402' | 'profidrive';
  readonly at: Readonly<Partial<Record<FirstRole, Place>>>;
  /** Absent: 16 bits. */
  readonly speeds?: SpeedForm;
  /** What a raw number of the speeds stands for; absent: it is shown as it is. All as exact decimals or fractions. */
  readonly full?: { readonly raw: string; readonly value: string; readonly unit: string } | undefined;
  /** The unit of speeds that are floats. */
  readonly unit?: string;
}

const SOURCE = { kind: 'guess', text: 'typed in to begin with' } as const;
const SCALE = 'speed';

/** All bits of a word, each by its number only. */
const plainBits = () =>
  Array.from({ length: 16 }, (_, bit) => ({ bit, name: `bit ${bit}`, one: 'set', zero: 'not set' }));

const isSpeed = ({ role }: Parameter): boolean => role === 'speed-reference' || role === 'actual-speed';
/** A speed whose counts take 32 bits, whether it was there before or comes now. */
const isWideSpeed = (own: Parameter): boolean => isSpeed(own) && !isFloatType(own.type) && wordsOfType(own.type) === 2;

/** The speeds that are raw numbers so far are read by the scale. */
const withScale = (sheet: Sheet): Sheet => ({
  ...sheet,
  parameters: (sheet.parameters ?? []).map((own) =>
    isSpeed(own) && !own.scale && !isFloatType(own.type) ? { ...own, scale: { kind: 'chain', id: SCALE } } : own,
  ),
});

/** The speeds that are floats are in this unit, where the sheet does not say one. */
const withUnit = (sheet: Sheet, unit: string): Sheet => ({
  ...sheet,
  parameters: (sheet.parameters ?? []).map((own) =>
    isSpeed(own) && own.unit === undefined && isFloatType(own.type) ? { ...own, unit } : own,
  ),
});

function formOf(speeds: SpeedForm): Pick<Parameter, 'type' | 'order'> {
  const { type, order }: Pick<Parameter, 'type' | 'order'> = SPEED_FORMS[speeds];
  return { type, ...(order === undefined ? {} : { order }) };
}

/** A place that the sheet knows gets the role; another one becomes an entry. */
function withRole(sheet: Sheet, role: FirstRole, place: Place, speeds: SpeedForm): Sheet {
  const index = indexSheet(sheet);
  if (index.byRole.has(role)) return sheet;
  const known = index.byCell.get(cellOf(place));
  const isWord = role === 'control-word' || role === 'status-word';
  const { parameters = [] } = sheet;
  if (known && known.role === undefined)
    return {
      ...sheet,
      parameters: parameters.map((own) => (own.number === known.number ? { ...own, role } : own)),
    };
  const name = role.replace('-', ' ');
  const taken = new Set(parameters.map(({ number }) => number));
  // What has no number of its own is known by where it stands.
  const own = place.kind === 'register' ? `${place.address}` : name;
  let number = own;
  for (let i = 2; taken.has(number); i++) number = `${own} ${i}`;
  const entry: Parameter = {
    number,
    name,
    role,
    at: [place],
    ...(isWord ? { type: 'uint16' as const } : formOf(speeds)),
    write: role === 'control-word' || role === 'speed-reference' ? 'always' : 'never',
    source: SOURCE,
  };
  return { ...sheet, parameters: [...parameters, entry] };
}

/** The sheet with its first facts, as the next revision; the error lists what a check finds wrong. What the sheet says already stays. */
export function withFirstFacts(
  sheet: Sheet,
  { profile, at, speeds = 'int16', full, unit }: FirstFacts,
  revision: number,
): Result<Sheet, readonly SheetFault[]> {
  const stop = standardStop(profile);
  const knowsWords = indexSheet(sheet).words !== undefined;
  let made: Sheet = { ...sheet, revision };
  if (!knowsWords && profile === 'plain')
    made = { ...made, words: { control: { width: 16, bits: plainBits() }, status: { width: 16, bits: plainBits() } } };
  if (!knowsWords && profile !== 'plain')
    made = { ...made, profile: profile === 'cia402' ? { kind: profile, modes: ['velocity'] } : { kind: profile } };
  if (!made.commands && stop)
    made = {
      ...made,
      commands: {
        words: [],
        stop: { words: [...stop], standstillWithinMs: 10_000 },
        watchdogFedBy: 'any-request',
      },
    };
  for (const role of FIRST_ROLES) {
    const place = at[role];
    if (place) made = withRole(made, role, place, speeds);
  }
  if (full && !made.scalings?.some(({ id }) => id === SCALE))
    made = {
      ...made,
      scalings: [
        ...(made.scalings ?? []),
        {
          id: SCALE,
          name: `speed, ${full.raw} is ${full.value} ${full.unit}`,
          chain: {
            unit: full.unit,
            steps: [{ kind: 'full-scale', value: full.value, raw: full.raw }],
            rounding: 'nearestHalfUp',
            word: { bits: made.parameters?.some(isWideSpeed) ? 32 : 16, signed: true },
          },
        },
      ],
    };
  if (full) made = withScale(made);
  if (unit !== undefined) made = withUnit(made, unit);
  // Read like any file, so that nothing gets in that a file could not bring.
  return loadSheet(sheetFile(made));
}

/** `0x0007, 0x0006`; empty where a profile has no words that every drive stops at. */
export const stopText = (profile: FirstFacts['profile']): string =>
  (standardStop(profile) ?? []).map((word) => hexNumber(word)).join(', ');
