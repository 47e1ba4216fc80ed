import type { Cell } from '../sheet/place';
import { wordsOfPattern } from '../values/pattern';
import { wordAsksToTurn } from '../drive/turning';
import type { Condition, Remedy } from './condition';
import { Facts, type Observed } from './facts';
import { RULES, type Found, type Proposal, type Rule } from './rules';
import { sheetRules } from './sheet-rules';

/** What stands between now and a turning shaft, and whether it turns already. */
export interface WhyNot {
  readonly conditions: readonly Condition[];
  /** The drive's own word; null when it is not known. */
  readonly turning: boolean | null;
  readonly summary: string;
}

/** Goes through all rules. Each condition has its value, source and age; a remedy says first whether the shaft would start with it. */
export function whyNotRunning(observed: Observed): WhyNot {
  const facts = new Facts(observed);
  const conditions = rulesFor(observed).flatMap(({ id, kind, title, look }): Condition[] => {
    const seen = look(facts);
    if (!seen) return [];
    const { proposal, ...rest } = seen;
    return [{ id, kind, title, ...rest, remedy: proposal && remedyOf(observed, proposal) }];
  });
  const turning = facts.turning();
  return { conditions, turning, summary: summaryOf(conditions, turning) };
}

/** What any drive needs, then what this one's sheet lists. */
const rulesFor = ({ index }: Observed): readonly Rule[] => [...RULES, ...sheetRules(index)];

function summaryOf(conditions: readonly Condition[], turning: boolean | null): string {
  if (turning === true) return 'The shaft turns.';
  const blocking = conditions.filter(({ verdict, blocks }) => blocks && verdict === 'not-met');
  const unknown = conditions.filter(({ verdict, blocks }) => blocks && verdict === 'unknown').length;
  if (blocking.length > 0)
    return `${blocking.length === 1 ? 'One thing stands' : `${blocking.length} things stand`} in the way${unknown > 0 ? `, ${unknown} not known` : ''}.`;
  if (unknown > 0) return `Nothing is seen in the way, but ${unknown} ${unknown === 1 ? 'is' : 'are'} not known.`;
  return turning === false ? 'Nothing that is known here stands in the way.' : 'Nothing is known of the shaft yet.';
}

const withWords = (
  values: Observed['values'],
  cells: readonly Cell[],
  words: readonly number[],
  atUs: number,
): Observed['values'] =>
  new Map([...values, ...cells.map((cell, i) => [cell, { word: words[i] ?? 0, atUs }] as const)]);

/** The rules once more as if the write were done: does anything still stand in the way of a word that asks to turn? */
function remedyOf(observed: Observed, proposal: Proposal): Remedy {
  const place = observed.index.byRole.get(proposal.role);
  if (!place) return { ...proposal, starts: 'may', why: 'the sheet does not place it' };
  const after = new Facts({
    ...observed,
    values: withWords(
      observed.values,
      place.cells,
      wordsOfPattern(proposal.word, place.cells.length, place.order),
      observed.nowUs,
    ),
  });
  const spec = observed.index.words?.control;
  const control = after.word('control-word');
  if (proposal.role === 'control-word') {
    return wordAsksToTurn(observed.index, proposal.word)
      ? { ...proposal, starts: 'may', why: 'this word asks to turn' }
      : { ...proposal, starts: 'no', why: 'this word does not ask to turn' };
  }
  if (control === null || !spec)
    return { ...proposal, starts: 'may', why: 'the control word that the drive holds is not known' };
  if (!wordAsksToTurn(observed.index, control))
    return { ...proposal, starts: 'no', why: 'the control word that the drive holds does not ask to turn' };
  const left = rulesFor(observed).map(({ title, look }): [string, Found | null] => [title, look(after)]);
  const against = left.find(([, seen]) => seen?.blocks && seen.verdict === 'not-met');
  if (against) return { ...proposal, starts: 'no', why: `it is still not so that ${against[0]}` };
  const unsure = left.some(([, seen]) => seen?.blocks && seen.verdict === 'unknown');
  return { ...proposal, starts: unsure ? 'may' : 'yes', why: 'the control word that the drive holds asks to turn' };
}
