import type { StoredPath } from '../motion/stored-moves';
import type { Trial, TrialStep } from './trial';

/** The id of a stored move that is started by hand. */
export const STORED_ID = 'a-stored-move';
/** Seconds that it may take where the time of its moves is not known. */
const LONGEST_S = 300;

const POSITION = { role: 'actual-position' } as const;

/** Starts a move that the drive keeps, as a trial: what is typed for its table written first, the position read before and after. */
export function trialOfStored(first: number, typed: ReadonlyMap<string, string>, path: StoredPath | null): Trial {
  const writes = [...typed].map(([number, to], i): TrialStep => ({
    id: `write-${i + 1}`,
    kind: 'write',
    what: { number },
    to,
  }));
  const seconds = path?.seconds ?? null;
  return {
    format: 1,
    id: STORED_ID,
    name: `Stored move ${first}`,
    proves: 'That the drive goes through its own moves from this one on, and how long it takes.',
    leaves: 'What starts them in the plant, and the machine around it: look before it moves.',
    steps: [
      ...writes,
      { id: 'before', kind: 'read', what: POSITION },
      {
        id: 'moves',
        kind: 'stored-move',
        number: first,
        withinS: seconds === null ? LONGEST_S : Math.min(3600, Math.ceil(seconds * 1.5) + 5),
      },
      { id: 'after', kind: 'read', what: POSITION },
    ],
    measures: [{ kind: 'time', name: 'from the start to the end of its moves', from: 'moves', to: 'moves' }],
  };
}
