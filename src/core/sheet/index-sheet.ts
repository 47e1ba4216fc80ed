import { onceFor } from '../once-for';
import { AXIS_ROLES, type CommandRole } from '../dialect/roles';
import { addressOf } from '../registers/address';
import { TABLE_NAMES, type ModbusTable } from '../registers/tables';
import { numberOfPattern } from '../values/pattern';
import { rangeOfType, wordsOfType, type ParameterType } from '../values/type';
import { modesOf, profileOf } from './profile-of';
import type { Profile, ProfileCommand } from '../profile/profile';
import type { Parameter, ParameterRole } from './parameter-section';
import { cellOf, registerCell, type Cell, type Place, type PlaceOf } from './place';
import type { ControlRole, StatusRole, WordSpec } from '../words/spec';
import type { Sheet } from './sheet';

/** A parameter with the place that the sheet gives it, and with the limits of its type where the sheet has none. */
export interface PlacedParameter extends Omit<Parameter, 'at' | 'min' | 'max'> {
  /** How it is reached; `others` are further ways to the same value. */
  readonly place: Place;
  readonly others: readonly Place[];
  /** The numbers that the link knows it by, in the order of the wire: several where it takes more than one register. */
  readonly cells: readonly Cell[];
  readonly min: number;
  readonly max: number;
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
  /** Whose value, or part of one, a cell holds. */
  readonly byCell: ReadonlyMap<Cell, PlacedParameter>;
  /** A cell of a further way to a value, and the cell by which that value is known; empty where each has one way. */
  readonly ownCells: ReadonlyMap<Cell, Cell>;
  readonly byNumber: ReadonlyMap<string, PlacedParameter>;
  readonly byRole: ReadonlyMap<ParameterRole, PlacedParameter>;
}

/** What a sheet says of its values; the same in each mode of the drive. */
type LookUps = Pick<SheetIndex, 'parameters' | 'byCell' | 'ownCells' | 'byNumber' | 'byRole'>;

/**
 * The index of a sheet; made once for each, however many stations go by it. The values of a sheet are laid out when the first of them is asked for: most
 * sheets of a shelf are only named in lists.
 */
export const indexSheet = onceFor((sheet: Sheet): SheetIndex => {
  let made: LookUps | undefined;
  const lookUps = (): LookUps => (made ??= lookUpsOf(sheet));
  // Each of them knows all modes, so that one leads to the others.
  const modes = new Map<number, SheetIndex>();
  for (const { mode, number } of modesOf(sheet))
    modes.set(number, withProfile(sheet, profileOf(sheet, mode), modes, lookUps));
  return withProfile(sheet, profileOf(sheet), modes, lookUps);
});

/** The parameter that a register, coil or input belongs to. */
export const parameterAt = (
  index: SheetIndex | null,
  address: number,
  table: ModbusTable = 'holding-register',
): PlacedParameter | undefined => index?.byCell.get(registerCell(address, table));

/** The ways over Modbus tables by which a parameter is reached, its own first. */
export const registerWays = ({ place, others }: PlacedParameter): readonly PlaceOf<'register'>[] =>
  [place, ...others].filter((way) => way.kind === 'register');

/** The first way over a Modbus table by which a parameter is reached; undefined where there is none. */
export const registerWay = (parameter: PlacedParameter): PlaceOf<'register'> | undefined => registerWays(parameter)[0];

/** The sheet in the mode that the drive shows, as its word holds it; in its first one where that is not known. */
export const inMode = (index: SheetIndex, mode: number | undefined): SheetIndex =>
  (mode === undefined
    ? undefined
    : index.modes.get(numberOfPattern(index.byRole.get('mode')?.type ?? 'int16', mode))) ?? index;

const withProfile = (
  sheet: Sheet,
  profile: Profile | null,
  modes: SheetIndex['modes'],
  lookUps: () => LookUps,
): SheetIndex => ({
  sheet,
  words: profile ? { control: profile.control, status: profile.status } : sheet.words,
  commands: profile?.commands ?? sheet.commands?.words ?? [],
  profile,
  modes,
  get parameters() {
    return lookUps().parameters;
  },
  get byCell() {
    return lookUps().byCell;
  },
  get ownCells() {
    return lookUps().ownCells;
  },
  get byNumber() {
    return lookUps().byNumber;
  },
  get byRole() {
    return lookUps().byRole;
  },
});

function lookUpsOf(sheet: Sheet): LookUps {
  const parameters = [...placedOf(sheet), ...commandsOf(sheet)];
  return {
    parameters,
    byCell: new Map(parameters.flatMap((parameter) => cellsOfAll(parameter).map((cell) => [cell, parameter] as const))),
    ownCells: new Map(parameters.flatMap(furtherCells)),
    byNumber: new Map(parameters.map((parameter) => [parameter.number, parameter])),
    byRole: new Map(parameters.flatMap((parameter) => (parameter.role ? [[parameter.role, parameter] as const] : []))),
  };
}

/** Cells of all ways in which a value is reached. */
const cellsOfAll = ({ cells, others, type, size }: PlacedParameter): readonly Cell[] =>
  others.length === 0 ? cells : [...cells, ...others.flatMap((way) => cellsOf(way, type, size))];

/** The cell by which a value is known of which this cell holds a part. */
export const ownCell = (index: SheetIndex | null, cell: Cell): Cell => index?.ownCells.get(cell) ?? cell;

/** Cells of further ways beside the own cells, where both hold the value in as many pieces. */
const furtherCells = ({ others, cells, type, size }: PlacedParameter): readonly (readonly [Cell, Cell])[] =>
  others.flatMap((way) => {
    const further = cellsOf(way, type, size);
    return further.length === cells.length
      ? further.flatMap((cell, i) => (cells[i] ? [[cell, cells[i]] as const] : []))
      : [];
  });

/** A parameter of USS or a command is one number, however wide; registers and process data are words. */
export const cellsOf = (place: Place, type: ParameterType, size?: number): readonly Cell[] =>
  place.kind === 'uss' || place.kind === 'command'
    ? [cellOf(place)]
    : Array.from({ length: wordsOfType(type, size) }, (_, i) => cellOf(place, i));

/** The widest numbers of a type, for a parameter whose limits nobody said. */
function widest(type: ParameterType): { readonly min: number; readonly max: number } {
  if (type === 'bcd16' || type === 'bcd32') return { min: 0, max: type === 'bcd16' ? 9_999 : 99_999_999 };
  const range = rangeOfType(type);
  return range ? { min: Number(range.min), max: Number(range.max) } : { min: -Number.MAX_VALUE, max: Number.MAX_VALUE };
}

const placedOf = ({ parameters = [], addressRule }: Sheet): readonly PlacedParameter[] => {
  const taken = new Set(parameters.map(({ number }) => number));
  return parameters.flatMap(({ at, ...parameter }) => {
    const worked = addressRule ? addressOf(addressRule, parameter.number) : null;
    const ruled = worked && {
      kind: 'register' as const,
      table: addressRule?.table ?? 'holding-register',
      address: worked.address,
    };
    const [place, ...others] = at ?? (ruled ? [ruled] : []);
    if (!place) return [];
    const limits = widest(parameter.type);
    const placed = {
      ...parameter,
      place,
      others,
      cells: cellsOf(place, parameter.type, parameter.size),
      min: parameter.min ?? limits.min,
      max: parameter.max ?? limits.max,
      working: worked && isSame(place, ruled) ? worked.working : placeText(place),
    };
    return elementsOf(placed, taken);
  });
};

const withoutRole = ({ role: _, ...parameter }: PlacedParameter): PlacedParameter => parameter;

/**
 * An array behind USS as a value for each of its elements: the first under the array's own number and with its role, the further ones as `140.1`, in so far as no
 * entry of the sheet is called so.
 */
function elementsOf(array: PlacedParameter, taken: ReadonlySet<string>): readonly PlacedParameter[] {
  const { place, number, name } = array;
  if (place.kind !== 'uss' || place.elements === undefined || place.element !== undefined) return [array];
  return Array.from({ length: place.elements }, (_one, element): PlacedParameter => {
    const own = element === 0 ? place : { ...place, element };
    return {
      ...(element === 0 ? array : withoutRole(array)),
      number: element === 0 ? number : `${number}.${element}`,
      name: `${name} [${element}]`,
      place: own,
      others: element === 0 ? array.others : [],
      cells: [cellOf(own)],
      working: placeText(own),
    };
  }).filter((one) => one.number === number || !taken.has(one.number));
}

const isSame = (place: Place, ruled: PlaceOf<'register'> | null): boolean =>
  ruled !== null && cellOf(place) === cellOf(ruled);

/** A place in words: `word 1 of the process data to the drive`. */
export function placeText(place: Place): string {
  switch (place.kind) {
    case 'register':
      return `${TABLE_NAMES[place.table]} ${place.address}`;
    case 'uss':
      return `parameter ${place.number}${place.elements === undefined ? '' : `, element ${place.element ?? 0},`} of the parameter channel`;
    case 'process':
      return `word ${place.word + 1} of the process data ${place.direction === 'out' ? 'to' : 'from'} the drive`;
    case 'command':
      return `command ${place.command}`;
  }
}

/** What a command of a dialect stands for in words and scales. */
const ROLE_OF_COMMAND: Readonly<Partial<Record<CommandRole, ParameterRole>>> = {
  mode: 'control-word',
  'motion-word': 'status-word',
  speed: 'speed-reference',
  'actual-speed': 'actual-speed',
  'speed-limit': 'maximum-speed',
  fault: 'fault-code',
  position: 'actual-position',
  target: 'target-position',
  distance: 'move-distance',
  acceleration: 'move-acceleration',
  window: 'position-window',
};

const isAxisRole = (role: CommandRole | undefined): role is (typeof AXIS_ROLES)[number] =>
  AXIS_ROLES.some((one) => one === role);

const WIDEST = { min: -(2 ** 31), max: 2 ** 32 - 1 };

const commandsOf = ({ dialect }: Sheet): readonly PlacedParameter[] =>
  (dialect?.commands ?? []).flatMap((command) => {
    const role = isAxisRole(command.role) ? command.role : command.role && ROLE_OF_COMMAND[command.role];
    const [field] = command.fields;
    if (!role || !field || field.base === 'text') return [];
    const [value] = command.default ?? [];
    const place = { kind: 'command' as const, command: command.id };
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
        place,
        others: [],
        cells: [cellOf(place)],
        working: `command ${command.verb}`,
      } satisfies PlacedParameter,
    ];
  });
