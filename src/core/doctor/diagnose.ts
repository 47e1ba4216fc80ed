import { counted } from '../counted';
import type { TraceEntry } from '../trace/entry';
import { CAUSES, type Evidence, type Finding, type NextAct } from './causes';
import { observe, type LineContext, type Observation } from './observe';

/** A cause that explains what was seen, with its evidence and what to try next. */
export interface Suspect {
  readonly id: string;
  readonly title: string;
  readonly evidence: readonly Evidence[];
  readonly next: string;
  readonly act: NextAct;
}

/** Causes that cannot be while answers come: one good answer after their evidence says that they were cured. */
const CURED_BY_ANSWER: ReadonlySet<string> = new Set([
  'half-open',
  'tcp-silent',
  'restarting',
  'took-new-settings',
  'end-changed',
  'swapped',
  'wrong-parity',
  'wrong-rate',
  'other-protocol',
  'line-dead',
  'drive-off',
  'wrong-station',
]);
/** A cause that was cured, or that a sweep speaks against, stands behind all others. */
const SUNK = 0.01;

/** What an answer that came later says of a finding. */
function afterAnswer(id: string, finding: Finding, { answered, failuresInARow }: Observation): Finding {
  const newest = Math.max(...finding.evidence.map(({ entry }) => entry));
  if (!CURED_BY_ANSWER.has(id) || failuresInARow > 0 || answered.count === 0 || answered.entry <= newest)
    return finding;
  const text = 'it answered since, so this is over, unless it comes and goes';
  return {
    ...finding,
    weight: finding.weight * SUNK,
    evidence: [...finding.evidence, { text, entry: answered.entry }],
  };
}

/** What a sweep that went through its list says of a finding. */
function afterSweep(id: string, finding: Finding, { context }: Observation): Finding {
  const { sweep, station } = context;
  if (!sweep) return finding;
  const others = sweep.answered.filter((one) => one !== station);
  const add = (by: number, text: string): Finding => ({
    ...finding,
    weight: finding.weight * by,
    evidence: [...finding.evidence, { text, entry: -1 }],
  });
  if (sweep.kind === 'settings' && sweep.answered.length === 0 && (id === 'wrong-rate' || id === 'wrong-parity'))
    return add(SUNK, `a sweep of ${counted(sweep.tried, 'setting')} found none that is answered`);
  if (sweep.kind !== 'stations' || id !== 'wrong-station') return finding;
  if (sweep.answered.includes(station)) return add(SUNK, `a sweep found station ${station}`);
  return others.length > 0
    ? add(3, `a sweep of ${counted(sweep.tried, 'station')} found ${others.join(', ')} and not ${station}`)
    : add(SUNK, `a sweep of ${counted(sweep.tried, 'station')} found none`);
}

/** Likely causes of what a line shows, best first; empty when nothing is wrong as far as can be seen. */
export function diagnose(entries: readonly TraceEntry[], context: LineContext): readonly Suspect[] {
  const seen = observe(entries, context);
  return CAUSES.flatMap((cause) => {
    const finding = cause.finds(seen);
    if (!finding) return [];
    return [{ cause, finding: afterSweep(cause.id, afterAnswer(cause.id, finding, seen), seen) }];
  })
    .sort((a, b) => b.finding.weight - a.finding.weight)
    .map(({ cause, finding }) => ({
      id: cause.id,
      title: cause.title,
      evidence: finding.evidence,
      next: finding.next ?? cause.next,
      act: finding.act ?? cause.act,
    }));
}
