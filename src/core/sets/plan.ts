import { hexNumber } from '../bytes/hex';
import { compare, type Rational } from '../scaling/rational';
import { cellsNumber, cellsText, cellsValue } from '../drive/cells-text';
import { choiceOf, meaningOf } from '../drive/describe';
import { registerWay, type PlacedParameter, type SheetIndex } from '../sheet/index-sheet';
import { rangeText } from '../drive/limits';
import type { ParameterRole } from '../sheet/parameter-section';
import { wordMayTurn } from '../drive/turning';
import { disabledBy } from '../values/word-field';
import { isWide } from '../values/wide';
import { isNumeric, onlyRegisters } from './typed-value';
import { patternOfCells } from '../drive/seen';
import { knownOf, type Said, type SaidOf } from './said';

/** A value that is to be written, and why. */
export interface PlannedValue {
  readonly words: readonly number[];
  /** `typed`, `from the last visit`: where the value is from. */
  readonly reason: string;
}

/** What is to be written, by the parameters' numbers, in the order in which it was planned. */
export type Plan = ReadonlyMap<string, PlannedValue>;

/** A plan with a value, as its last; an earlier value of the same number goes. */
export const withPlanned = (plan: Plan, number: string, value: PlannedValue): Plan =>
  new Map([...[...plan].filter(([key]) => key !== number), [number, value]]);
/** A plan without a number. */
export const withoutPlanned = (plan: Plan, number: string): Plan =>
  new Map([...plan].filter(([key]) => key !== number));

/** The plan as a witness says it. */
export const saidByPlan = (plan: Plan): SaidOf =>
  new Map(
    [...plan].map(([number, { words }]): readonly [string, Said] => [number, { kind: 'value', words, atMs: null }]),
  );

/** Orders to the drive, no settings: they are given in Words, where Stop and the state stand beside them. */
const ORDERS: ReadonlySet<ParameterRole> = new Set([
  'control-word',
  'speed-reference',
  'target-position',
  'life-sign',
  'keep',
  'restart',
  'show-itself',
]);

/** Why a parameter cannot be planned at all; empty where it can. */
export function whyNotPlanned(parameter: PlacedParameter): string {
  const { role, write, type, name } = parameter;
  if (write === 'never') return `${name} can only be read`;
  if (role && ORDERS.has(role)) return `${name} is an order to the drive, no setting: give it in Words`;
  if (isWide(type) && !registerWay(parameter)) return onlyRegisters(type);
  return '';
}

/** What the drive is known to hold, what it leaves the factory with where that is not known. */
export const besideOf = (held: SaidOf, factory: SaidOf): SaidOf =>
  new Map([...factory, ...[...held].filter(([, { kind }]) => kind === 'value')]);

/** What the sheet has against one planned value, or against two together. */
export interface PlanFault {
  readonly number: string;
  readonly text: string;
  /** The drive would refuse it, so that it is not written; else it is a caution. */
  readonly isBad: boolean;
}

/** Pairs of roles of which the first may not lie above the second. */
const NOT_ABOVE: readonly (readonly [ParameterRole, ParameterRole])[] = [
  ['minimum-speed', 'maximum-speed'],
  ['skip-from', 'skip-to'],
  ['jog-speed', 'maximum-speed'],
];

/**
 * What is wrong with a plan by the sheet: limits, names that do not exist, locks that are not open, values that do not go together. The rest is what
 * the drive holds, else what it leaves the factory with; but whether a lock is open is known of the drive itself only.
 */
export function planFaults(
  index: SheetIndex,
  plan: Plan,
  held: SaidOf,
  factory: SaidOf = new Map(),
): readonly PlanFault[] {
  const planned = saidByPlan(plan);
  const after: SaidOf = new Map([...besideOf(held, factory), ...planned]);
  const locks: SaidOf = new Map([...held, ...planned]);
  return [
    ...[...plan].flatMap(([number, { words }]) => {
      const parameter = index.byNumber.get(number);
      if (!parameter) return [{ number, text: `the sheet has no ${number}`, isBad: true }];
      const never = whyNotPlanned(parameter);
      if (never !== '') return [{ number, text: never, isBad: true }];
      return [
        ...limitFaults(index, parameter, words, after),
        ...lockFaults(index, parameter, plan, locks),
        ...disabledFaults(parameter, words),
      ];
    }),
    ...pairFaults(index, plan, after),
  ];
}

function limitFaults(
  index: SheetIndex,
  parameter: PlacedParameter,
  words: readonly number[],
  after: SaidOf,
): readonly PlanFault[] {
  const { number, name, min, max, choices, outside, step } = parameter;
  const value = cellsNumber(parameter, words);
  if (value === null) return [];
  const word = patternOfCells(parameter, words);
  const known = knownOf(index, after);
  const meaning = word === null ? cellsText(index, parameter, words, known) : meaningOf(index, parameter, word, known);
  const isChoice = word === null ? choices?.some((choice) => choice.value === value) : choiceOf(parameter, word);
  if (choices && !isChoice)
    return [{ number, text: `${name} is one of ${rangeText(index, parameter)}, not ${meaning}`, isBad: true }];
  if (value < min || value > max)
    return [
      {
        number,
        text: `${name} takes ${rangeText(index, parameter)}, not ${meaning}${outside ? ': the drive takes the nearest limit instead' : ''}`,
        isBad: outside === undefined,
      },
    ];
  return step !== undefined && isNumeric(parameter) && value % step !== 0
    ? [{ number, text: `the drive rounds ${name} to multiples of ${step} counts`, isBad: false }]
    : [];
}

/** What is not there any more while a parameter holds these words: a guard that is masked, a switch that is not looked at. */
export function disabledTexts(parameter: PlacedParameter, words: readonly number[]): readonly string[] {
  const { name, fields = [] } = parameter;
  const word = patternOfCells(parameter, words);
  if (word === null) return [];
  const chosen = choiceOf(parameter, word);
  const whole = chosen?.disables === undefined ? [] : [`${name} ${chosen.name}: ${chosen.disables}`];
  return [...whole, ...disabledBy(word, fields)];
}

const disabledFaults = (parameter: PlacedParameter, words: readonly number[]): readonly PlanFault[] =>
  disabledTexts(parameter, words).map((text) => ({ number: parameter.number, text, isBad: false }));

function lockFaults(
  index: SheetIndex,
  { number, name, lockedBy }: PlacedParameter,
  plan: Plan,
  locks: SaidOf,
): readonly PlanFault[] {
  const lock = lockedBy && index.byNumber.get(lockedBy.parameter);
  if (!lockedBy || !lock) return [];
  const known = knownOf(index, locks)(lock.number);
  if (known === lockedBy.value) return [];
  const what = `${name} is locked: ${lock.number} ${lock.name} must be opened first`;
  return [
    {
      number,
      text: known === undefined ? `${what}; what it holds is not known` : what,
      // A lock that is not read may be open.
      isBad: known !== undefined && !plan.has(lock.number),
    },
  ];
}

function pairFaults(index: SheetIndex, plan: Plan, after: SaidOf): readonly PlanFault[] {
  const valueOf = (parameter: PlacedParameter): Rational | null => {
    const said = after.get(parameter.number);
    return said?.kind === 'value' ? cellsValue(index, parameter, said.words, knownOf(index, after)) : null;
  };
  return NOT_ABOVE.flatMap(([low, high]) => {
    const [below, above] = [index.byRole.get(low), index.byRole.get(high)];
    if (!below || !above || below.unit !== above.unit) return [];
    const planned = [below, above].find(({ number }) => plan.has(number));
    const [lower, upper] = [valueOf(below), valueOf(above)];
    if (!planned || !lower || !upper || compare(lower, upper) <= 0) return [];
    return [
      {
        number: planned.number,
        text: `${below.number} ${below.name} would lie above ${above.number} ${above.name}`,
        isBad: false,
      },
    ];
  });
}

/** Settings that say whose words count: with another one in command, a word that the drive holds may act at once. */
const WHO_COMMANDS: ReadonlySet<ParameterRole> = new Set(['command-source', 'reference-source', 'selector', 'mode']);

/** Whether writing this may put another one in command. */
export const changesCommand = ({ role }: PlacedParameter): boolean => role !== undefined && WHO_COMMANDS.has(role);

/**
 * Why another one must not be put in command now: the drive holds a word that asks it to run. Empty where it does not, or where the sheet knows no
 * such word.
 */
export const whyItMayStart = (index: SheetIndex, control: number): string =>
  index.byRole.has('control-word') && wordMayTurn(index, control)
    ? `the control word that it holds, ${hexNumber(control)}, asks it to run: with another one in command it may start at once. Send a stop word in Words first`
    : '';

/**
 * What a plan may set in motion by itself, as far as it is known before it is written. `control`: the control word that the drive was last seen to
 * hold; where it was not read it is asked for before the write.
 */
export function turningFaults(index: SheetIndex, plan: Plan, control: number | undefined): readonly PlanFault[] {
  const why = control === undefined ? '' : whyItMayStart(index, control);
  return why === ''
    ? []
    : [...plan.keys()].flatMap((number): readonly PlanFault[] => {
        const parameter = index.byNumber.get(number);
        return parameter && changesCommand(parameter) ? [{ number, text: why, isBad: true }] : [];
      });
}
