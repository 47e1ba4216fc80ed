import type { CommandRole } from '../dialect/dialect';
import { addressOf, type WorkedAddress } from '../registers/address';
import { modesOf, profileOf } from './profile-of';
import type { Profile, ProfileCommand } from '../profile/profile';
import type { Parameter, ParameterRole } from './parameter-section';
import type { ControlRole, StatusRole, WordSpec } from '../words/spec';
import { PLACES } from './places';
import type { Sheet } from './sheet';
import type { ProcessItem } from './uss-section';

/** A parameter with the place that the sheet gives it: a register, a word of the process data, a command. */
export interface PlacedParameter extends Omit<Parameter, 'type'> {
  readonly type: Parameter['type'] | 'uint32' | 'int32';
  readonly address: number;
  readonly working: string;
}

export interface DriveWords {
  readonly control: WordSpec<ControlRole>;
  readonly status: WordSpec<StatusRole>;
}

/** A sheet ready for look-ups by register, number and role. Parameters that the rule cannot place are left out (`checkSheet` names them). */
export interface SheetIndex {
  readonly sheet: Sheet;
  /** The words of the profile with what the sheet changes in them, or those that the sheet lists; undefined where it has none. */
  readonly words: DriveWords | undefined;
  /** Words that people keep ready. */
  readonly commands: readonly (ProfileCommand & { readonly note?: string | undefined })[];
  readonly profile: Profile | null;
  /** The same sheet in each mode that the drive knows, by the mode's number; empty where it has none. */
  readonly modes: ReadonlyMap<number, SheetIndex>;
  readonly parameters: readonly PlacedParameter[];
  readonly byAddress: ReadonlyMap<number, PlacedParameter>;
  readonly byNumber: ReadonlyMap<string, PlacedParameter>;
  readonly byRole: ReadonlyMap<ParameterRole, PlacedParameter>;
}

const made = new WeakMap<Sheet, SheetIndex>();

/** The index of a sheet; made once for each, however many stations go by it. */
export function indexSheet(sheet: Sheet): SheetIndex {
  const known = made.get(sheet);
  if (known) return known;
  const index = makeIndex(sheet);
  made.set(sheet, index);
  return index;
}

function makeIndex(sheet: Sheet): SheetIndex {
  // Each of them knows all modes, so that one leads to the others.
  const modes = new Map<number, SheetIndex>();
  for (const { mode, number } of modesOf(sheet)) modes.set(number, withProfile(sheet, profileOf(sheet, mode), modes));
  return withProfile(sheet, profileOf(sheet), modes);
}

/** The sheet in the mode that the drive shows; in its first one where that is not known. */
export const inMode = (index: SheetIndex, mode: number | undefined): SheetIndex =>
  (mode === undefined ? undefined : index.modes.get(mode)) ?? index;

function withProfile(sheet: Sheet, profile: Profile | null, modes: SheetIndex['modes']): SheetIndex {
  const parameters = [...registersOf(sheet), ...processOf(sheet), ...ussParametersOf(sheet), ...commandsOf(sheet)];
  return {
    sheet,
    words: profile ? { control: profile.control, status: profile.status } : sheet.words,
    commands: profile?.commands ?? sheet.commands?.words ?? [],
    profile,
    modes,
    parameters,
    byAddress: new Map(parameters.map((parameter) => [parameter.address, parameter])),
    byNumber: new Map(parameters.map((parameter) => [parameter.number, parameter])),
    byRole: new Map(parameters.flatMap((parameter) => (parameter.role ? [[parameter.role, parameter] as const] : []))),
  };
}

const registersOf = ({ parameters = [], addressRule }: Sheet): readonly PlacedParameter[] =>
  parameters.flatMap((parameter) => {
    const placed: WorkedAddress | null = addressRule ? addressOf(addressRule, parameter.number) : null;
    return placed ? [{ ...parameter, ...placed }] : [];
  });

/** Words of the process data, as the telegram carries them. */
function processOf({ uss }: Sheet): readonly PlacedParameter[] {
  const { out = [], in: back = [] } = uss?.process ?? {};
  const place = (item: ProcessItem, i: number, toDrive: boolean): PlacedParameter => ({
    ...item,
    number: `PZD ${i + 1} ${toDrive ? 'out' : 'in'}`,
    default: 0,
    write: toDrive ? 'always' : 'never',
    address: (toDrive ? PLACES.processOut : PLACES.processIn) + i,
    working: `word ${i + 1} of the process data ${toDrive ? 'to' : 'from'} the drive`,
  });
  return [...out.map((item, i) => place(item, i, true)), ...back.map((item, i) => place(item, i, false))];
}

const ussParametersOf = ({ uss }: Sheet): readonly PlacedParameter[] =>
  (uss?.parameters ?? []).map(
    ({ number, name, unit, role, scale, choices, min, max, default: byDefault, write, double }) => ({
      number: `${number}`,
      name,
      unit,
      role,
      scale,
      choices,
      min,
      max,
      default: byDefault,
      write,
      type: double ? (min < 0 ? 'int32' : 'uint32') : min < 0 ? 'int16' : 'uint16',
      address: PLACES.ussParameter + number,
      working: `parameter ${number} of the parameter channel`,
    }),
  );

/** What a command of a dialect stands for in words and scales. */
const ROLE_OF_COMMAND: Readonly<Partial<Record<CommandRole, ParameterRole>>> = {
  mode: 'control-word',
  'motion-word': 'status-word',
  speed: 'speed-reference',
  'actual-speed': 'actual-speed',
  'speed-limit': 'maximum-speed',
  fault: 'fault-code',
};

const WIDEST = { min: -(2 ** 31), max: 2 ** 32 - 1 };

const commandsOf = ({ dialect }: Sheet): readonly PlacedParameter[] =>
  (dialect?.commands ?? []).flatMap((command, i) => {
    const role = command.role && ROLE_OF_COMMAND[command.role];
    const [field] = command.fields;
    if (!role || !field || field.base === 'text') return [];
    const [value] = command.default ?? [];
    return [
      {
        number: command.verb,
        name: command.name,
        role,
        unit: field.unit,
        scale: field.perCount === undefined ? undefined : { kind: 'resolution', value: field.perCount },
        choices: field.choices,
        type: (field.min ?? 0) < 0 ? 'int32' : 'uint32',
        min: field.min ?? WIDEST.min,
        max: field.max ?? WIDEST.max,
        default: typeof value === 'number' ? value : 0,
        write: command.access.includes('write') ? 'always' : 'never',
        address: PLACES.command + i,
        working: `command ${command.verb}`,
      } satisfies PlacedParameter,
    ];
  });
