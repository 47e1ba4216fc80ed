import { hexNumber } from '../bytes/hex';
import type { PlaceLink } from '../places/place-link';
import { routeProcedure, levelOfRole } from '../procedure/route-procedure';
import type { IfNot, Procedure, ProcedureStep, WatchStep, WordCondition } from '../procedure/procedure';
import { RUNNING, stateAfter, stateOf, targetsOf, turnsIn, type Profile, type ProfileState } from '../profile/profile';
import { routeTo } from '../profile/route';
import { done, failed, type Result } from '../result';
import { readTyped } from '../sets/typed-value';
import { patternOfSaid } from '../sets/said';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { numberOfPattern } from '../values/pattern';
import { turningRole, wordMayTurn } from '../sheet/turning';
import { numberFor, parameterOf, patternFor, whatText } from './place-value';
import { MOST_STEPS, type Trial, type TrialStep, type What } from './trial';

/** What is waited for is asked for this often at most; the line may be slower. */
const EVERY_US = 20_000;
const RETURN_EVERY_US = 400_000;

/** The drive on which a trial runs, and what is known of it before. */
export interface TrialWay {
  readonly index: SheetIndex;
  readonly places: PlaceLink;
  readonly station: number;
  readonly name: string;
  /** States in which it may be now; empty: not known. */
  readonly here: readonly string[];
  readonly known: (role: ParameterRole) => number | undefined;
}

/** One step of a trial as the line will do it. */
export interface CompiledStep {
  readonly step: TrialStep;
  /** Which time of its repeats this is; 1 where it has none. */
  readonly time: number;
  readonly text: string;
  /** Steps of the procedure from this one to before that one. */
  readonly from: number;
  readonly to: number;
  /** The shaft may turn while it is done. */
  readonly turns: boolean;
  /** Why it cannot be done on this drive; empty where it can. */
  readonly fault: string;
  /** It is left out then, and the trial goes on without it. */
  readonly isLeftOut: boolean;
}

export interface CompiledTrial {
  readonly trial: Trial;
  readonly steps: readonly CompiledStep[];
  /** Null where a step cannot be done; `why` says which and why. */
  readonly procedure: Procedure | null;
  readonly why: string;
}

/** What is known of the drive between two steps, if all came as it should. */
interface At {
  here: readonly string[];
  word: number | null;
  reference: number | undefined;
  /** The mode of operation, where the drive has several; undefined where nobody knows. */
  mode: number | undefined;
  turns: boolean;
}

/** Of the states in which it may be, those that what was seen allows. */
function narrow(profile: Profile | null, at: At, allows: (state: ProfileState) => boolean): void {
  if (!profile) return;
  const allowed = profile.states.filter(({ id }) => at.here.length === 0 || at.here.includes(id)).filter(allows);
  if (allowed.length > 0) at.here = allowed.map(({ id }) => id);
}

/** What running is: the word that runs in a state, or the first state in which the shaft turns and that is commanded. */
export const runningOf = (profile: Profile): string =>
  profile.runs ? RUNNING : (targetsOf(profile).find((id) => stateOf(profile, id)?.turns === true) ?? RUNNING);

/** The state in which nobody asks anything of the drive: the first that is commanded. */
export const restOf = (profile: Profile): string | undefined => targetsOf(profile).find((id) => id !== RUNNING);

/** A trial for one drive: each step as the requests that do it, or the reason why it cannot be done. Nothing is sent by this. */
export function compileTrial(trial: Trial, way: TrialWay): CompiledTrial {
  const at: At = {
    here: way.here,
    word: way.known('control-word') ?? null,
    reference: way.known('speed-reference'),
    mode: way.known('mode-display') ?? way.known('mode'),
    turns: false,
  };
  const all: ProcedureStep[] = [];
  const steps = unrolled(trial).map(({ step, time, fault }): CompiledStep => {
    const from = all.length;
    const before = at.turns;
    const made = fault === '' ? DO[step.kind](step as never, way, at) : failed(fault);
    const ifNot: { ifNot?: IfNot } = step.ifNot && step.ifNot !== 'end' ? { ifNot: step.ifNot } : {};
    if (made.ok) all.push(...made.value.map((one) => ({ ...one, ...ifNot })));
    return {
      step,
      time,
      text: stepText(step, way.index),
      from,
      to: all.length,
      turns: before || at.turns,
      fault: made.ok ? '' : made.error,
      isLeftOut: !made.ok && step.optional === true,
    };
  });
  const bad = steps.findIndex(({ fault, isLeftOut }) => fault !== '' && !isLeftOut);
  const why =
    bad >= 0
      ? `step ${bad + 1}: ${steps[bad]?.fault ?? ''}`
      : all.length > MOST_STEPS
        ? `it comes to ${all.length} requests and waits; ${MOST_STEPS} are the most`
        : '';
  const procedure: Procedure = {
    kind: 'trial',
    title: trial.name,
    station: way.station,
    steps: all,
    rounds: 1,
    standsStill: false,
  };
  return { trial, steps, why, procedure: why === '' ? procedure : null };
}

interface Unrolled {
  readonly step: TrialStep;
  readonly time: number;
  readonly fault: string;
}

/** The steps one by one, with those that are repeated as often as they are done. */
function unrolled({ steps }: Trial): readonly Unrolled[] {
  const out: Unrolled[] = [];
  steps.forEach((step, i) => {
    if (step.kind !== 'repeat') return void out.push({ step, time: 1, fault: '' });
    const begin = steps.findIndex(({ id }) => id === step.from);
    const body = steps.slice(Math.max(begin, 0), i).filter(({ kind }) => kind !== 'repeat');
    if (begin < 0 || begin >= i)
      return void out.push({ step, time: 1, fault: `no step before it is called ${step.from}` });
    if (out.length + body.length * (step.times - 1) > MOST_STEPS)
      return void out.push({ step, time: 1, fault: `a trial has at most ${MOST_STEPS} steps` });
    for (let time = 2; time <= step.times; time++) out.push(...body.map((one) => ({ step: one, time, fault: '' })));
  });
  return out;
}

type Made = Result<readonly ProcedureStep[], string>;
type Doing = {
  readonly [K in TrialStep['kind']]: (step: Extract<TrialStep, { kind: K }>, way: TrialWay, at: At) => Made;
};

const DO: Doing = {
  walk: ({ to }, way, at) => {
    const { profile } = way.index;
    if (!profile) return failed('the sheet lists no states');
    const inMode = at.mode === undefined ? profile : (way.index.modes.get(at.mode)?.profile ?? profile);
    if (to === RUNNING && (inMode.takes ?? 'speed') !== 'speed')
      return failed('in this mode the word that runs starts a move to the target that the drive holds: use a move');
    return walk(way, profile, at, targetOf(profile, to));
  },
  stop: (_, way, at) => {
    const { words = [] } = way.index.sheet.commands?.stop ?? {};
    const standing = stands(way.index);
    if (words.length === 0 || !standing)
      return failed('the sheet does not say how this drive is stopped and seen to stand');
    const writes = words.map((word) => give(way, at, 'control-word', word, `stop word ${wordText(way, word)}`));
    const watch = watchOf(way, standing, {
      text: 'the shaft stands',
      withinUs: 1000 * (way.index.sheet.commands?.stop.standstillWithinMs ?? 0),
    });
    at.turns = false;
    return gathered([...writes, watch]);
  },
  stands: ({ withinS }, way, at) => {
    const standing = stands(way.index);
    if (!standing) return failed('the sheet does not say how the shaft is seen to stand');
    at.turns = false;
    narrow(way.index.profile, at, ({ turns }) => turns !== true);
    return gathered([watchOf(way, standing, { text: 'the shaft stands', withinUs: withinS * 1e6 })]);
  },
  reference: ({ to }, way, at) => {
    const place = way.index.byRole.get('speed-reference');
    if (!place) return failed('the sheet has no speed reference');
    const pattern = patternFor(way.index, place, to);
    if (!pattern.ok) return pattern;
    return gathered([give(way, at, 'speed-reference', pattern.value, `speed reference ${to}`)]);
  },
  move: (step, way, at) => moveSteps(step, way, at),
  write: ({ what, to }, way, at) => {
    const place = parameterOf(way.index, what);
    if (!place) return missing(way, what);
    const words = readTyped(way.index, place, to, () => undefined);
    const pattern = words.ok ? patternOfSaid(place, words.value) : null;
    if (!words.ok || pattern === null)
      return failed(words.ok ? `${place.name} cannot be written as one number` : words.error);
    const bytes = way.places.write(way.station, place, pattern, knownOf(way, at));
    if (!bytes) return failed(`this link cannot write ${place.number}`);
    if (place.role === 'control-word' && wordMayTurn(way.index, pattern)) at.turns = true;
    if (place.role === 'mode') at.mode = numberOfPattern(place.type, pattern);
    return done([{ kind: 'request', text: `${place.number} ← ${to}`, station: way.station, bytes, needs: 'answer' }]);
  },
  read: ({ id, what }, way) => {
    const place = parameterOf(way.index, what);
    const bytes = place && way.places.read(way.station, [place])[0];
    return bytes
      ? done([
          {
            kind: 'request',
            text: `read ${whatText(way.index, what)}`,
            station: way.station,
            bytes,
            needs: 'answer',
            keeps: id,
          },
        ])
      : missing(way, what);
  },
  wait: ({ what, from, to, withinS }, way) => {
    const place = parameterOf(way.index, what);
    if (!place) return missing(way, what);
    const ends = [from, to].map((text) => (text === null ? done(null) : numberFor(way.index, place, text)));
    const bad = ends.find((end) => !end.ok);
    if (bad && !bad.ok) return bad;
    const [low, high] = ends.map((end) => (end.ok ? end.value : null));
    const [a, b] = [low ?? -Number.MAX_VALUE, high ?? Number.MAX_VALUE];
    const range = { type: place.type, least: Math.min(a, b), most: Math.max(a, b) };
    const text = rangeText(way.index, what, from, to);
    return gathered([watchOf(way, { place, any: [], range }, { text, withinUs: withinS * 1e6 })]);
  },
  'wait-bit': ({ role, is, withinS }, way, at) => {
    const place = way.index.byRole.get('status-word');
    const level = way.index.profile && levelOfRole(way.index.profile, role, is);
    if (!place || !level) return failed(`the sheet names no status bit ${role}`);
    narrow(way.index.profile, at, ({ mask, value }) => ((value ^ level.value) & mask & level.mask) === 0);
    return gathered([
      watchOf(way, { place, any: [level] }, { text: `${role} is ${is ? 'there' : 'gone'}`, withinUs: withinS * 1e6 }),
    ]);
  },
  'wait-state': ({ states, withinS }, way, at) => {
    const { profile } = way.index;
    const place = way.index.byRole.get('status-word');
    const any = (profile?.states ?? []).filter(({ id }) => states.includes(id));
    if (!profile || !place || any.length === 0) return failed(`the sheet has no state ${states.join(' or ')}`);
    at.here = any.map(({ id }) => id);
    at.turns = any.some(({ id, turns }) => turns === true || turnsIn(profile, id, at.word ?? 0));
    const text = any.map(({ name }) => name).join(' or ');
    return gathered([watchOf(way, { place, any }, { text, withinUs: withinS * 1e6 })]);
  },
  hold: ({ s }) => done([{ kind: 'pause', text: `wait ${s} s`, us: s * 1e6 }]),
  ask: ({ question, good, bad }) =>
    done([
      {
        kind: 'person',
        text: question,
        question,
        choices: [...good.map((name) => ({ name, goesOn: true })), ...bad.map((name) => ({ name, goesOn: false }))],
      },
    ]),
  'ask-number': ({ question, unit, least, most }) =>
    done([{ kind: 'person', text: question, question, choices: [], number: { unit, least, most } }]),
  withhold: ({ s }, way, at) => {
    const isSilent = way.index.sheet.commands?.watchdogFedBy !== 'control-write';
    const made = gathered([
      ...lastWord(way, at),
      done<ProcedureStep>({ kind: 'withhold', text: 'the word is not repeated any more', station: way.station }),
      ...(isSilent
        ? [done<ProcedureStep>({ kind: 'pause', text: `nothing is sent for ${s} s`, us: s * 1e6, silent: true })]
        : []),
    ]);
    // What the drive does then is its own matter.
    at.here = [];
    return made;
  },
  return: ({ withinS }, way, at) => {
    const status = way.index.byRole.get('status-word');
    const bytes = status && way.places.read(way.station, [status])[0];
    if (!bytes) return failed('the sheet does not say what can be read to see the drive answer');
    at.here = [];
    at.word = null;
    at.turns = false;
    return done([
      {
        kind: 'return',
        text: 'it answers again',
        station: way.station,
        bytes,
        fromUs: 0,
        everyUs: RETURN_EVERY_US,
        withinUs: withinS * 1e6,
      },
    ]);
  },
  repeat: () => failed('a repeat is no step of its own'),
};

const missing = (way: TrialWay, what: What): Made =>
  failed(`sheet ${way.index.sheet.name} has no ${whatText(way.index, what)}, or this line does not reach it`);

const wordText = ({ index }: TrialWay, word: number): string => hexNumber(word, (index.words?.control.width ?? 16) / 4);

/** Where the shaft is told to stand: by the bit of the status, else by the actual speed. */
function stands(index: SheetIndex): (WordCondition & { readonly place: PlacedParameter }) | null {
  const role = turningRole(index);
  const place = index.byRole.get(role);
  if (!place) return null;
  if (role !== 'status-word') return { place, any: [], range: { type: place.type, least: 0, most: 0 } };
  const level = index.profile && levelOfRole(index.profile, 'turning', false);
  return level ? { place, any: [level] } : null;
}

const knownOf =
  (way: TrialWay, at: At) =>
  (role: ParameterRole): number | undefined =>
    role === 'control-word'
      ? (at.word ?? way.known(role))
      : role === 'speed-reference'
        ? at.reference
        : way.known(role);

/** Writes the control word or the reference, and remembers that. */
function give(
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

/** The word that the drive holds, once more: its watch begins anew just then. */
const lastWord = (way: TrialWay, at: At): readonly Result<ProcedureStep, string>[] =>
  at.word === null ? [] : [give(way, at, 'control-word', at.word, `${wordText(way, at.word)} for the last time`)];

const targetOf = (profile: Profile, to: string): string =>
  to === 'rest' ? (restOf(profile) ?? to) : to === RUNNING ? runningOf(profile) : to;

function walk(way: TrialWay, profile: Profile, at: At, target: string): Made {
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

/** Bits of the status word in the profile position mode of CiA 402 (IEC 61800-7-201): set-point acknowledged, target reached. */
const ACKNOWLEDGED = 0x1000;
const REACHED = 0x0400;
/** The set-point is taken, or given back, within this. */
const HANDSHAKE_US = 2_000_000;

/** The drive's own index in the mode in which it is sent to a position, and that mode's number. */
function positionMode({ index }: TrialWay): { readonly index: SheetIndex; readonly mode: number | null } | null {
  if (index.profile?.takes === 'position' && index.modes.size === 0) return { index, mode: null };
  const found = [...index.modes].find(([, own]) => own.profile?.takes === 'position');
  return found ? { index: found[1], mode: found[0] } : null;
}

/**
 * Target, then the set-point bit as it rises, acknowledged, taken back, and then until the drive says that it is there: what “reached” said before the
 * acknowledge was about the move before.
 */
function moveSteps({ to, relative, withinS }: Extract<TrialStep, { kind: 'move' }>, way: TrialWay, at: At): Made {
  const own = positionMode(way);
  const profile = own?.index.profile;
  const [target, status, mode] = (['target-position', 'status-word', 'mode'] as const).map((role) =>
    way.index.byRole.get(role),
  );
  if (!own || profile?.id !== 'cia402' || !profile.runs || !target || !status)
    return failed('the sheet has no mode of CiA 402 in which it is sent to a position');
  const counts = patternFor(way.index, target, to);
  if (!counts.ok) return counts;
  const start = profile.commands.find(({ id }) => id === (relative ? 'start-relative' : 'start-move'))?.word;
  const bytes = way.places.write(way.station, target, counts.value, knownOf(way, at));
  if (start === undefined || !bytes) return failed('this link cannot write the target');
  const inMode = { ...way, index: own.index };
  const ready = walkIn(inMode, profile, at, own.mode, mode);
  const lower = start & ~(1 << (profile.runs.rise ?? 0));
  const bit = (mask: number, isSet: boolean): WordCondition & { readonly place: PlacedParameter } => ({
    place: status,
    any: [{ mask, value: isSet ? mask : 0 }],
  });
  const made = gathered([
    ...ready,
    done<ProcedureStep>({ kind: 'request', text: `target ← ${to}`, station: way.station, bytes, needs: 'answer' }),
    give(inMode, at, 'control-word', start, `${wordText(way, start)}: the set-point rises`),
    watchOf(way, bit(ACKNOWLEDGED, true), { text: 'the set-point is acknowledged', withinUs: HANDSHAKE_US }),
    give(inMode, at, 'control-word', lower, `${wordText(way, lower)}: it is taken back`),
    watchOf(way, bit(ACKNOWLEDGED, false), { text: 'another set-point may come', withinUs: HANDSHAKE_US }),
    watchOf(way, bit(REACHED, true), { text: 'the target is reached', withinUs: withinS * 1e6 }),
  ]);
  at.turns = true;
  return made;
}

/** The mode, where it is another, and the way to the state in which a move can be started, with nothing that starts one. */
function walkIn(
  way: TrialWay,
  profile: Profile,
  at: At,
  number: number | null,
  mode: PlacedParameter | undefined,
): readonly Result<ProcedureStep, string>[] {
  const steps: Result<ProcedureStep, string>[] = [];
  if (number !== null && at.mode !== number) {
    const bytes = mode && way.places.write(way.station, mode, number, knownOf(way, at));
    if (!bytes) return [failed('this link cannot write the mode of operation')];
    steps.push(done({ kind: 'request', text: `mode ← ${number}`, station: way.station, bytes, needs: 'answer' }));
    at.mode = number;
  }
  const made = walk(way, profile, at, profile.runs?.state ?? RUNNING);
  return made.ok ? [...steps, ...made.value.map((step) => done(step))] : [made];
}

function watchOf(
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

/** All of them, or the first reason why one cannot be. */
function gathered(steps: readonly Result<ProcedureStep, string>[]): Made {
  const bad = steps.find((step) => !step.ok);
  return bad && !bad.ok ? bad : done(steps.flatMap((step) => (step.ok ? [step.value] : [])));
}

const rangeText = (index: SheetIndex, what: What, from: string | null, to: string | null): string => {
  const name = whatText(index, what);
  if (from === null) return `${name} is at most ${to ?? 'anything'}`;
  return to === null ? `${name} is at least ${from}` : `${name} lies between ${from} and ${to}`;
};

/** A step in words, for one drive. */
export function stepText(step: TrialStep, index: SheetIndex): string {
  switch (step.kind) {
    case 'walk':
      return `walk to ${nameOfTarget(index, step.to)}`;
    case 'stop':
      return 'stop, and wait until the shaft stands';
    case 'stands':
      return `the shaft stands within ${step.withinS} s`;
    case 'move':
      return `move ${step.relative ? 'by' : 'to'} ${step.to} counts within ${step.withinS} s`;
    case 'reference':
      return `speed reference ${step.to}`;
    case 'write':
      return `write ${whatText(index, step.what)} ← ${step.to}`;
    case 'read':
      return `read ${whatText(index, step.what)}`;
    case 'wait':
      return `${rangeText(index, step.what, step.from, step.to)} within ${step.withinS} s`;
    case 'wait-bit':
      return `${step.role} is ${step.is ? 'there' : 'gone'} within ${step.withinS} s`;
    case 'wait-state':
      return `${step.states.map((id) => nameOfTarget(index, id)).join(' or ')} within ${step.withinS} s`;
    case 'hold':
      return `wait ${step.s} s`;
    case 'ask':
    case 'ask-number':
      return step.question;
    case 'withhold':
      return index.sheet.commands?.watchdogFedBy === 'control-write'
        ? 'lose the link: its word is not repeated any more'
        : `lose the link: nothing is sent for ${step.s} s`;
    case 'return':
      return `it answers again within ${step.withinS} s`;
    case 'repeat':
      return `again from ${step.from}, until it was done ${step.times} times`;
  }
}

const nameOfTarget = ({ profile }: SheetIndex, id: string): string => {
  if (!profile) return id;
  const target = targetOf(profile, id);
  return stateOf(profile, target)?.name ?? target;
};
