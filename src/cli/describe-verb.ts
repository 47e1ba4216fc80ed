import * as v from 'valibot';
import { describe } from '../core/devices/describe';
import { DESCRIPTION_KINDS } from '../core/devices/description';
import { Id, read } from './input';
import type { Verb } from './protocol';

/** A device description file as identity, parameters and process images. */
export const DESCRIBE_VERB: Verb = {
  help: 'identity, parameters and images of a device description file; its kind is found where it is not given',
  example:
    '{"text":"[DeviceInfo]\\nProductName=Kiln fan\\n[2001]\\nParameterName=Ramp\\nDataType=0x0006\\nAccessType=rw"}',
  run: (input) => {
    const { text, kind } = read({ ...Id, text: v.string(), kind: v.optional(v.picklist(DESCRIPTION_KINDS)) }, input);
    return { ...describe(text, kind ?? null) };
  },
};
