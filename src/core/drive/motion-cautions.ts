import { contradictionsIn, roleActive } from '../words/read';
import type { RequestEffect } from './request-effect';
import { mayTurn } from './request-effect';
import { meaningOf, numberOf } from './describe';
import type { SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { wordAsksToTurn } from './turning';

/** What must be said before a request is sent: sentences that forbid it, and sentences to read first. */
export interface Caution {
  readonly contradictions: readonly string[];
  readonly warnings: readonly string[];
}

/**
 * Cautions of one act. `known` gives the last word seen in the register with a role, undefined where nothing is known.
 * Zero reference is not standstill: a run word may turn the shaft at its minimum speed.
 */
export function motionCautions(
  act: RequestEffect,
  index: SheetIndex,
  known: (role: ParameterRole) => number | undefined,
): Caution {
  const spec = index.words?.control;
  if (act.control === undefined || !spec) return { contradictions: [], warnings: [] };
  const contradictions = contradictionsIn(spec, act.control);
  return { contradictions, warnings: mayTurn(act, index) ? turningWarnings(act, index, known) : [] };
}

function turningWarnings(
  act: RequestEffect,
  index: SheetIndex,
  known: (role: ParameterRole) => number | undefined,
): readonly string[] {
  const say = (role: ParameterRole, word: number): string => {
    const place = index.byRole.get(role);
    return place ? meaningOf(index, place, word) : `${word}`;
  };
  const reference = act.reference ?? known('speed-reference');
  const least = known('minimum-speed') ?? index.byRole.get('minimum-speed')?.default;
  const referenceText =
    reference === undefined ? 'the reference is not known' : `the reference is ${say('speed-reference', reference)}`;
  const leastText = least === undefined || least === 0 ? '' : `, the minimum speed ${say('minimum-speed', least)}`;
  const still = reference === 0 && least !== undefined && least > 0 ? ' Zero reference is not standstill.' : '';
  return [
    `${wordAsksToTurn(index, act.control ?? 0) ? 'This word asks the shaft to turn' : 'This word may turn the shaft, since no bit is known as the one that makes this drive run'}: ${referenceText}${leastText}.${still}`,
    ...cancelling(act, index, reference),
    ...sourceWarnings(index, known),
  ];
}

/** A direction bit and a negative reference turn each other round. */
function cancelling({ control }: RequestEffect, index: SheetIndex, reference: number | undefined): readonly string[] {
  const place = index.byRole.get('speed-reference');
  if (control === undefined || reference === undefined || !place || !index.words) return [];
  const reversed = roleActive(index.words.control, 'reverse', control) === true;
  return reversed && numberOf(place, reference) < 0
    ? ['Reverse and a negative reference cancel each other: the shaft turns forward.']
    : [];
}

/** The choice under which the network has its say. */
const NETWORK_CHOICES = { 'command-source': 'network', 'reference-source': 'network', selector: 'remote' } as const;

/** A drive whose commands come from elsewhere answers every write and does not move. */
function sourceWarnings(index: SheetIndex, known: (role: ParameterRole) => number | undefined): readonly string[] {
  const roles = ['command-source', 'reference-source', 'selector'] as const;
  return roles.flatMap((role) => {
    const place = index.byRole.get(role);
    const word = known(role);
    const wanted = place?.choices?.find(({ name }) => name === NETWORK_CHOICES[role]);
    if (!place || word === undefined || !wanted || word === wanted.value) return [];
    return [
      `${place.number} ${place.name} is ${meaningOf(index, place, word)}, so the drive will confirm this and not act on it.`,
    ];
  });
}
