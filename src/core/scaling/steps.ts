import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';
import type { ScalingStep } from './chain';
import { add, compare, decimalText, divide, multiply, parseRational, ratio, subtract, type Rational } from './rational';

const DECIMALS = 6;
/** A value in the working of a step, rounded to the places that a person reads. */
export const show = (value: Rational): string => decimalText(value, DECIMALS);

/** One step ready to run, in both directions. */
export interface Stage {
  readonly name: string;
  /** What the step makes of a value, with its sum and, where it changes more than the unit, what it did. */
  readonly forward: (value: Rational) => {
    readonly value: Rational;
    readonly sum: () => string;
    readonly fault?: Fault;
  };
  /** The value that it came from. What a limit cut off and whole turns are not known any more. */
  readonly back: (value: Rational) => Rational;
}

type StageResult = Result<Stage, Fault>;
type Kind = ScalingStep['kind'];
type StepOf<K extends Kind> = Extract<ScalingStep, { kind: K }>;

function number(text: string, what: string): Result<Rational, Fault> {
  const parsed = parseRational(text);
  return parsed.ok ? parsed : failed({ ...parsed.error, text: `${what}: ${parsed.error.text}` });
}

function positive(text: string, what: string): Result<Rational, Fault> {
  const parsed = number(text, what);
  if (!parsed.ok || parsed.value.num > 0n) return parsed;
  return failed(fault('value-out-of-range', 0, text.length, `${what} is ${text}, it must be more than 0`));
}

/** A step that multiplies; `sum` writes it the way people would. */
const times = (name: string, factor: Rational, sum: (input: string) => string): StageResult =>
  done({
    name,
    forward: (value) => {
      const next = multiply(value, factor);
      return { value: next, sum: () => `${sum(show(value))} = ${show(next)}` };
    },
    back: (value) => divide(value, factor),
  });

/** Both numbers of a step, each more than 0, and the step made of them. */
function pair(
  [a, b]: readonly [string, string],
  [nameA, nameB]: readonly [string, string],
  make: (a: Rational, b: Rational) => StageResult,
): StageResult {
  const [first, second] = [positive(a, nameA), positive(b, nameB)];
  if (!first.ok) return first;
  return second.ok ? make(first.value, second.value) : second;
}

function motorPoles({ poles, slip = '0' }: StepOf<'motor-poles'>): StageResult {
  if (!Number.isInteger(poles) || poles < 2 || poles % 2 === 1)
    return failed(fault('value-out-of-range', 0, 0, `${poles} poles: a motor has 2, 4, 6 … poles`));
  const share = number(slip, 'the slip');
  if (!share.ok) return share;
  const rest = subtract(ratio(1n), share.value);
  if (share.value.num < 0n || rest.num <= 0n)
    return failed(fault('value-out-of-range', 0, slip.length, `a slip of ${slip}: it is a share from 0 to below 1`));
  const slipText = share.value.num === 0n ? '' : ` / (1 − ${slip})`;
  return times(
    'motor poles',
    divide(ratio(BigInt(poles), 120n), rest),
    (n) => `${n} × ${poles} poles / 120${slipText}`,
  );
}

function limit({ min, max }: StepOf<'limit'>): StageResult {
  const [low, high] = [number(min, 'the lower limit'), number(max, 'the upper limit')];
  if (!low.ok) return low;
  if (!high.ok) return high;
  if (compare(low.value, high.value) > 0)
    return failed(fault('value-out-of-range', 0, min.length, `the lower limit ${min} is above the upper one ${max}`));
  return done({
    name: 'limit',
    forward: (value) => {
      const bound = compare(value, low.value) < 0 ? low.value : compare(value, high.value) > 0 ? high.value : null;
      if (!bound) return { value, sum: () => `${show(value)} is within ${min} to ${max}` };
      return {
        value: bound,
        sum: () => `${show(value)} is cut to ${show(bound)}`,
        fault: fault(
          'clipped',
          0,
          0,
          `${show(value)} is beyond the limits ${min} to ${max} and is cut to ${show(bound)}`,
        ),
      };
    },
    back: (value) => value,
  });
}

/** The rest from 0 to below `turn`, also of a negative number. */
export function rest(value: Rational, turn: Rational): Rational {
  const turns = divide(value, turn);
  const whole = turns.num / turns.den - (turns.num % turns.den !== 0n && turns.num < 0n ? 1n : 0n);
  return subtract(value, multiply(ratio(whole), turn));
}

function modulo({ turn: text }: StepOf<'modulo'>): StageResult {
  const turn = positive(text, 'one turn');
  if (!turn.ok) return turn;
  return done({
    name: 'modulo',
    forward: (value) => {
      const left = rest(value, turn.value);
      return { value: left, sum: () => `${show(value)} modulo ${text} = ${show(left)}` };
    },
    back: (value) => value,
  });
}

function offset({ add: text }: StepOf<'offset'>): StageResult {
  const own = number(text, 'the offset');
  if (!own.ok) return own;
  return done({
    name: 'offset',
    forward: (value) => {
      const next = add(value, own.value);
      return { value: next, sum: () => `${show(value)} + ${text} = ${show(next)}` };
    },
    back: (value) => subtract(value, own.value),
  });
}

/** By a number of either sign; 0 would make everything the same. */
function factor({ by }: StepOf<'factor'>): StageResult {
  const own = number(by, 'the factor');
  if (!own.ok) return own;
  if (own.value.num === 0n)
    return failed(fault('value-out-of-range', 0, by.length, 'a factor of 0 makes 0 of every value'));
  return times('factor', own.value, (n) => `${n} × ${by}`);
}

const perTurn = ({ kind, perTurn: text }: StepOf<'lead' | 'circumference'>): StageResult => {
  const own = positive(text, kind === 'lead' ? 'the lead' : 'the circumference');
  return own.ok ? times(kind, divide(ratio(1n), own.value), (n) => `${n} / ${text} a turn`) : own;
};

/** π as a fraction that is nearer to it than any double: a convergent of its continued fraction, right to 16 places. */
const PI = ratio(245_850_922n, 78_256_779n);

const diameter = ({ across: text }: StepOf<'diameter'>): StageResult => {
  const own = positive(text, 'the diameter');
  return own.ok ? times('diameter', divide(ratio(1n), multiply(PI, own.value)), (n) => `${n} / (π × ${text})`) : own;
};

function gear({ motor, load, inverted = false }: StepOf<'gear'>): StageResult {
  return pair([motor, load], ['turns of the motor', 'turns of the load'], (m, l) => {
    const sign = ratio(inverted ? -1n : 1n);
    return times('gear', multiply(sign, divide(m, l)), (n) => `${inverted ? '−' : ''}${n} × ${motor} / ${load}`);
  });
}

/** One maker for each kind of step. */
const STAGES: { readonly [K in Kind]: (step: StepOf<K>) => StageResult } = {
  'full-scale': ({ value, raw }) =>
    pair([value, raw], ['the full scale in units', 'the full scale in counts'], (v, r) =>
      times('full scale', divide(r, v), (n) => `${n} / ${value} × ${raw}`),
    ),
  resolution: ({ value }) => {
    const own = positive(value, 'the size of one count');
    return own.ok ? times('resolution', divide(ratio(1n), own.value), (n) => `${n} / ${value}`) : own;
  },
  'source-counts': ({ raw, value }) =>
    pair([raw, value], ['the other device’s full scale in counts', 'what that full scale stands for'], (r, v) =>
      times('other device', divide(v, r), (n) => `${n} counts / ${raw} × ${value}`),
    ),
  'motor-poles': motorPoles,
  gear,
  lead: perTurn,
  circumference: perTurn,
  diameter,
  'counts-per-turn': ({ counts }) => {
    const own = positive(counts, 'counts a turn');
    return own.ok ? times('counts a turn', own.value, (n) => `${n} turns × ${counts}`) : own;
  },
  'minutes-to-seconds': () => times('minutes to seconds', ratio(1n, 60n), (n) => `${n} / 60`),
  factor,
  offset,
  limit,
  modulo,
};

/** A step ready to run, or what is wrong with its numbers. */
export const stageOf = <K extends Kind>(step: StepOf<K>): StageResult =>
  (STAGES[step.kind] as (own: StepOf<K>) => StageResult)(step);
