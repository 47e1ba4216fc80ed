import type { CompiledStep } from './compile';

/** Place of the step of a trial to which a step of its procedure belongs; of what comes behind all of them, the last. */
export function stepAt(steps: readonly Pick<CompiledStep, 'to'>[], at: number): number {
  const place = steps.findIndex(({ to }) => to > at);
  return place < 0 ? steps.length - 1 : place;
}
