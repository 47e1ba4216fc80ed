import type { ConditionKind } from '../sheet/condition-section';
import type { ParameterRole } from '../sheet/parameter-section';

/** Unknown is never shown as met. */
export type Verdict = 'met' | 'not-met' | 'unknown';

/** A write that helps, and whether the shaft would start with it; `may` when something that decides is not known. */
export interface Remedy {
  readonly text: string;
  readonly role: ParameterRole;
  readonly word: number;
  readonly starts: 'no' | 'yes' | 'may';
  /** Why the shaft would or would not start. */
  readonly why: string;
}

/** What kind of thing it is: the kind says where to look. Those of a sheet, and those of any drive. */
export type BlockKind =
  ConditionKind | 'link' | 'latched-fault' | 'state' | 'watchdog' | 'command' | 'reference' | 'restart';

export const KIND_TEXT: Readonly<Record<BlockKind, string>> = {
  link: 'link',
  master: 'master',
  source: 'source',
  'latched-fault': 'latched fault',
  'live-condition': 'live condition',
  'input-level': 'input',
  masked: 'masked by choice',
  state: 'state',
  watchdog: 'watchdog',
  command: 'command',
  reference: 'reference',
  limit: 'limit',
  direction: 'direction lock',
  unipolar: 'source without a sign',
  restart: 'waiting for restart',
};

/** One thing that must be so before the shaft turns as asked: how it stands, how that is known, and what to do. */
export interface Condition {
  readonly id: string;
  readonly kind: BlockKind;
  readonly title: string;
  readonly verdict: Verdict;
  /** False where the shaft turns all the same, only not as asked. */
  readonly blocks: boolean;
  /** What was seen, in words; empty when nothing was. */
  readonly value: string;
  /** Where it was seen: a parameter, a bit of the status word, the link. */
  readonly source: string;
  readonly ageUs: number | null;
  /** What to do when it is not met, or what else to know. */
  readonly advice: string;
  readonly remedy: Remedy | null;
}

/** A word that was read or confirmed, and when. */
export interface Fact {
  readonly word: number;
  readonly atUs: number;
}
