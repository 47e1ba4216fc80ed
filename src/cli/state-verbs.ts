import * as v from 'valibot';
import { CIA402_MODES, cia402 } from '../core/profile/cia402';
import { profileOf } from '../core/sheet/profile-of';
import { PROFIDRIVE } from '../core/profile/profidrive';
import { stateNamesOf, statesOf, targetsOf, type Profile } from '../core/profile/profile';
import { routeTo } from '../core/profile/route';
import { readWord } from '../core/words/read';
import { Id, read } from './input';
import { BadLine, type Answer, type Verb } from './protocol';
import { shippedSheet, SHEET_IDS } from './sheets';

/** A word as a number, or as text in hex such as `0x0237`. */
const Word = v.union([
  v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(0xffffffff)),
  v.pipe(
    v.string(),
    v.regex(/^(?:0x)?[0-9a-f]{1,8}$/i, 'expected a number, or hex such as "0x0237"'),
    v.transform((text) => parseInt(text, 16)),
  ),
]);

const Common = {
  ...Id,
  profile: v.string(),
  /** Mode of operation, for `cia402`. */
  mode: v.optional(v.picklist(CIA402_MODES)),
  status: Word,
};

function profileBy(id: string, mode: (typeof CIA402_MODES)[number] | undefined): Profile {
  if (id === 'cia402') return cia402(mode ?? 'velocity');
  if (id === 'profidrive') return PROFIDRIVE;
  const sheet = shippedSheet(id);
  const profile = sheet && profileOf(sheet, mode);
  if (profile) return profile;
  const known = ['cia402', 'profidrive', ...SHEET_IDS];
  throw new BadLine(
    'unknown-profile',
    sheet ? `sheet ${id} lists no states` : `there is no profile ${id}; known: ${known.join(', ')}`,
  );
}

/** Bits beyond the word mean that it was not this drive's. */
function fitting(word: number, width: number, name: string): number {
  if (word < 2 ** width) return word;
  throw new BadLine('value-out-of-range', `${name} ${word} does not fit ${width} bits`);
}

const STATE_FIELDS = Common;

function state(input: unknown): Answer {
  const { profile: id, mode, status } = read(STATE_FIELDS, input);
  const profile = profileBy(id, mode);
  const word = fitting(status, profile.status.width, 'status');
  return {
    states: stateNamesOf(profile, word),
    bits: readWord(profile.status, word).map(({ bit, name, level }) => ({ bit, name, value: level })),
  };
}

const ROUTE_FIELDS = {
  ...Common,
  target: v.string(),
  /** The control word that the drive has now; absent: not known, so that a bit that must rise first falls. */
  last: v.optional(Word),
};

function route(input: unknown): Answer {
  const { profile: id, mode, status, target, last } = read(ROUTE_FIELDS, input);
  const profile = profileBy(id, mode);
  const word = fitting(status, profile.status.width, 'status');
  const from = statesOf(profile, word).map((found) => found.id);
  if (!targetsOf(profile).includes(target))
    throw new BadLine('unknown-target', `${target} is no target; known: ${targetsOf(profile).join(', ')}`);
  const found = routeTo(
    profile,
    from,
    last === undefined ? null : fitting(last, profile.control.width, 'last'),
    target,
  );
  if (found.kind === 'none') throw new BadLine('no-route', found.why);
  return {
    steps: found.steps.map(({ word: next, raises, drops, expects, turns }) => ({
      word: next,
      raises,
      drops,
      expects,
      turns,
    })),
  };
}

export const STATE_VERBS: Readonly<Record<string, Verb>> = {
  state: {
    help: 'which states a status word allows, and each of its bits; several where it leaves it open, none where no state looks so',
    example: '{"profile":"cia402","status":"0x0237"}',
    run: state,
  },
  route: {
    help: 'the shortest list of control words from a status to a state (or to "running"), with the bits that change and the states expected',
    example: '{"profile":"profidrive","status":"0x0231","target":"S4"}',
    run: route,
  },
};
