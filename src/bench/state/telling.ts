import { identityOf, identityWarning } from '../../core/drive/identity';
import { knownState } from './known-state';
import type { Telling } from './told-state';

/** Everything that puts a drive's words into ours, with scales, types and profiles behind it. */
export const telling: Telling = {
  knownState,
  identityWarning: (index, values) => identityWarning(identityOf(index, (address) => values.get(address))),
};
