import * as v from 'valibot';
import { FACING, SHAFT_WAYS } from '../procedure/procedure';
import { STATUS_ROLES } from '../words/spec';
import { PARAMETER_ROLES } from '../sheet/parameter-section';
import { SEND_EXPECTS, What, type TrialStep } from './trial';

type Kind = TrialStep['kind'];

/** One field of a step as it is typed. `what`: a role or a number of the sheet; `answers`: parted by a bar. */
export interface StepField {
  readonly key: string;
  readonly label: string;
  readonly as:
    | 'text'
    | 'any-text'
    | 'no-text'
    | 'open-text'
    | 'number'
    | 'open-number'
    | 'what'
    | 'open-what'
    | 'answers'
    | 'ways'
    | 'states'
    | 'level'
    | 'origin'
    | 'blend'
    | 'expects'
    | 'status-role';
  readonly width: number;
}

interface StepForm {
  readonly name: string;
  readonly fields: readonly StepField[];
  /** What a new one begins as. */
  readonly begin: (id: string) => TrialStep;
}

const within: StepField = { key: 'withinS', label: 'within, s', as: 'number', width: 90 };
const what: StepField = { key: 'what', label: 'of what', as: 'what', width: 160 };
const to: StepField = { key: 'to', label: 'to', as: 'text', width: 110 };
const SPEED: What = { role: 'actual-speed' };

/** From where a way is counted, and what happens at a move's end. */
export const ORIGINS = ['its last target', 'its zero'] as const;
/** What must come of a request that is sent as it stands, in the order of `SEND_EXPECTS`. */
export const EXPECTS: readonly string[] = ['a good answer', 'a refusal', 'anything'];
export const BLENDS = ['it stands there', 'the next takes over'] as const;

/** What can be done in a trial, and what must be said for it. */
export const STEP_FORMS: Readonly<Record<Kind, StepForm>> = {
  reference: { name: 'speed reference', fields: [to], begin: (id) => ({ id, kind: 'reference', to: '25 %' }) },
  walk: {
    name: 'walk to a state',
    fields: [{ ...to, width: 160 }],
    begin: (id) => ({ id, kind: 'walk', to: 'running' }),
  },
  move: {
    name: 'move to a position',
    fields: [
      { ...to, label: 'where to, or by' },
      { key: 'relative', label: 'from', as: 'origin', width: 150 },
      { key: 'blended', label: 'its end', as: 'blend', width: 200 },
      within,
    ],
    begin: (id) => ({ id, kind: 'move', to: '1 turn', relative: true, withinS: 30 }),
  },
  home: { name: 'look for home', fields: [within], begin: (id) => ({ id, kind: 'home', withinS: 120 }) },
  'stored-move': {
    name: 'start a stored move',
    fields: [{ key: 'number', label: 'its number', as: 'number', width: 100 }, within],
    begin: (id) => ({ id, kind: 'stored-move', number: 1, withinS: 60 }),
  },
  zero: { name: 'this is zero', fields: [], begin: (id) => ({ id, kind: 'zero' }) },
  stop: { name: 'stop', fields: [], begin: (id) => ({ id, kind: 'stop' }) },
  wait: {
    name: 'wait for a value',
    fields: [
      what,
      { key: 'from', label: 'at least', as: 'open-text', width: 100 },
      { key: 'to', label: 'at most', as: 'open-text', width: 100 },
      within,
    ],
    begin: (id) => ({ id, kind: 'wait', what: SPEED, from: '20 %', to: null, withinS: 30 }),
  },
  'wait-bit': {
    name: 'wait for a status bit',
    fields: [
      { key: 'role', label: 'bit', as: 'status-role', width: 150 },
      { key: 'is', label: 'is', as: 'level', width: 90 },
      within,
    ],
    begin: (id) => ({ id, kind: 'wait-bit', role: 'fault', is: false, withinS: 10 }),
  },
  'wait-flag': {
    name: 'wait for a bit of a value',
    fields: [
      what,
      { key: 'bit', label: 'bit', as: 'number', width: 70 },
      { key: 'is', label: 'is', as: 'level', width: 90 },
      within,
    ],
    begin: (id) => ({ id, kind: 'wait-flag', what: { role: 'axis-inputs' }, bit: 0, is: true, withinS: 10 }),
  },
  'wait-state': {
    name: 'wait for a state',
    fields: [{ key: 'states', label: 'states, by their names in the sheet', as: 'states', width: 260 }, within],
    begin: (id) => ({ id, kind: 'wait-state', states: ['ready'], withinS: 10 }),
  },
  stands: { name: 'wait until it stands', fields: [within], begin: (id) => ({ id, kind: 'stands', withinS: 30 }) },
  hold: {
    name: 'wait a while',
    fields: [{ key: 's', label: 'seconds', as: 'number', width: 90 }],
    begin: (id) => ({ id, kind: 'hold', s: 2 }),
  },
  read: { name: 'read a value', fields: [what], begin: (id) => ({ id, kind: 'read', what: SPEED }) },
  send: {
    name: 'send a request as it stands',
    fields: [
      { key: 'bytes', label: 'in hex, or as a line', as: 'text', width: 260 },
      { key: 'expects', label: 'must come of it', as: 'expects', width: 170 },
    ],
    begin: (id) => ({ id, kind: 'send', bytes: '01 03 00 00 00 01', expects: 'answer' }),
  },
  say: {
    name: 'say a text, on a line of plain text',
    fields: [
      { key: 'text', label: 'text, such as mo<CR>', as: 'text', width: 200 },
      { key: 'hears', label: 'until this comes; # is a number', as: 'any-text', width: 240 },
      within,
      { key: 'unit', label: 'unit of the number', as: 'no-text', width: 130 },
    ],
    begin: (id) => ({ id, kind: 'say', text: '?<CR>', hears: '', withinS: 5 }),
  },
  write: {
    name: 'write a value',
    fields: [what, to],
    begin: (id) => ({ id, kind: 'write', what: { role: 'ramp-time' }, to: '5' }),
  },
  ask: {
    name: 'ask a person',
    fields: [
      { key: 'question', label: 'question', as: 'text', width: 300 },
      { key: 'good', label: 'good answers, parted by |', as: 'answers', width: 200 },
      { key: 'bad', label: 'bad answers, parted by |', as: 'answers', width: 200 },
    ],
    begin: (id) => ({ id, kind: 'ask', question: 'Is it as it should be?', good: ['it is'], bad: ['it is not'] }),
  },
  'ask-turning': {
    name: 'ask which way it turns',
    fields: [
      { key: 'question', label: 'question', as: 'text', width: 300 },
      { key: 'good', label: `good ways, parted by |`, as: 'ways', width: 260 },
    ],
    begin: (id) => ({ id, kind: 'ask-turning', question: FACING, good: ['clockwise'] }),
  },
  'ask-number': {
    name: 'ask for a number',
    fields: [
      { key: 'question', label: 'question', as: 'text', width: 300 },
      { key: 'unit', label: 'unit', as: 'text', width: 80 },
      { key: 'least', label: 'at least', as: 'open-number', width: 90 },
      { key: 'most', label: 'at most', as: 'open-number', width: 90 },
    ],
    begin: (id) => ({ id, kind: 'ask-number', question: 'What does it show?', unit: 'rpm', least: null, most: null }),
  },
  withhold: {
    name: 'lose the link',
    fields: [{ key: 's', label: 'seconds of silence, where any request is heard', as: 'number', width: 200 }],
    begin: (id) => ({ id, kind: 'withhold', s: 10 }),
  },
  return: {
    name: 'wait until it answers again',
    fields: [within],
    begin: (id) => ({ id, kind: 'return', withinS: 120 }),
  },
  repeat: {
    name: 'repeat from a step',
    fields: [
      { key: 'from', label: 'from the step called', as: 'text', width: 150 },
      { key: 'times', label: 'done so many times', as: 'number', width: 140 },
      { key: 'forS', label: 'or until, s, are over', as: 'open-number', width: 140 },
      { key: 'untilWhat', label: 'or until of what', as: 'open-what', width: 160 },
      { key: 'untilBit', label: 'bit', as: 'open-number', width: 70 },
      { key: 'untilIs', label: 'is', as: 'level', width: 90 },
    ],
    begin: (id) => ({
      id,
      kind: 'repeat',
      from: 'first',
      times: 3,
      forS: null,
      untilWhat: null,
      untilBit: 0,
      untilIs: true,
    }),
  },
};

const isOneOf = <T extends string>(list: readonly T[], text: string): text is T =>
  (list as readonly string[]).includes(text);

/** A role where it is one, else a number of the sheet. */
const whatOfText = (text: string): What => {
  const role = text.trim().toLowerCase().replaceAll(' ', '-');
  return isOneOf(PARAMETER_ROLES, role) ? { role } : { number: text.trim() };
};

const numberIn = (text: string): number => (text.trim() === '' ? NaN : Number(text.trim().replace(',', '.')));
const listIn = (text: string, mark: RegExp): readonly string[] =>
  text
    .split(mark)
    .map((one) => one.trim())
    .filter((one) => one !== '');

/** What a field takes, for people; it is said where what is typed is none of it. */
export const FIELD_TAKES: Readonly<Record<StepField['as'], string>> = {
  text: 'some text, of at most 200 letters',
  'any-text': 'some text, of at most 200 letters, or nothing',
  'no-text': 'some text, or nothing',
  'open-text': 'a value, or nothing',
  number: 'a number that is not too large here',
  'open-number': 'a number, or nothing',
  what: 'a role, or the number of an entry of the sheet',
  'open-what': 'a role, the number of an entry of the sheet, or nothing',
  answers: 'one answer at least, at most six, parted by |',
  ways: `one of ${SHAFT_WAYS.join(', ')} at least, parted by |`,
  states: 'one state at least, at most sixteen, parted by commas',
  level: 'there, or gone',
  origin: 'one of the list',
  blend: 'one of the list',
  expects: 'one of the list',
  'status-role': 'one of the list',
};

/** What is typed into a field as the step has it; the schema judges it afterwards. */
export function fieldValue(as: StepField['as'], text: string): unknown {
  switch (as) {
    case 'text':
    case 'any-text':
      return text;
    case 'no-text':
      return text.trim() === '' ? undefined : text;
    case 'open-text':
      return text.trim() === '' ? null : text;
    case 'number':
      return numberIn(text);
    case 'open-number':
      return text.trim() === '' ? null : numberIn(text);
    case 'what':
      return whatOfText(text);
    case 'open-what':
      return text.trim() === '' ? null : whatOfText(text);
    case 'answers':
    case 'ways':
      return listIn(text, /\|/);
    case 'states':
      return listIn(text, /[,|]/);
    case 'level':
      return text === 'there';
    case 'origin':
      return text === ORIGINS[0];
    case 'expects':
      return SEND_EXPECTS[EXPECTS.indexOf(text)] ?? '';
    case 'blend':
      return text === BLENDS[1] ? true : undefined;
    case 'status-role':
      return isOneOf(STATUS_ROLES, text) ? text : '';
  }
}

/** The same the other way. */
export function fieldText(as: StepField['as'], value: unknown): string {
  if (Array.isArray(value)) return value.join(as === 'states' ? ', ' : ' | ');
  if (as === 'level') return value === true ? 'there' : 'gone';
  if (as === 'origin') return ORIGINS[value === true ? 0 : 1];
  if (as === 'expects') return EXPECTS[SEND_EXPECTS.findIndex((one) => one === value)] ?? '';
  if (as === 'blend') return BLENDS[value === true ? 1 : 0];
  const what = v.safeParse(What, value);
  if (what.success) return 'role' in what.output ? what.output.role : what.output.number;
  return typeof value === 'string' || typeof value === 'number' ? `${value}` : '';
}
