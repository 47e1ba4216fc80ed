import * as v from 'valibot';
import { whole } from '../schema/primitives';

/** How the parameter channel of USS is used, and how long the process data are. The parameters themselves stand in the dictionary. */
export const UssSection = v.strictObject({
  pkwWords: v.picklist([3, 4]),
  pzdWords: whole(0, 16),
  /** Which half of IND holds the array index; the other one holds the page bits. */
  indexHalf: v.picklist(['high', 'low']),
  pages: v.pipe(v.array(v.strictObject({ from: whole(1, 65535), bits: whole(1, 255) })), v.maxLength(16)),
});
