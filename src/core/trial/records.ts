import type { RunState, StepRecord } from '../procedure/run-state';
import type { CompiledStep } from './compile';

/** What was noted of each step of a trial, in their order. Linear: both are in the order of the procedure. */
export function recordsByStep(
  steps: readonly CompiledStep[],
  run: RunState | null,
): readonly (readonly StepRecord[])[] {
  const records = run?.records ?? [];
  let at = 0;
  return steps.map(({ to }) => {
    const begin = at;
    while (at < records.length && (records[at]?.step ?? Infinity) < to) at++;
    return records.slice(begin, at);
  });
}
