import * as v from 'valibot';
import { Text } from '../schema/primitives';

const Field = v.pipe(v.string(), v.maxLength(40));

/** A device of the plan as it was typed; what is wrong with a field is said beside it, and nothing typed is lost. */
const IpHostSchema = v.strictObject({
  role: v.picklist(['laptop', 'drive', 'gateway', 'device server']),
  name: Text,
  address: Field,
  /** Prefix or mask. */
  mask: Field,
  gateway: v.optional(Field),
  port: v.optional(Field),
  /** The one master that the device lets in, where it has such a setting. */
  master: v.optional(Field),
  timeoutMs: v.optional(Field),
});
export type IpHost = v.InferOutput<typeof IpHostSchema>;
export type IpField = 'address' | 'mask' | 'gateway' | 'port' | 'master' | 'timeoutMs';

export const IpPlanSchema = v.pipe(v.array(IpHostSchema), v.maxLength(300));
