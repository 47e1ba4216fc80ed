import type { SheetIndex } from '../sheet/index-sheet';
import { meaningOf, numberOf } from '../drive/describe';
import type { SheetCondition } from '../sheet/condition-section';
import { levelOf } from '../words/read';
import type { Facts } from './facts';
import type { Found, Rule } from './rules';

/** One of the sheet's own conditions as a rule. */
const ruleOf = (condition: SheetCondition): Rule => ({
  id: condition.id,
  kind: condition.kind,
  title: condition.title,
  look: (facts) => {
    if (condition.when && facts.direction() !== null && facts.direction() !== condition.when) return null;
    const seen = look(facts, condition);
    if (!seen) return null;
    const { good, value, source, ageUs } = seen;
    return {
      // A condition of one direction is not judged while nobody knows the direction.
      verdict:
        good === null || (condition.when && facts.direction() === null && !good) ? 'unknown' : good ? 'met' : 'not-met',
      blocks: condition.blocks,
      value,
      source,
      ageUs,
      advice: good === true ? '' : condition.advice,
      proposal: null,
    } satisfies Found;
  },
});

interface Seen {
  readonly good: boolean | null;
  readonly value: string;
  readonly source: string;
  readonly ageUs: number | null;
}

function look(facts: Facts, { look: where }: SheetCondition): Seen | null {
  const { index } = facts.observed;
  if (where.at === 'parameter') {
    const place = index.byNumber.get(where.number);
    if (!place) return null;
    const word = facts.wordAt(place);
    return {
      good: word === null ? null : where.is.includes(numberOf(place, word)),
      value: word === null ? '' : meaningOf(index, place, word),
      source: `${place.number} ${place.name}`,
      ageUs: facts.ageAt(place),
    };
  }
  const role = where.at === 'status-bit' ? 'status-word' : 'control-word';
  const spec = where.at === 'status-bit' ? index.words?.status : index.words?.control;
  const bit = spec?.bits.find((known) => known.bit === where.bit);
  const word = facts.word(role);
  if (!bit) return null;
  const level = word === null ? null : levelOf(word, where.bit);
  return {
    good: level === null ? null : level === where.is,
    value: level === null ? '' : level === 1 ? bit.one : bit.zero,
    source: `${facts.source(role)}, bit ${where.bit} ${bit.name}`,
    ageUs: facts.ageUs(role),
  };
}

/** The conditions that the sheet lists, in its order. */
export const sheetRules = ({ sheet }: SheetIndex): readonly Rule[] => (sheet.conditions ?? []).map(ruleOf);
