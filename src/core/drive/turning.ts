import { asksForMotion } from '../sheet/profile-of';
import { roleActive } from '../words/read';
import { numberOf } from './describe';
import type { SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';

/**
 * Whether the shaft turns: by the bit that says so, where the status word has one, else by the actual speed; null where neither is known.
 * `word` gives the last word seen in the place with a role.
 */
export function turningBy(index: SheetIndex, word: (role: ParameterRole) => number | undefined): boolean | null {
  const status = word('status-word');
  const byBit = status === undefined || !index.words ? null : roleActive(index.words.status, 'turning', status);
  if (byBit !== null) return byBit;
  const place = index.byRole.get('actual-speed');
  const actual = word('actual-speed');
  return place && actual !== undefined && !hasTurningBit(index) ? numberOf(place, actual) !== 0 : null;
}

const hasTurningBit = ({ words }: SheetIndex): boolean =>
  words?.status.bits.some(({ role }) => role === 'turning') === true;

/** The place that tells whether the shaft turns. */
export const turningRole = (index: SheetIndex): ParameterRole =>
  hasTurningBit(index) || !index.byRole.has('actual-speed') ? 'status-word' : 'actual-speed';

/** Whether a control word asks the shaft to turn in any mode that the drive knows; nobody can be sure of a mode from afar. */
export const wordAsksToTurn = (index: SheetIndex, control: number): boolean =>
  [index, ...index.modes.values()].some(
    ({ words, profile }) => words !== undefined && asksForMotion(profile, words.control, control),
  );

/** Whether a control word may turn the shaft: while no bit is known as the one that makes the drive run, any word but 0 may. */
export const wordMayTurn = (index: SheetIndex, control: number): boolean =>
  wordAsksToTurn(index, control) || (control !== 0 && !saysWhatRuns(index));

const saysWhatRuns = ({ words, profile }: SheetIndex): boolean =>
  words === undefined || (profile?.runs ?? null) !== null || words.control.bits.some(({ role }) => role === 'run');
