import type { ScalingChain, ScalingStep, WireWord } from './chain';
import { exactText, parseRational } from './rational';
import type { Rounding } from './rounding';
import { stageOf } from './steps';

export type StepKind = ScalingStep['kind'];

/** One field of a step, as a form asks for it. */
export interface StepField {
  readonly key: string;
  readonly label: string;
  readonly takes: 'number' | 'whole' | 'yes-no';
  /** What a new step has in it; an empty field that has nothing in a new step may stay empty. */
  readonly fresh: string;
}

const number = (key: string, label: string, fresh: string): StepField => ({ key, label, takes: 'number', fresh });

/** Every kind of step with what it asks for, in the order in which a form lists them. */
export const STEP_FORMS: Readonly<Record<StepKind, { readonly name: string; readonly fields: readonly StepField[] }>> =
  {
    'full-scale': { name: 'full scale', fields: [number('value', 'value', '50'), number('raw', 'counts', '16384')] },
    resolution: { name: 'size of one count', fields: [number('value', 'one count is', '0.1')] },
    'source-counts': {
      name: 'another device’s counts',
      fields: [number('raw', 'its counts', '27648'), number('value', 'stand for', '100')],
    },
    'motor-poles': {
      name: 'motor: rpm to Hz',
      fields: [{ key: 'poles', label: 'poles', takes: 'whole', fresh: '4' }, number('slip', 'slip, a share', '')],
    },
    gear: {
      name: 'gear: load to motor',
      fields: [
        number('motor', 'turns of the motor', '10'),
        number('load', 'turns of the load', '1'),
        { key: 'inverted', label: 'against each other', takes: 'yes-no', fresh: '' },
      ],
    },
    lead: { name: 'lead of a screw', fields: [number('perTurn', 'way of one turn', '5')] },
    diameter: { name: 'diameter', fields: [number('across', 'diameter of the wheel', '0.2')] },
    circumference: { name: 'circumference', fields: [number('perTurn', 'way of one turn', '0.5')] },
    'counts-per-turn': { name: 'counts of an encoder', fields: [number('counts', 'counts a turn', '65536')] },
    'minutes-to-seconds': { name: 'per minute to per second', fields: [] },
    factor: { name: 'factor', fields: [number('by', 'times', '2')] },
    offset: { name: 'offset', fields: [number('add', 'plus', '0')] },
    limit: { name: 'limit', fields: [number('min', 'not below', '0'), number('max', 'not above', '50')] },
    modulo: { name: 'whole turns taken off', fields: [number('turn', 'one turn', '360')] },
  };

/** A step as it is being typed. */
export interface StepDraft {
  readonly kind: StepKind;
  /** By the fields of its form; one that is not there is empty. */
  readonly texts: Readonly<Record<string, string>>;
}

/** A chain as it is being typed: nothing is lost because it is not a number yet. */
export interface ChainDraft {
  readonly unit: string;
  readonly steps: readonly StepDraft[];
  readonly rounding: Rounding;
  readonly word: WireWord;
}

/** What is wrong with a step, or with the chain itself where `step` is null; `field` is empty where a step's numbers do not go together. */
export interface ChainFault {
  readonly step: number | null;
  readonly field: string;
  readonly text: string;
}

/** What an answered yes is written as. */
export const YES = 'yes';

/** A step of a kind with the values that change nothing. */
export const freshStep = (kind: StepKind): StepDraft => ({
  kind,
  texts: Object.fromEntries(STEP_FORMS[kind].fields.map(({ key, fresh }) => [key, fresh])),
});

/** A chain as texts to edit; `chainOfDraft` is its way back. */
export const draftOfChain = ({ unit, steps, rounding, word }: ScalingChain): ChainDraft => ({
  unit,
  steps: steps.map((step) => ({
    kind: step.kind,
    texts: Object.fromEntries(
      Object.entries(step)
        .filter(([key]) => key !== 'kind')
        .map(([key, value]) => [key, typeof value === 'boolean' ? (value ? YES : '') : String(value ?? '')]),
    ),
  })),
  rounding,
  word,
});

/** The chain that was typed, and everything that is wrong with its steps; null where something is. */
export function chainOfDraft({ unit, steps, rounding, word }: ChainDraft): {
  readonly chain: ScalingChain | null;
  readonly faults: readonly ChainFault[];
} {
  const read = steps.map(stepOf);
  const stepFaults = read.flatMap(({ step, faults: own }, i): readonly ChainFault[] => {
    if (!step) return own.map((fault) => ({ step: i, ...fault }));
    const stage = stageOf(step);
    return stage.ok ? [] : [{ step: i, field: '', text: stage.error.text }];
  });
  const noUnit = unit.trim() === '' ? [{ step: null, field: 'unit', text: 'a unit is missing' }] : [];
  const faults = [...noUnit, ...stepFaults];
  const chain = { unit: unit.trim(), steps: read.flatMap(({ step }) => step ?? []), rounding, word };
  return { chain: faults.length === 0 ? chain : null, faults };
}

type FieldFault = Omit<ChainFault, 'step'>;

function stepOf({ kind, texts }: StepDraft): {
  readonly step: ScalingStep | null;
  readonly faults: readonly FieldFault[];
} {
  const faults: FieldFault[] = [];
  const values: Record<string, unknown> = {};
  for (const field of STEP_FORMS[kind].fields) {
    const text = (texts[field.key] ?? '').trim();
    if (text === '' && field.fresh === '') continue;
    const value = valueOf(field, text);
    if (typeof value === 'object') faults.push({ field: field.key, text: value.fault });
    else values[field.key] = value;
  }
  return { step: faults.length === 0 ? ({ kind, ...values } as ScalingStep) : null, faults };
}

function valueOf({ takes }: StepField, text: string): string | number | boolean | { readonly fault: string } {
  if (takes === 'yes-no') return text === YES;
  const parsed = parseRational(text);
  if (!parsed.ok) return { fault: parsed.error.text };
  if (takes === 'number') return exactText(parsed.value);
  return parsed.value.den === 1n && text.length <= 9
    ? parseInt(parsed.value.num.toString(), 10)
    : { fault: 'a whole number' };
}
