import * as v from 'valibot';
import { ROUNDINGS } from '../scaling/rounding';
import { Exact, Slug, Text, whole } from './primitives';

export const ChainSchema = v.strictObject({
  unit: Text,
  steps: v.pipe(
    v.array(
      v.variant('kind', [
        v.strictObject({ kind: v.literal('full-scale'), value: Exact, raw: Exact }),
        v.strictObject({ kind: v.literal('resolution'), value: Exact }),
        v.strictObject({ kind: v.literal('motor-poles'), poles: whole(0, 200) }),
      ]),
    ),
    v.maxLength(20),
  ),
  rounding: v.picklist(ROUNDINGS),
  word: v.strictObject({ bits: v.picklist([8, 16, 32]), signed: v.boolean() }),
});

export const ScalingSection = v.array(v.strictObject({ id: Slug, name: Text, chain: ChainSchema }));
