import type { TrialStep } from './trial';

/** Stop is proved before anything turns. */
export const STOP_FIRST: TrialStep = {
  id: 'stop-first',
  kind: 'stop',
  note: 'Before anything turns: its stop word is taken, and it is seen to stand.',
};
export const STOP: TrialStep = { id: 'stop', kind: 'stop' };
