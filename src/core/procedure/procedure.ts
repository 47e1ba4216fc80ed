import type { SerialSettings } from '../line/settings';
import type { Pattern } from '../profile/profile';
import type { PlacedParameter } from '../sheet/index-sheet';
import type { Cell } from '../sheet/place';
import type { ParameterType } from '../values/type';

/** What a word must look like: any of these patterns, and none of those. `place` is where the sheet has the word. */
export interface WordCondition {
  readonly place: Pick<PlacedParameter, 'cells' | 'order'>;
  readonly any: readonly Pattern[];
  readonly none?: readonly Pattern[];
  /** Or a number of the place's type, both ends included; of what counts modulo one `turn`, whichever turn it is in. */
  readonly range?: {
    readonly type: ParameterType;
    readonly least: number;
    readonly most: number;
    readonly turn?: number;
  };
}

/** What follows where a step does not come as it should: the run ends, goes on and says so, or waits for a person. */
export const IF_NOT = ['end', 'go-on', 'ask'] as const;
export type IfNot = (typeof IF_NOT)[number];

interface Worded {
  /** What is done, in a line for people. */
  readonly text: string;
  /** Absent: the run ends. */
  readonly ifNot?: IfNot;
  /**
   * Steps that are one act, from the first to before the last: where one of them does not come, the rest is left out, and the act is done again from
   * its first. Absent: each step for itself.
   */
  readonly act?: { readonly from: number; readonly to: number };
}

interface Asked extends Worded {
  readonly station: number;
  readonly bytes: Uint8Array;
}

/**
 * Sends one request. `answer` takes nothing but a good answer, `refusal` nothing but a refusal, `any` whatever comes; `end` goes on whatever came of it, and
 * tells what was no good answer as such.
 */
export interface RequestStep extends Asked {
  readonly kind: 'request';
  readonly needs: 'answer' | 'refusal' | 'any' | 'end';
  /** What goes out in its place in the rounds that follow: each takes the next, and then `bytes` again. */
  readonly then?: readonly Uint8Array[];
  /** What the answer tells is kept under this name. */
  readonly keeps?: string;
  /** The axis begins a move by it. */
  readonly begins?: true;
}

/** Asks again and again until a word looks as it should. */
export interface WatchStep extends Asked {
  readonly kind: 'watch';
  /** One look, which is good either way: where the word looks as it should, the steps before this one are left out. */
  readonly leavesTo?: number;
  readonly everyUs: number;
  /** Counted from the end of the step before. */
  readonly withinUs: number;
  readonly until: WordCondition;
  /** What must not be seen meanwhile, and how that is told. */
  readonly never?: { readonly when: WordCondition; readonly why: string };
  /** What is told when the time is over, and the names of what may be seen then, with hints at why. */
  readonly overdue: string;
  readonly names: readonly (Pattern & { readonly name: string })[];
  readonly hints: readonly (Pattern & { readonly text: string })[];
  /** Bits of the word that is watched. */
  readonly width: number;
}

/** On a line of plain text: says something, and waits until a piece of text comes (`heardIn`). */
export interface SayStep extends Asked {
  readonly kind: 'say';
  readonly hears: string;
  readonly withinUs: number;
}

/** Waits until a station answers again: silence, garbage and a lost connection are expected here. */
export interface ReturnStep extends Asked {
  readonly kind: 'return';
  readonly fromUs: number;
  readonly everyUs: number;
  readonly withinUs: number;
}

export interface PauseStep extends Worded {
  readonly kind: 'pause';
  readonly us: number;
  /** Nothing is sent to the procedure's station by itself meanwhile: no poll, and no word that calms its watchdog. */
  readonly silent?: true;
  /** Until the next whole multiple of `us` on the line's clock; one that is over is left out. */
  readonly beat?: true;
  /** Where so long passed since the step `since` began, the steps before `to` are left out. */
  readonly leaves?: { readonly since: number; readonly us: number; readonly to: number };
}

/** The control word of a station is not repeated any more from here on; its drive counts as set in motion all the same. */
export interface WithholdStep extends Worded {
  readonly kind: 'withhold';
  readonly station: number;
}

/** This end of the line gets other settings. */
export interface SettingsStep extends Worded {
  readonly kind: 'settings';
  readonly settings: SerialSettings;
}

/** How a shaft is seen to turn by somebody who faces its drive end, as IEC 60034-8 has its directions (from memory). */
export const SHAFT_WAYS = ['clockwise', 'counter-clockwise', 'it stands', 'it cannot be seen'] as const;
export type ShaftWay = (typeof SHAFT_WAYS)[number];
export const FACING = 'Facing the end of the shaft, which way does it turn?';

/** Asks a person; goes on with the answer, and ends where that is `no`. */
export interface PersonStep extends Worded {
  readonly kind: 'person';
  readonly question: string;
  /** What can be answered, by name; a number where there are none. */
  readonly choices: readonly { readonly name: string; readonly goesOn: boolean }[];
  /** The choices are ways of a shaft (`SHAFT_WAYS`), and are drawn. */
  readonly picture?: 'shaft';
  /** What the number is counted in, and where it should lie; null: anywhere. */
  readonly number?: { readonly unit: string; readonly least: number | null; readonly most: number | null };
  /** It may be answered when the run is over: nothing that comes after it sets a shaft in motion. */
  readonly mayWait?: true;
}

export type ProcedureStep =
  RequestStep | WatchStep | SayStep | ReturnStep | PauseStep | WithholdStep | SettingsStep | PersonStep;

export type ProcedureKind = 'route' | 'both-ends' | 'restart' | 'list' | 'listing' | 'trial' | 'cycle';

/** Something that takes several exchanges, as data: the worker of the line runs it, whoever made it. */
export interface Procedure {
  readonly kind: ProcedureKind;
  readonly title: string;
  /** The station that it is about, for the page; each step says its own. */
  readonly station: number;
  readonly steps: readonly ProcedureStep[];
  /** How often all steps are done; null = until it is ended. */
  readonly rounds: number | null;
  /** Rounds in a row that may come without their answers; one more ends it. Absent: any number. */
  readonly lostMost?: number;
  /** Longest time without all answers of a round; a round that would begin later does not. Absent: any. */
  readonly silentMostUs?: number;
  /** A cell whose word the drive must go on changing: one that stands for longer ends it. Absent: none. */
  readonly life?: { readonly cell: Cell; readonly withinUs: number };
  /** Steps before which it waits to be told to go on. Absent: none. */
  readonly stopsAt?: readonly number[];
  /** It would cut the bench off from a shaft in motion, so it is not done while one turns. */
  readonly standsStill: boolean;
}
