import { STOP, STOP_FIRST } from './stop-first';
import type { Trial, TrialStep } from './trial';

const POSITION = { role: 'actual-position' } as const;
const read = (id: string): TrialStep => ({ id, kind: 'read', what: POSITION });
const by = (id: string, to: string): TrialStep => ({ id, kind: 'move', to, relative: true, withinS: 60 });
const SEEN = (question: string): TrialStep => ({
  id: 'seen',
  kind: 'ask',
  question,
  good: ['it did'],
  bad: ['the other way', 'it did not move', 'something else'],
});
/** A hundredth of a turn: beyond what a window lets stand, below what an eye sees. */
const NEAR = '1/100 turns';

/** Trials of drives that are sent to positions; ways are said in turns of the motor, since no unit of a load is everybody's. */
export const POSITIONING_TRIALS: readonly Trial[] = [
  {
    format: 1,
    id: 'home',
    name: 'Home',
    proves: 'By the method that it holds the drive finds home, and shows there what its offset says.',
    leaves: 'That home is where the machine wants it: measure that on the machine.',
    steps: [
      STOP_FIRST,
      { id: 'method', kind: 'read', what: { role: 'homing-method' }, optional: true },
      { id: 'offset', kind: 'read', what: { role: 'home-offset' }, optional: true },
      { id: 'home', kind: 'home', withinS: 300 },
      read('at-home'),
      {
        id: 'seen',
        kind: 'ask',
        question: 'Does the axis stand at its mark for home?',
        good: ['it does', 'there is no mark'],
        bad: ['it stands elsewhere'],
        ifNot: 'go-on',
      },
      STOP,
    ],
    measures: [{ kind: 'time', name: 'from the start of homing to home', from: 'home', to: 'home' }],
  },
  {
    format: 1,
    id: 'this-is-zero',
    name: 'This is zero',
    proves: 'The place where the axis stands becomes its zero, with no motion.',
    leaves: 'Whether it is still zero after power off and on: that is in the manual, and can be tried.',
    steps: [
      STOP_FIRST,
      read('before'),
      {
        id: 'right-place',
        kind: 'ask',
        question:
          'Does the axis stand where its zero shall be? Every target, limit and stored place counts from there.',
        good: ['it stands there'],
        bad: ['it does not'],
      },
      {
        id: 'zero',
        kind: 'zero',
        note: 'A drive that homes on the spot gets another method and no offset for that time: should it break off, look at both in Registers.',
      },
      { id: 'shows', kind: 'wait', what: POSITION, from: '-1/100 turns', to: '1/100 turns', withinS: 5 },
      STOP,
    ],
  },
  {
    format: 1,
    id: 'short-move',
    name: 'A short move',
    proves: 'One turn of the motor moves the load the way and the distance that the sheet says, and back again.',
    leaves: 'Long moves and full speed: a short one never reaches it.',
    steps: [
      STOP_FIRST,
      read('before'),
      by('there', '1 turn'),
      read('after'),
      SEEN('Did it move a little, the way in which the position rises?'),
      by('back', '-1 turn'),
      read('again'),
      STOP,
    ],
    measures: [
      { kind: 'arrival', name: 'off after one turn', move: 'there', from: 'before', seen: 'after', within: NEAR },
      { kind: 'time', name: 'from the set-point to the target', from: 'there', to: 'there' },
    ],
  },
  {
    format: 1,
    id: 'there-and-back',
    name: 'There and back',
    proves: 'A positioning drive takes a target, gets there, and comes back to where it was, three times.',
    leaves: 'Its limits, its homing, and what a load does to it.',
    steps: [
      STOP_FIRST,
      read('before'),
      by('there', '2 turns'),
      { id: 'dwell', kind: 'hold', s: 1 },
      by('back', '-2 turns'),
      { id: 'three-times', kind: 'repeat', from: 'there', times: 3 },
      read('after'),
      SEEN('Did the machine go there and back three times, the right way first?'),
      STOP,
    ],
    measures: [
      { kind: 'same', name: 'the position before and after', a: 'before', b: 'after', within: NEAR },
      { kind: 'time', name: 'from the set-point to the target', from: 'there', to: 'there' },
    ],
  },
  {
    format: 1,
    id: 'limits',
    name: 'Limits',
    proves: 'The whole way between the software limits is free, and the axis stands at each of them.',
    leaves: 'The end switches behind them: press each by hand and see its input change in Registers, before any move.',
    steps: [
      STOP_FIRST,
      { id: 'least', kind: 'read', what: { role: 'position-least' } },
      { id: 'most', kind: 'read', what: { role: 'position-most' } },
      {
        id: 'free',
        kind: 'ask',
        question: 'It will go to both of its limits. Is the whole way free?',
        good: ['it is free'],
        bad: ['it is not'],
      },
      { id: 'to-highest', kind: 'move', to: 'highest', relative: false, withinS: 300 },
      read('at-highest'),
      { id: 'to-lowest', kind: 'move', to: 'lowest', relative: false, withinS: 300 },
      read('at-lowest'),
      STOP,
    ],
    measures: [
      { kind: 'same', name: 'the highest position, set and reached', a: 'most', b: 'at-highest', within: NEAR },
      { kind: 'same', name: 'the lowest position, set and reached', a: 'least', b: 'at-lowest', within: NEAR },
    ],
  },
  {
    format: 1,
    id: 'repeatability',
    name: 'Repeatability',
    proves: 'From the same side it comes back to the same place, ten times, by its own count and by a gauge.',
    leaves: 'The other side: what play there is shows when it comes from there.',
    steps: [
      STOP_FIRST,
      read('before'),
      by('away', '2 turns'),
      by('back', '-2 turns'),
      { id: 'rest', kind: 'hold', s: 0.5 },
      read('told'),
      { id: 'ten-times', kind: 'repeat', from: 'away', times: 10 },
      {
        id: 'gauge',
        kind: 'ask',
        question: 'Does a gauge at the place show the same as before?',
        good: ['the same', 'there is no gauge'],
        bad: ['something else'],
        ifNot: 'go-on',
      },
      STOP,
    ],
    measures: [
      { kind: 'spread', name: 'where it came back to', seen: 'told' },
      { kind: 'time', name: 'from the set-point to the target', from: 'back', to: 'back' },
    ],
  },
  {
    format: 1,
    id: 'sequence',
    name: 'A sequence',
    proves: 'It goes on from move to move with its dwells, round after round, and ends where it began.',
    leaves: 'What starts it in the plant: an input, a controller, another axis.',
    steps: [
      STOP_FIRST,
      read('before'),
      by('first', '1 turn'),
      { id: 'dwell', kind: 'hold', s: 0.5 },
      by('second', '2 turns'),
      { id: 'dwell-2', kind: 'hold', s: 0.5 },
      by('back', '-3 turns'),
      { id: 'rounds', kind: 'repeat', from: 'first', times: 4 },
      read('after'),
      STOP,
    ],
    measures: [{ kind: 'same', name: 'the position before and after', a: 'before', b: 'after', within: NEAR }],
  },
];
