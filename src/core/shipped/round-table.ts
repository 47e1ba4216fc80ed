import type { Parameter } from '../sheet/parameter-section';
import { ROUND_WAYS, ROUND_WAY_TEXT } from '../motion/round';

/** What a sheet's file needs so that its drive can turn a table. */
interface AxisSheet {
  readonly slug: string;
  readonly name: string;
  readonly profile: { readonly modes: readonly string[] };
  readonly axis: { readonly chain: string; readonly homeShows: string };
  readonly scalings: readonly {
    readonly id: string;
    readonly name: string;
    readonly chain: { readonly unit: string };
  }[];
  readonly parameters: readonly {
    readonly number: string;
    readonly unit?: string;
    readonly role?: string;
    readonly choices?: readonly { readonly value: number }[];
  }[];
}

/** The gear between motor and table, and what one turn of the table is. */
const MECHANICS = [
  { kind: 'circumference', perTurn: '360' },
  { kind: 'gear', motor: '90', load: '1' },
  { kind: 'counts-per-turn', counts: '65536' },
] as const;

const WAY: Parameter = {
  number: '94',
  name: 'way to a place',
  role: 'round-way',
  type: 'uint16',
  min: 0,
  max: 3,
  default: 3,
  write: 'always',
  kept: true,
  choices: ROUND_WAYS.map((way, value) => ({ value, name: ROUND_WAY_TEXT[way] })),
};

/** What is on the plate of the lift. */
const LIFT_TRAVEL = '62';
const STORED_MODE = { value: -1, name: 'stored-moves' } as const;

/** A stored table is worked out for straight axes only, and a table of this kind has neither ends nor switches. */
const isStraight = ({ number, role }: AxisSheet['parameters'][number]): boolean =>
  Number(number) >= 110 ||
  number === LIFT_TRAVEL ||
  role === 'position-least' ||
  role === 'position-most' ||
  role === 'axis-inputs' ||
  role === 'axis-inputs-use';

const inDegrees = (unit: string): string => unit.replace('mm', '°');

/** The same drive on a rotary table: its positions count modulo one turn, and a setting says by which way it goes to a place. */
export function onRoundTable<T extends AxisSheet>(sheet: T) {
  return {
    ...sheet,
    slug: `${sheet.slug}-table`,
    revision: 1,
    name: `${sheet.name}, rotary table`,
    summary: `${sheet.name} on a rotary table behind a gear of 90 to 1: positions count modulo 360°.`,
    scalings: sheet.scalings.map((scaling) => {
      const { chain } = scaling;
      if (!('steps' in chain) || !chain.unit.startsWith('mm')) return scaling;
      const rest = (chain.steps as readonly { readonly kind: string }[]).slice(MECHANICS.length);
      return {
        ...scaling,
        name: scaling.name.replace(/drum.*/, 'table, 90 to 1 gear'),
        chain: { ...chain, unit: inDegrees(chain.unit), steps: [...MECHANICS, ...rest] },
      };
    }),
    profile: { ...sheet.profile, modes: sheet.profile.modes.filter((mode) => mode !== STORED_MODE.name) },
    axis: {
      chain: sheet.axis.chain,
      homeShows: sheet.axis.homeShows,
      forward: 'clockwise',
      backward: 'counter-clockwise',
      round: { turn: '360' },
    },
    parameters: [
      ...sheet.parameters
        .filter((one) => !isStraight(one))
        .map((one) => ({
          ...one,
          ...(one.unit?.startsWith('mm') ? { unit: inDegrees(one.unit) } : {}),
          ...(one.role === 'homing-method' ? { default: 37 } : {}),
          ...(one.choices ? { choices: one.choices.filter(({ value }) => value !== STORED_MODE.value) } : {}),
        })),
      WAY,
    ],
  };
}
