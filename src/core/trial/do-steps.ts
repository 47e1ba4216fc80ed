import { literalBytes, wideIn } from '../dialect/literal';
import { levelOfRole } from '../procedure/route-procedure';
import { SHAFT_WAYS, type ProcedureStep } from '../procedure/procedure';
import { RUNNING, turnsIn } from '../profile/profile';
import { done, failed, type Result } from '../result';
import { patternOfCells } from '../drive/seen';
import { readTyped } from '../sets/typed-value';
import { numberOfPattern } from '../values/pattern';
import { turnAt } from './goal';
import { homeSteps, zeroSteps } from './home-steps';
import { moveSteps } from './move-steps';
import { sendSteps } from './send-steps';
import { storedMoveSteps } from './stored-steps';
import { numberFor, parameterOf, patternFor, whatText } from './place-value';
import {
  gathered,
  give,
  heldAt,
  missing,
  narrow,
  stands,
  walk,
  watchOf,
  wordText,
  written,
  type At,
  type Made,
  type TrialWay,
} from './requests';
import { targetOf } from './states';
import { flagText, rangeText } from './step-text';
import type { TrialStep } from './trial';

const RETURN_EVERY_US = 400_000;

type Doing = {
  readonly [K in TrialStep['kind']]: (step: Extract<TrialStep, { kind: K }>, way: TrialWay, at: At) => Made;
};
/** Each kind of step as requests; it also says in `at` what is known of the drive after it. */
export const DO: Doing = {
  walk: ({ to }, way, at) => {
    const { profile } = way.index;
    if (!profile) return failed('the sheet lists no states');
    const inMode = at.mode === undefined ? profile : (way.index.modes.get(at.mode)?.profile ?? profile);
    if (to === RUNNING && (inMode.takes ?? 'speed') !== 'speed')
      return failed('in this mode the word that runs starts a move to the target that the drive holds: use a move');
    if (to === RUNNING) at.position = undefined;
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
    // A move that a stop cuts off ends somewhere.
    if (at.isUnderWay) at.position = undefined;
    at.turns = at.isUnderWay = false;
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
    const pattern = patternFor(way.index, place, to, heldAt(way, at));
    if (!pattern.ok) return pattern;
    return gathered([give(way, at, 'speed-reference', pattern.value, `speed reference ${to}`)]);
  },
  move: (step, way, at) => moveSteps(step, way, at),
  home: (step, way, at) => homeSteps(step, way, at),
  'stored-move': (step, way, at) => storedMoveSteps(step, way, at),
  zero: (_, way, at) => zeroSteps(way, at),
  write: ({ what, to }, way, at) => {
    const place = parameterOf(way.index, what);
    if (!place) return missing(way, what);
    const words = readTyped(way.index, place, to, heldAt(way, at));
    if (!words.ok) return words;
    const pattern = patternOfCells(place, words.value);
    const text = `${place.number} ← ${to}`;
    // What the way of the states rests on is remembered, however it was written.
    if (pattern !== null && (place.role === 'control-word' || place.role === 'speed-reference'))
      return gathered([give(way, at, place.role, pattern, text)]);
    if (pattern !== null) at.given.set(place.number, pattern);
    if (pattern !== null && place.role === 'mode') at.mode = numberOfPattern(place.type, pattern);
    return gathered([written(way, at, place, words.value, text)]);
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
  wait: ({ what, from, to, withinS }, way, at) => {
    const place = parameterOf(way.index, what);
    if (!place) return missing(way, what);
    const ends = [from, to].map((text) =>
      text === null ? done(null) : numberFor(way.index, place, text, heldAt(way, at)),
    );
    const bad = ends.find((end) => !end.ok);
    if (bad && !bad.ok) return bad;
    const [low, high] = ends.map((end) => (end.ok ? end.value : null));
    const [a, b] = [low ?? -Number.MAX_VALUE, high ?? Number.MAX_VALUE];
    const turn = low === null || high === null ? {} : turnAt(way.index, place);
    const range = { type: place.type, least: Math.min(a, b), most: Math.max(a, b), ...turn };
    const text = rangeText(way.index, what, from, to);
    return gathered([watchOf(way, { place, any: [], range }, { text, withinUs: withinS * 1e6 })]);
  },
  say: ({ text, hears, withinS }, way, at) => {
    if (way.isText !== true)
      return failed('this is no line of plain text: send a request as it stands, or read and write');
    const wide = wideIn(text) ?? wideIn(hears);
    if (wide !== null) return failed(`“${wide}” is no character of eight bits: a line of plain text cannot carry it`);
    // Nobody knows from here what a menu does with it.
    at.turns = true;
    const bytes = literalBytes(text);
    return done([{ kind: 'say', text: `say ${text}`, station: way.station, bytes, hears, withinUs: withinS * 1e6 }]);
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
  'wait-flag': ({ what, bit, is, withinS }, way) => {
    const place = parameterOf(way.index, what);
    if (!place) return missing(way, what);
    const mask = (1 << bit) >>> 0;
    if (place.cells.length * 16 <= bit && place.place.kind !== 'command')
      return failed(`${place.number} ${place.name} has no bit ${bit}`);
    const text = flagText(way.index, what, bit, is);
    return gathered([
      watchOf(way, { place, any: [{ mask, value: is ? mask : 0 }] }, { text, withinUs: withinS * 1e6 }),
    ]);
  },
  send: (step, way, at) => sendSteps(step, way, at),
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
  'ask-turning': ({ question, good }) =>
    done([
      {
        kind: 'person',
        text: question,
        question,
        picture: 'shaft',
        choices: SHAFT_WAYS.map((name) => ({ name, goesOn: good.includes(name) })),
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
        ? [done<ProcedureStep>({ kind: 'pause', text: `nothing is sent to it for ${s} s`, us: s * 1e6, silent: true })]
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
  repeat: ({ forS, untilWhat, untilBit, untilIs = false }, way, at) => {
    const looks: Made[] = [];
    // What is left out, and since when it counts, is told when all steps are known.
    if (forS !== null && forS !== undefined)
      looks.push(
        done([{ kind: 'pause', text: `${forS} s are over`, us: 0, leaves: { since: 0, us: forS * 1e6, to: 0 } }]),
      );
    if (untilWhat)
      looks.push(
        DO['wait-flag'](
          { id: '', kind: 'wait-flag', what: untilWhat, bit: untilBit ?? 0, is: untilIs, withinS: 1 },
          way,
          at,
        ),
      );
    const bad = looks.find((look) => !look.ok);
    return bad && !bad.ok ? bad : done(looks.flatMap((look) => (look.ok ? look.value : [])));
  },
};

/** The word that the drive holds, once more: its watch begins anew just then. */
const lastWord = (way: TrialWay, at: At): readonly Result<ProcedureStep, string>[] =>
  at.word === null ? [] : [give(way, at, 'control-word', at.word, `${wordText(way, at.word)} for the last time`)];
