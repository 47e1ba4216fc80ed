import { TASKS } from './tables';

/** A parameter as far as its task depends on it. */
export interface UssKind {
  readonly double: boolean;
  /** How many elements; 1 = no array. */
  readonly elements: number;
}

/** What is done with a parameter. */
export type UssAct = 'read' | 'working' | 'kept' | 'count' | 'describe' | 'redescribe' | 'text';

/** Task ids of an act for a word, a double word, an element of an array of words, of double words (the published description, from memory). */
const IDS: Readonly<Record<UssAct, readonly [number, number, number, number]>> = {
  read: [1, 1, 6, 6],
  working: [2, 3, 7, 8],
  kept: [14, 13, 12, 11],
  count: [9, 9, 9, 9],
  describe: [4, 4, 4, 4],
  redescribe: [5, 5, 5, 5],
  text: [15, 15, 15, 15],
};

/** The task id of an act; the sheet says whether the parameter is a word or a double word, and an array or not. */
export const taskId = (act: UssAct, { double, elements }: UssKind): number =>
  IDS[act][(elements > 1 ? 2 : 0) + (double ? 1 : 0)] as number;

/** The act that a task id does; null for no task and for ids that are not used. */
export const actOfTask = (id: number): UssAct | null =>
  (Object.keys(IDS) as UssAct[]).find((act) => IDS[act].includes(id)) ?? null;

/** What a task id says of its parameter: double words, elements of an array. */
export const kindOfTask = (id: number): { readonly double: boolean; readonly array: boolean } => ({
  double: TASKS[id]?.carries === 'double',
  array: TASKS[id]?.array === true,
});
