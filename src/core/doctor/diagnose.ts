import type { TraceEntry } from '../trace/entry';
import { CAUSES, type Evidence, type NextAct } from './causes';
import { observe, type LineContext } from './observe';

/** A cause that explains what was seen, with its evidence and what to try next. */
export interface Suspect {
  readonly id: string;
  readonly title: string;
  readonly evidence: readonly Evidence[];
  readonly next: string;
  readonly act: NextAct;
}

/** Likely causes of what a line shows, best first; empty when nothing is wrong as far as can be seen. */
export function diagnose(entries: readonly TraceEntry[], context: LineContext): readonly Suspect[] {
  const seen = observe(entries, context);
  return CAUSES.flatMap((cause) => {
    const finding = cause.finds(seen);
    return finding ? [{ cause, finding }] : [];
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
