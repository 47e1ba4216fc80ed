import * as v from 'valibot';
import { SIGN_FORMS, WIRE_ORDERS } from '../scaling/chain';
import { ROUNDINGS } from '../scaling/rounding';
import { Exact, Slug, Text, whole } from '../schema/primitives';

export const ChainSchema = v.strictObject({
  unit: Text,
  steps: v.pipe(
    v.array(
      v.variant('kind', [
        v.strictObject({ kind: v.literal('full-scale'), value: Exact, raw: Exact }),
        v.strictObject({ kind: v.literal('resolution'), value: Exact }),
        v.strictObject({ kind: v.literal('source-counts'), raw: Exact, value: Exact }),
        v.strictObject({ kind: v.literal('motor-poles'), poles: whole(0, 200), slip: v.optional(Exact) }),
        v.strictObject({ kind: v.literal('gear'), motor: Exact, load: Exact, inverted: v.optional(v.boolean()) }),
        v.strictObject({ kind: v.picklist(['lead', 'circumference']), perTurn: Exact }),
        v.strictObject({ kind: v.literal('diameter'), across: Exact }),
        v.strictObject({ kind: v.literal('counts-per-turn'), counts: Exact }),
        v.strictObject({ kind: v.literal('minutes-to-seconds') }),
        v.strictObject({ kind: v.literal('factor'), by: Exact }),
        v.strictObject({ kind: v.literal('offset'), add: Exact }),
        v.strictObject({ kind: v.literal('limit'), min: Exact, max: Exact }),
        v.strictObject({ kind: v.literal('modulo'), turn: Exact }),
      ]),
    ),
    v.maxLength(20),
  ),
  rounding: v.picklist(ROUNDINGS),
  word: v.strictObject({
    bits: v.picklist([8, 16, 32]),
    signed: v.boolean(),
    form: v.optional(v.picklist(SIGN_FORMS)),
    order: v.optional(v.picklist(WIRE_ORDERS)),
  }),
});

export const ScalingSection = v.array(v.strictObject({ id: Slug, name: Text, chain: ChainSchema }));
