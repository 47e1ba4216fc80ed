import { hexNumber } from '../bytes/hex';
import type { DialectAct } from '../places/dialect-act';
import type { PlaceLink } from '../places/place-link';
import { levelOfRole, routeProcedure } from '../procedure/route-procedure';
import type { ProcedureStep, WatchStep, WordCondition } from '../procedure/procedure';
import { stateAfter, type Pattern, type Profile, type ProfileState } from '../profile/profile';
import { routeTo } from '../profile/route';
import { done, failed, type Result } from '../result';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import type { KnownNumber } from '../drive/describe';
import { turningRole, wordMayTurn } from '../drive/turning';
import { whatText } from './place-value';
import { runningOf } from './states';
import type { What } from './trial';

/** What is waited for is asked for this often at most; the line may be slower. */
const EVERY_US = 20_000;

/** What of a line's protocol makes a whole request of bytes that a person wrote; `LineProtocol` is one. */
export interface RequestReader {
  /** Bytes of the longest frame. */
  readonly longest: number;
  readonly read: (bytes: Uint8Array, direction: 'request') => { readonly whole: boolean };
  readonly completed: (bytes: Uint8Array) => Uint8Array | null;
  readonly stationOf: (bytes: Uint8Array) => number | null;
}

/** The drive on which a trial runs, and what is known of it before. */
export interface TrialWay {
  readonly index: SheetIndex;
  readonly places: PlaceLink;
  readonly station: number;
  readonly name: string;
  /** States in which it may be now; empty: not known. */
  readonly here: readonly string[];
  readonly known: (role: ParameterRole) => number | undefined;
  /** What was read of settings, by their numbers: the moves that the drive keeps itself, and what scales of others hang on. */
  readonly held?: KnownNumber;
  /** The line is one of plain text, on which only texts are said. */
  readonly isText?: boolean;
  /** How its line speaks; without it no request can be sent as it stands. */
  readonly protocol?: RequestReader | null;
}

/** What is known of the drive between two steps, if all came as it should. */
export interface At {
  here: readonly string[];
  word: number | null;
  reference: number | undefined;
  /** The mode of operation, where the drive has several; undefined where nobody knows. */
  mode: number | undefined;
  /** Where the axis stands, in its counts; undefined where nobody knows. */
  position: number | undefined;
  /** It was sent there by the step before; else it may have been moved since that was read, and is looked at again before a move. */
  isThere: boolean;
  /** A move is under way whose end nobody waited for. */
  isUnderWay: boolean;
  turns: boolean;
  /** What the trial itself wrote, as patterns by the numbers of the entries. */
  readonly given: Map<string, number>;
}

/** The requests of one step, or why it cannot be done. */
export type Made = Result<readonly ProcedureStep[], string>;

/** All of them, or the first reason why one cannot be. */
export function gathered(steps: readonly Result<ProcedureStep, string>[]): Made {
  const bad = steps.find((step) => !step.ok);
  return bad && !bad.ok ? bad : done(steps.flatMap((step) => (step.ok ? [step.value] : [])));
}

/** Why a step cannot be asked: the sheet does not have it, or the line does not reach it. */
export const missing = (way: TrialWay, what: What): Made =>
  failed(`sheet ${way.index.sheet.name} has no ${whatText(way.index, what)}, or this line does not reach it`);

/** A word of the drive in hex, as wide as its control word. */
export const wordText = ({ index }: TrialWay, word: number): string =>
  hexNumber(word, (index.words?.control.width ?? 16) / 4);

/** What a run knows of the drive at a step, by role. */
export const knownOf =
  (way: TrialWay, at: At) =>
  (role: ParameterRole): number | undefined =>
    role === 'control-word'
      ? (at.word ?? way.known(role))
      : role === 'speed-reference'
        ? at.reference
        : way.known(role);

/** What a run knows of settings at a step, by their numbers: what the trial wrote, else what was read before it. */
export const heldAt =
  (way: TrialWay, at: At): KnownNumber =>
  (number) =>
    at.given.get(number) ?? way.held?.(number);

/** Of the states in which it may be, those that what was seen allows. */
export function narrow(profile: Profile | null, at: At, allows: (state: ProfileState) => boolean): void {
  if (!profile) return;
  const allowed = profile.states.filter(({ id }) => at.here.length === 0 || at.here.includes(id)).filter(allows);
  if (allowed.length > 0) at.here = allowed.map(({ id }) => id);
}

/** Where the shaft is told to stand: by the bit of the status, else by the actual speed. */
export function stands(index: SheetIndex): (WordCondition & { readonly place: PlacedParameter }) | null {
  const role = turningRole(index);
  const place = index.byRole.get(role);
  if (!place) return null;
  if (role !== 'status-word') return { place, any: [], range: { type: place.type, least: 0, most: 0 } };
  const level = index.profile && levelOfRole(index.profile, 'turning', false);
  return level ? { place, any: [level] } : null;
}

/** Writes the control word or the reference, and remembers that. */
export function give(
  way: TrialWay,
  at: At,
  role: 'control-word' | 'speed-reference',
  pattern: number,
  text: string,
): Result<ProcedureStep, string> {
  const { index, places, station } = way;
  const place = index.byRole.get(role);
  const bytes = place && places.write(station, place, pattern, knownOf(way, at));
  if (!bytes) return failed(`this link cannot write the ${role.replace('-', ' ')}`);
  if (role === 'speed-reference') at.reference = pattern;
  else {
    const { profile } = index;
    if (profile) at.here = at.here.map((state) => stateAfter(profile, state, at.word, pattern));
    at.word = pattern;
    at.turns = wordMayTurn(index, pattern);
  }
  return done({ kind: 'request', text, station, bytes, needs: 'answer' });
}

/** Writes one value of the drive, as its words on the wire. */
export function written(
  way: TrialWay,
  at: At,
  place: PlacedParameter,
  words: readonly number[],
  text: string,
): Result<ProcedureStep, string> {
  const bytes = way.places.writeWords(way.station, place, words, knownOf(way, at));
  return bytes
    ? done({ kind: 'request', text, station: way.station, bytes, needs: 'answer' })
    : failed(`this link cannot write ${place.number}`);
}

/** What is waited for ends at once where one of these shows meanwhile: nobody waits on for a move of a drive that has tripped. */
export const unless = (
  step: Result<ProcedureStep, string>,
  { cells, order }: PlacedParameter,
  levels: readonly (Pattern | null)[],
  why: string,
): Result<ProcedureStep, string> => {
  const any = levels.filter((level) => level !== null);
  return step.ok && step.value.kind === 'watch' && any.length > 0
    ? done({ ...step.value, never: { when: { place: { cells, order }, any }, why } })
    : step;
};

/** An act of a dialect. */
export const acted = (
  { station }: TrialWay,
  { verb, bytes }: DialectAct,
  what: string,
): Result<ProcedureStep, string> =>
  done({ kind: 'request', text: `${verb}: ${what}`, station, bytes, needs: 'answer' });

/** The axis begins to move by this request. */
export const begins = (step: Result<ProcedureStep, string>): Result<ProcedureStep, string> =>
  step.ok && step.value.kind === 'request' ? done({ ...step.value, begins: true }) : step;

/** The way to a state, word by word, each seen before the next. */
export function walk(way: TrialWay, profile: Profile, at: At, target: string): Made {
  const { index, places, station } = way;
  const route = routeTo(profile, at.here, at.word, target);
  if (route.kind === 'none') return failed(route.why);
  const made = routeProcedure({
    index,
    profile,
    places,
    station,
    here: at.here,
    steps: route.steps,
    title: '',
    known: knownOf(way, at),
  });
  if (!made.ok) return made;
  const last = route.steps[route.steps.length - 1];
  at.word = last?.word ?? at.word;
  at.here = last?.states ?? at.here;
  // A shaft that is let go turns until it is seen to stand.
  at.turns ||= target === runningOf(profile) || route.steps.some(({ turns }) => turns);
  if (!last) return done([]);
  return done(made.value.steps.map((step) => (step.kind === 'watch' ? { ...step, everyUs: EVERY_US } : step)));
}

/** Asks until a place shows what is waited for. */
export function watchOf(
  way: TrialWay,
  until: WordCondition & { readonly place: PlacedParameter },
  { text, withinUs }: Pick<WatchStep, 'text' | 'withinUs'>,
): Result<ProcedureStep, string> {
  const { index, places, station } = way;
  const bytes = places.read(station, [until.place])[0];
  const isStatus = until.place.role === 'status-word';
  return bytes
    ? done({
        kind: 'watch',
        text,
        station,
        bytes,
        everyUs: EVERY_US,
        withinUs,
        until: { ...until, place: { cells: until.place.cells, order: until.place.order } },
        overdue: `“${text}” was expected`,
        names: isStatus ? (index.profile?.states ?? []).map(({ mask, value, name }) => ({ mask, value, name })) : [],
        hints: [],
        width: isStatus ? (index.profile?.status.width ?? 16) : 16 * until.place.cells.length,
      })
    : failed(`this link cannot read ${until.place.number}`);
}
