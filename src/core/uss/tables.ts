/**
 * The parameter channel's numbers as data. Source: the published description of the universal serial interface protocol, from memory.
 */

/** How much of the PWE a task or an answer uses, and whether IND names an element of an array. */
export type Carries = 'nothing' | 'word' | 'double' | 'description' | 'count' | 'text' | 'refusal';

export interface IdSpec {
  readonly name: string;
  readonly carries: Carries;
  readonly array?: boolean;
  /** The value is stored in non-volatile memory as well. */
  readonly stores?: boolean;
}

/** Task ids, master to drive; 10 is not used. */
export const TASKS: Readonly<Partial<Record<number, IdSpec>>> = {
  0: { name: 'no task', carries: 'nothing' },
  1: { name: 'read', carries: 'nothing' },
  2: { name: 'write word', carries: 'word' },
  3: { name: 'write double word', carries: 'double' },
  4: { name: 'read description element', carries: 'nothing' },
  5: { name: 'write description element', carries: 'description' },
  6: { name: 'read array element', carries: 'nothing', array: true },
  7: { name: 'write array word', carries: 'word', array: true },
  8: { name: 'write array double word', carries: 'double', array: true },
  9: { name: 'read number of array elements', carries: 'nothing' },
  11: { name: 'write array double word and store', carries: 'double', array: true, stores: true },
  12: { name: 'write array word and store', carries: 'word', array: true, stores: true },
  13: { name: 'write double word and store', carries: 'double', stores: true },
  14: { name: 'write word and store', carries: 'word', stores: true },
  15: { name: 'read or change text', carries: 'text' },
};

/** Response ids, drive to master; 13 and 14 are not used. */
export const RESPONSES: Readonly<Partial<Record<number, IdSpec>>> = {
  0: { name: 'no answer', carries: 'nothing' },
  1: { name: 'word', carries: 'word' },
  2: { name: 'double word', carries: 'double' },
  3: { name: 'description element', carries: 'description' },
  4: { name: 'array word', carries: 'word', array: true },
  5: { name: 'array double word', carries: 'double', array: true },
  6: { name: 'number of array elements', carries: 'count' },
  7: { name: 'refused', carries: 'refusal' },
  8: { name: 'no right to change by this channel', carries: 'nothing' },
  9: { name: 'change report, word', carries: 'word' },
  10: { name: 'change report, double word', carries: 'double' },
  11: { name: 'change report, array word', carries: 'word', array: true },
  12: { name: 'change report, array double word', carries: 'double', array: true },
  15: { name: 'text', carries: 'text' },
};

export const REFUSED = 7;
export const NO_RIGHT = 8;
export const CHANGE_REPORTS: ReadonlySet<number> = new Set([9, 10, 11, 12]);

/** Which answers end a task (beside 7 and 8). */
export const ANSWERS_TO: Readonly<Partial<Record<number, readonly number[]>>> = {
  0: [0],
  1: [1, 2],
  2: [1],
  3: [2],
  4: [3],
  5: [3],
  6: [4, 5],
  7: [4],
  8: [5],
  9: [6],
  11: [5],
  12: [4],
  13: [2],
  14: [1],
  15: [15],
};

/** Error numbers of a refusal. */
export const REFUSALS: Readonly<Partial<Record<number, string>>> = {
  0: 'there is no parameter of this number',
  1: 'the parameter cannot be changed',
  2: 'the value is outside its limits',
  3: 'the index does not exist',
  4: 'the parameter is no array',
  5: 'the type of the value is wrong',
  6: 'it may only be reset, not set',
  7: 'the description element cannot be changed',
  9: 'there is no description',
  10: 'the access group is wrong',
  11: 'no right to change',
  12: 'the password is wrong',
  15: 'there is no text',
  17: 'not in this operating state',
  18: 'another fault',
};

/** What a refusal’s number means; a sentence too for one that the published list does not have. */
export const refusalText = (number: number): string =>
  REFUSALS[number] ?? `error ${number}, which the published list does not have`;
