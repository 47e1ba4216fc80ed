import * as v from 'valibot';
import { whole } from '../schema/primitives';

export const AddressSection = v.variant('kind', [
  v.strictObject({ kind: v.literal('group-index'), factor: whole(1, 4096), offset: whole(-65535, 65535) }),
  v.strictObject({ kind: v.literal('number'), offset: whole(-65535, 65535) }),
]);
