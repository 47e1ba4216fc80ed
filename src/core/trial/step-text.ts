import { axisOf } from '../motion/axis';
import { stateOf } from '../profile/profile';
import type { SheetIndex } from '../sheet/index-sheet';
import { wayText } from './move-trial';
import { parameterOf, whatText } from './place-value';
import { targetOf } from './states';
import type { TrialStep, What } from './trial';

/** Between which values something is waited for, in words. */
export const rangeText = (index: SheetIndex, what: What, from: string | null, to: string | null): string => {
  const name = whatText(index, what);
  if (from === null) return `${name} is at most ${to ?? 'anything'}`;
  return to === null ? `${name} is at least ${from}` : `${name} lies between ${from} and ${to}`;
};

/** A bit of a value by its name where it has one: `lower end switch, bit 0 of 49 inputs of the axis, is 1`. */
export function flagText(index: SheetIndex, what: What, bit: number, is: boolean): string {
  const name = parameterOf(index, what)?.bitNames?.find((one) => one.bit === bit)?.name;
  return `${name === undefined ? '' : `${name}, `}bit ${bit} of ${whatText(index, what)}${name === undefined ? '' : ','} is ${is ? 1 : 0}`;
}

/** A step in words, for one drive. */
export function stepText(step: TrialStep, index: SheetIndex): string {
  switch (step.kind) {
    case 'walk':
      return `walk to ${nameOfTarget(index, step.to)}`;
    case 'stop':
      return 'stop, and wait until the shaft stands';
    case 'stands':
      return `the shaft stands within ${step.withinS} s`;
    case 'move':
      return `move ${step.relative ? 'by' : 'to'} ${moveText(index, step.to)} within ${step.withinS} s${step.blended ? ', the next takes over on the way' : ''}`;
    case 'home':
      return `look for home within ${step.withinS} s`;
    case 'stored-move':
      return `start stored move ${step.number}, and wait until its moves are over, within ${step.withinS} s`;
    case 'zero':
      return 'the position becomes 0 where it stands';
    case 'reference':
      return `speed reference ${step.to}`;
    case 'write':
      return `write ${whatText(index, step.what)} ← ${step.to}`;
    case 'read':
      return `read ${whatText(index, step.what)}`;
    case 'wait':
      return `${rangeText(index, step.what, step.from, step.to)} within ${step.withinS} s`;
    case 'wait-bit':
      return `${step.role} is ${step.is ? 'there' : 'gone'} within ${step.withinS} s`;
    case 'wait-flag':
      return `${flagText(index, step.what, step.bit, step.is)} within ${step.withinS} s`;
    case 'send':
      return `send ${step.bytes}${{ answer: '', refusal: ', which must be refused', any: ', whatever comes of it' }[step.expects]}`;
    case 'say':
      return `say ${step.text}, and wait for ${step.hears === '' ? 'any answer' : `“${step.hears}”`} within ${step.withinS} s`;
    case 'wait-state':
      return `${step.states.map((id) => nameOfTarget(index, id)).join(' or ')} within ${step.withinS} s`;
    case 'hold':
      return `wait ${step.s} s`;
    case 'ask':
    case 'ask-turning':
    case 'ask-number':
      return step.question;
    case 'withhold':
      return index.sheet.commands?.watchdogFedBy === 'control-write'
        ? 'lose the link: its word is not repeated any more'
        : `lose the link: nothing is sent to it for ${step.s} s`;
    case 'return':
      return `it answers again within ${step.withinS} s`;
    case 'repeat':
      return [
        `again from ${step.from}, until it was done ${step.times} times`,
        ...(step.forS === null || step.forS === undefined ? [] : [`or ${step.forS} s are over`]),
        ...(step.untilWhat ? [`or ${flagText(index, step.untilWhat, step.untilBit ?? 0, step.untilIs ?? false)}`] : []),
      ].join(', ');
  }
}

const moveText = (index: SheetIndex, to: string): string => {
  const axis = axisOf(index);
  return axis ? wayText(axis, to) : to;
};

const nameOfTarget = ({ profile }: SheetIndex, id: string): string => {
  if (!profile) return id;
  const target = targetOf(profile, id);
  return stateOf(profile, target)?.name ?? target;
};
