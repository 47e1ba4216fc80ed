/** One signal of a telegram: so many words from a place on, counted in words. */
export interface TelegramItem {
  readonly signal: string;
  readonly name: string;
  readonly words: 1 | 2;
}

export interface Telegram {
  readonly number: number;
  readonly what: string;
  readonly out: readonly TelegramItem[];
  readonly in: readonly TelegramItem[];
  /** What is remembered of it is less sure than of the others: whoever uses it is told to compare it with the manual. */
  readonly isUnsure?: true;
}

/** How a telegram that is not sure is told. */
export const UNSURE = 'layout not sure: compare it with the manual';

const item = (signal: string, name: string, words: 1 | 2 = 1): TelegramItem => ({ signal, name, words });

const STW1 = item('STW1', 'control word 1');
const ZSW1 = item('ZSW1', 'status word 1');
const STW2 = item('STW2', 'control word 2');
const ZSW2 = item('ZSW2', 'status word 2');
const SETPOINT_A = item('NSOLL_A', 'speed set-point, 16 bits, N2');
const ACTUAL_A = item('NIST_A', 'speed actual value, 16 bits, N2');
const SETPOINT_B = item('NSOLL_B', 'speed set-point, 32 bits, N4', 2);
const ACTUAL_B = item('NIST_B', 'speed actual value, 32 bits, N4', 2);
const DIFFERENCE = item('XERR', 'position difference', 2);
const GAIN = item('KPC', 'gain of the position controller', 2);

const CHOSEN_BLOCK = item('SATZANW', 'choice of a stored block');
const ACTUAL_POSITION = item('XIST_A', 'actual position', 2);
const PRESENT_BLOCK = item('AKTSATZ', 'stored block under way');

const encoderOut = (number: 1 | 2): TelegramItem => item(`G${number}_STW`, `control word of encoder ${number}`);
const encoderIn = (number: 1 | 2): readonly TelegramItem[] => [
  item(`G${number}_ZSW`, `status word of encoder ${number}`),
  item(`G${number}_XIST1`, `position 1 of encoder ${number}`, 2),
  item(`G${number}_XIST2`, `position 2 of encoder ${number}`, 2),
];

const HEAD_OUT = [STW1, SETPOINT_B, STW2];
const HEAD_IN = [ZSW1, ACTUAL_B, ZSW2];
const ONE_ENCODER = [...HEAD_IN, ...encoderIn(1)];
const TWO_ENCODERS = [...ONE_ENCODER, ...encoderIn(2)];

/**
 * Standard telegrams 1 to 9 and 20 of IEC 61800-7-203 (PROFIdrive), from memory of the published tables. Of number 8 only its signals are remembered for
 * sure, not their order.
 */
export const TELEGRAMS: readonly Telegram[] = [
  { number: 1, what: 'speed, 16 bits', out: [STW1, SETPOINT_A], in: [ZSW1, ACTUAL_A] },
  { number: 2, what: 'speed, 32 bits', out: HEAD_OUT, in: HEAD_IN },
  { number: 3, what: 'speed, 32 bits, one encoder', out: [...HEAD_OUT, encoderOut(1)], in: ONE_ENCODER },
  {
    number: 4,
    what: 'speed, 32 bits, two encoders',
    out: [...HEAD_OUT, encoderOut(1), encoderOut(2)],
    in: TWO_ENCODERS,
  },
  {
    number: 5,
    what: 'speed, 32 bits, one encoder, dynamic servo control',
    out: [...HEAD_OUT, encoderOut(1), DIFFERENCE, GAIN],
    in: ONE_ENCODER,
  },
  {
    number: 6,
    what: 'speed, 32 bits, two encoders, dynamic servo control',
    out: [...HEAD_OUT, encoderOut(1), encoderOut(2), DIFFERENCE, GAIN],
    in: TWO_ENCODERS,
  },
  { number: 7, what: 'positioning by stored blocks', out: [STW1, CHOSEN_BLOCK], in: [ZSW1, PRESENT_BLOCK] },
  {
    number: 8,
    what: 'positioning by target and speed',
    out: [STW1, item('TARPOS_A', 'target position', 2), item('VELOCITY_A', 'speed of the move', 2)],
    in: [ZSW1, ACTUAL_POSITION],
    isUnsure: true,
  },
  {
    number: 9,
    what: 'positioning by direct input',
    out: [
      STW1,
      CHOSEN_BLOCK,
      STW2,
      item('MDI_TARPOS', 'target position', 2),
      item('MDI_VELOCITY', 'speed of the move', 2),
      item('MDI_ACC', 'acceleration of the move'),
      item('MDI_DEC', 'deceleration of the move'),
      item('MDI_MOD', 'mode of the move'),
    ],
    in: [ZSW1, PRESENT_BLOCK, ZSW2, ACTUAL_POSITION],
  },
  {
    number: 20,
    what: 'speed, 16 bits, process technology',
    out: [STW1, SETPOINT_A],
    in: [
      ZSW1,
      item('NIST_A_GLATT', 'speed actual value, smoothed, N2'),
      item('IAIST_GLATT', 'current, smoothed, N2'),
      item('MIST_GLATT', 'torque, smoothed, N2'),
      item('PIST_GLATT', 'power, smoothed, N2'),
      item('MELD_NAMUR', 'bits of faults'),
    ],
  },
];

/** Words of 16 bits that the items of a telegram take. */
export const wordsIn = (items: readonly TelegramItem[]): number => items.reduce((sum, { words }) => sum + words, 0);

/** Items with the word at which each begins, counted from 0. */
export const placed = (items: readonly TelegramItem[]): readonly (TelegramItem & { readonly at: number })[] =>
  items.map((one, i) => ({ ...one, at: wordsIn(items.slice(0, i)) }));
