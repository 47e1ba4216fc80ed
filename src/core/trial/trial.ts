import * as v from 'valibot';
import { IF_NOT, SHAFT_WAYS } from '../procedure/procedure';
import { Exact, Slug, Text, whole } from '../schema/primitives';
import { PARAMETER_ROLES } from '../sheet/parameter-section';
import { STATUS_ROLES } from '../words/spec';

/** What must come of a request that is sent as it stands. */
export const SEND_EXPECTS = ['answer', 'refusal', 'any'] as const;

/** Longest that one step waits, in seconds. */
const LONGEST_S = 3600;
const Seconds = v.pipe(v.number(), v.minValue(0), v.maxValue(LONGEST_S));

const every = {
  /** The name by which others speak of it. */
  id: Slug,
  note: v.optional(Text),
  ifNot: v.optional(v.picklist(IF_NOT)),
  /** Left out where the sheet does not have what it asks for. */
  optional: v.optional(v.boolean()),
};

/** A parameter of the sheet: by its role, or as the manual numbers it. */
export const What = v.union([v.strictObject({ role: v.picklist(PARAMETER_ROLES) }), v.strictObject({ number: Text })]);
export type What = v.InferOutput<typeof What>;

/** One step of a trial, as people say it; nothing in it belongs to one sheet, unless it names a number. */
export const TrialStepSchema = v.variant('kind', [
  /** Word by word to a state of the sheet's profile, to `running`, or to `rest`: the state in which its shaft is free. */
  v.strictObject({ ...every, kind: v.literal('walk'), to: Slug }),
  /** The sheet's stop words, and then until the shaft stands. */
  v.strictObject({ ...every, kind: v.literal('stop') }),
  /** Until the shaft stands, with no word to that end. */
  v.strictObject({ ...every, kind: v.literal('stands'), withinS: Seconds }),
  /** The speed reference: `25 %` of full scale, or a value in its unit. */
  v.strictObject({ ...every, kind: v.literal('reference'), to: Text }),
  /**
   * Sends a positioning drive to a target, by the handshake of its profile or by its own commands, and waits until it is there. `to` is in the unit that
   * the sheet gives its target, another of that kind, or in turns of the motor: `2 turns`.
   */
  v.strictObject({
    ...every,
    kind: v.literal('move'),
    to: Text,
    /** From its last target on. */
    relative: v.boolean(),
    /** The next step does not wait for the end: its move takes over on the way. */
    blended: v.optional(v.boolean()),
    withinS: Seconds,
  }),
  /** Looks for home by the method that the drive holds, until home is known. */
  v.strictObject({ ...every, kind: v.literal('home'), withinS: Seconds }),
  /** Starts a move that the drive keeps itself, by its number, and waits until it and those that follow from it are over. */
  v.strictObject({ ...every, kind: v.literal('stored-move'), number: whole(1, 256), withinS: Seconds }),
  /** The position becomes 0 where the axis stands. */
  v.strictObject({ ...every, kind: v.literal('zero') }),
  v.strictObject({ ...every, kind: v.literal('write'), what: What, to: Text }),
  v.strictObject({ ...every, kind: v.literal('read'), what: What }),
  /**
   * A request as it stands, in hex, or as a line of the drive’s own language; its check is made where it is left out. What the sheet says of it does not
   * matter.
   */
  v.strictObject({ ...every, kind: v.literal('send'), bytes: Text, expects: v.picklist(SEND_EXPECTS) }),
  /**
   * On a line of plain text: says a text, and waits until another one comes. Control characters by their names, `<CR>`; a number in place of the first `#` of
   * what is waited for; with nothing there, any answer will do.
   */
  v.strictObject({
    ...every,
    kind: v.literal('say'),
    text: Text,
    hears: v.pipe(v.string(), v.maxLength(200)),
    withinS: Seconds,
    unit: v.optional(Text),
  }),
  /** Until a value lies between two; one of them may be open. A share of full scale where it is a speed. */
  v.strictObject({
    ...every,
    kind: v.literal('wait'),
    what: What,
    from: v.nullable(Text),
    to: v.nullable(Text),
    withinS: Seconds,
  }),
  v.strictObject({
    ...every,
    kind: v.literal('wait-bit'),
    role: v.picklist(STATUS_ROLES),
    is: v.boolean(),
    withinS: Seconds,
  }),
  /** Until one bit of any value is 1, or 0: an input, an output, a flag of the drive's own program. */
  v.strictObject({
    ...every,
    kind: v.literal('wait-flag'),
    what: What,
    bit: whole(0, 31),
    is: v.boolean(),
    withinS: Seconds,
  }),
  v.strictObject({
    ...every,
    kind: v.literal('wait-state'),
    states: v.pipe(v.array(Slug), v.minLength(1), v.maxLength(16)),
    withinS: Seconds,
  }),
  v.strictObject({ ...every, kind: v.literal('hold'), s: Seconds }),
  v.strictObject({
    ...every,
    kind: v.literal('ask'),
    question: Text,
    good: v.pipe(v.array(Text), v.minLength(1), v.maxLength(6)),
    bad: v.pipe(v.array(Text), v.maxLength(6)),
  }),
  /** By a picture for each way; those that are good. */
  v.strictObject({
    ...every,
    kind: v.literal('ask-turning'),
    question: Text,
    good: v.pipe(v.array(v.picklist(SHAFT_WAYS)), v.minLength(1), v.maxLength(SHAFT_WAYS.length)),
  }),
  v.strictObject({
    ...every,
    kind: v.literal('ask-number'),
    question: Text,
    unit: v.pipe(v.string(), v.maxLength(20)),
    least: v.nullable(v.number()),
    most: v.nullable(v.number()),
  }),
  /**
   * The link is lost: the control word is not repeated any more, and where any request calms the drive's own watch, nothing at all is sent for so
   * long.
   */
  v.strictObject({ ...every, kind: v.literal('withhold'), s: Seconds }),
  /** Until the drive answers again, after a person switched it off and on or pulled a cable. */
  v.strictObject({ ...every, kind: v.literal('return'), withinS: Seconds }),
  /**
   * All steps from one on are done again, repeats among them too, until they were done so many times; or until so long passed since they began first, or
   * a bit of a value is as it should be, both looked at before each new time. The bit is looked at once then, so it must last.
   */
  v.strictObject({
    ...every,
    kind: v.literal('repeat'),
    from: Slug,
    times: whole(2, 1000),
    forS: v.optional(v.nullable(Seconds)),
    untilWhat: v.optional(v.nullable(What)),
    untilBit: v.optional(v.nullable(whole(0, 31))),
    untilIs: v.optional(v.boolean()),
  }),
]);
export type TrialStep = v.InferOutput<typeof TrialStepSchema>;

/** What a time should be: between two numbers of seconds, or a share of what a step read, give or take a share of it. */
const Should = v.union([
  v.strictObject({ leastS: Seconds, mostS: Seconds }),
  v.strictObject({ read: Slug, share: Exact, give: Exact }),
]);

/** What is worked out of the steps when they are done. */
const MeasureSchema = v.variant('kind', [
  /** From the end of one step to the end of another. */
  v.strictObject({
    kind: v.literal('time'),
    name: Text,
    from: Slug,
    to: Slug,
    should: v.optional(Should),
  }),
  /** The mean of what a repeated step read or a person said, and how far the values lie apart. */
  v.strictObject({ kind: v.literal('spread'), name: Text, seen: Slug }),
  /** Where it stood after a move, less where it was sent, each time that it was done; `from` is what was read before a relative one. */
  v.strictObject({
    kind: v.literal('arrival'),
    name: Text,
    move: Slug,
    from: v.optional(Slug),
    seen: Slug,
    /** How far off it may be, in the unit of the position. */
    within: v.optional(Text),
  }),
  /** Two steps read the same, or nearly: `within` so much, in the unit of what was read. */
  v.strictObject({ kind: v.literal('same'), name: Text, a: Slug, b: Slug, within: v.optional(Text) }),
  /** The line through what was asked for and what was seen. */
  v.strictObject({
    kind: v.literal('line'),
    name: Text,
    unit: v.pipe(v.string(), v.maxLength(20)),
    points: v.pipe(v.array(v.strictObject({ asked: Slug, seen: Slug })), v.minLength(2), v.maxLength(50)),
  }),
]);
export type Measure = v.InferOutput<typeof MeasureSchema>;

/** Steps of one trial, with its repeats done one by one. */
export const MOST_STEPS = 2000;

/** A test run as data: what is done, what is expected, and what follows where it does not come. */
export const TrialSchema = v.strictObject({
  format: v.literal(1),
  id: Slug,
  name: Text,
  proves: Text,
  /** What somebody might believe that it proves, and it does not. */
  leaves: Text,
  steps: v.pipe(v.array(TrialStepSchema), v.minLength(1), v.maxLength(500)),
  measures: v.optional(v.pipe(v.array(MeasureSchema), v.maxLength(50))),
});
export type Trial = v.InferOutput<typeof TrialSchema>;
