import { onceFor } from '../once-for';
import type { SheetIndex } from '../sheet/index-sheet';
import { wordsOfRaw, type Said, type SaidOf } from './said';

/** Who says the values: `plan` is what is to be written, and nobody has said it yet. */
export type WitnessKind = 'default' | 'drive' | 'visit' | 'file' | 'plan';

/** Somebody who says what values a drive has, read with the sheet that they had when they said it. */
export interface Witness {
  readonly id: string;
  readonly kind: WitnessKind;
  /** As it stands above its column: `the factory`, `the drive now`. */
  readonly name: string;
  readonly index: SheetIndex;
  readonly said: SaidOf;
}

/** What the sheet says that the drive leaves the factory with. */
export const defaultWitness = onceFor((index: SheetIndex): Witness => ({
  id: 'default',
  kind: 'default',
  name: 'the factory',
  index,
  said: new Map(
    index.parameters.flatMap((parameter): readonly (readonly [string, Said])[] => {
      const words = parameter.default === undefined ? null : wordsOfRaw(parameter, parameter.default);
      return words ? [[parameter.number, { kind: 'value', words, atMs: null }]] : [];
    }),
  ),
}));
