import type { ControlRole, StatusRole, WordSpec } from '../words/spec';

/** The bits under `mask` have the levels of `value`. */
export interface Pattern {
  readonly mask: number;
  readonly value: number;
}

/** A state of a drive, and how the status word shows it. */
export interface ProfileState extends Pattern {
  readonly id: string;
  readonly name: string;
  /** What the drive does in it, in a sentence. */
  readonly note: string;
  /** The state that it counts as, where a profile looks at one state in two ways. */
  readonly shown?: string | undefined;
  /** The shaft turns in it. */
  readonly turns?: boolean | undefined;
  /** The drive gets there by itself, after a fault or a power-up; nobody commands it. */
  readonly arises?: boolean | undefined;
}

/** A word that a person would send, and what it is for. */
export interface ProfileCommand {
  readonly id: string;
  readonly name: string;
  readonly word: number;
}

/** A way from one state to another that a control word opens. */
export interface Move extends Pattern {
  /** Two moves that the standard lets happen at once; the map draws them one by one. */
  readonly atOnce?: boolean;
  readonly from: readonly string[];
  readonly to: string;
  readonly name: string;
  /** This bit must rise: it was 0 in the word before. */
  readonly rise?: number | undefined;
}

/** A way that the drive takes by itself, such as the end of a ramp. */
export interface OwnMove {
  readonly from: string;
  readonly to: string;
  readonly why: string;
  /** Longest time that it is waited for, in milliseconds. */
  readonly withinMs: number;
}

/** A state machine of a drive as data: the standard's, or one that a sheet lists. */
export interface Profile {
  readonly id: string;
  readonly name: string;
  readonly control: WordSpec<ControlRole>;
  readonly status: WordSpec<StatusRole>;
  readonly states: readonly ProfileState[];
  readonly commands: readonly ProfileCommand[];
  readonly moves: readonly Move[];
  readonly own: readonly OwnMove[];
  /** A word held makes one move, or all that it opens one after the other. */
  readonly follows: 'one' | 'all';
  /** Bits that may rise in these states only; a route keeps to it. */
  readonly only: readonly { readonly mask: number; readonly states: readonly string[] }[];
  /** In this state and with such a word the shaft may turn; null where no word does that. `rise`: only as this bit rises. */
  readonly runs: (Pattern & { readonly state: string; readonly rise?: number }) | null;
  /** What a run word makes the shaft follow; a speed where nothing is said. */
  readonly takes?: 'speed' | 'position' | 'home' | 'stored-move';
  /** Words with any of these levels jog. */
  readonly jogs?: readonly Pattern[];
  /** States that may look alike in the status word, and how history tells them apart; empty where there are none. */
  readonly alike: string;
}

/** What a word is in a route's target beside the states: running is a state together with a word. */
export const RUNNING = 'running';

/** Whether a word looks like a pattern in the bits that the pattern’s mask counts. */
export const fitsPattern = ({ mask, value }: Pattern, word: number): boolean => ((word & mask) ^ value) === 0;

/** States that a status word allows: several where it leaves it open, none where no state looks so. */
export const statesOf = ({ states }: Profile, status: number): readonly ProfileState[] =>
  states.filter((state) => fitsPattern(state, status));

/** Whether a control word asks a drive of this profile to turn its shaft, once it is in the state for it. */
export const asksToRun = ({ runs, jogs = [] }: Profile, word: number): boolean =>
  (runs !== null && fitsPattern(runs, word)) || jogs.some((pattern) => fitsPattern(pattern, word));

/** Whether the shaft may turn in this state with this word. */
export const turnsIn = (profile: Profile, state: string, word: number): boolean =>
  stateOf(profile, state)?.turns === true || (profile.runs?.state === state && asksToRun(profile, word));

/** Status bits that no state which the word allows looks at, while others do: what they show says nothing there. */
export function bitsLeftOpen(profile: Profile, status: number): number {
  const present = statesOf(profile, status);
  if (present.length === 0) return 0;
  const masks = (states: readonly ProfileState[]): number => states.reduce((mask, state) => mask | state.mask, 0);
  return (masks(profile.states) & ~masks(present)) >>> 0;
}

/** Names of the states that a status word allows, each once. */
export const stateNamesOf = (profile: Profile, status: number): readonly string[] => [
  ...new Set(statesOf(profile, status).map(({ id, shown }) => shown ?? id)),
];

/** A state of a profile by its id. */
export const stateOf = ({ states }: Profile, id: string): ProfileState | undefined =>
  states.find((state) => state.id === id);

/** What may be asked for: every state that is not one the drive gets into by itself, and running. */
export const targetsOf = ({ states, runs }: Profile): readonly string[] => [
  ...states.filter(({ arises }) => arises !== true).map(({ id }) => id),
  ...(runs ? [RUNNING] : []),
];

const rises = (bit: number, last: number | null, word: number): boolean =>
  last !== null && ((last >>> bit) & 1) === 0 && ((word >>> bit) & 1) === 1;

/** Longest chain of moves that one word may open; a sheet's table could go round in circles. */
const MOST_MOVES = 16;

/**
 * Where a drive in `state` goes with `word`, `last` being the word before (null = not known, so no edge can be relied on). The drive's own
 * moves are followed to their end.
 */
export function stateAfter(profile: Profile, state: string, last: number | null, word: number): string {
  let at = settled(profile, state);
  let before = last;
  for (let i = 0; i < (profile.follows === 'one' ? 1 : MOST_MOVES); i++) {
    const move = profile.moves.find(
      (candidate) =>
        candidate.from.includes(at) &&
        fitsPattern(candidate, word) &&
        (candidate.rise === undefined || rises(candidate.rise, before, word)),
    );
    if (!move) break;
    at = settled(profile, move.to);
    before = word;
  }
  return at;
}

function settled({ own }: Profile, state: string): string {
  let at = state;
  for (let i = 0; i < own.length; i++) {
    const next = own.find(({ from }) => from === at);
    if (!next) break;
    at = next.to;
  }
  return at;
}
