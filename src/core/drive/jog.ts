import { meaningOf } from './describe';
import type { SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';

/**
 * What stands between a jogging shaft and a broken link: the drive's own time-out, which only a try proves. Empty once it was proven.
 * `known` gives the last word seen in the place with a role.
 */
export function jogCaution(
  index: SheetIndex,
  known: (role: ParameterRole) => number | undefined,
  proven: boolean,
): string {
  const place = index.byRole.get('watchdog-time');
  const word = known('watchdog-time');
  const action = index.byRole.get('watchdog-action');
  const reaction = known('watchdog-action');
  const ignores = action?.choices?.some(({ value, name }) => value === reaction && name === 'ignore') === true;
  if (!place) return 'The sheet knows no time-out of the drive: should the link break, nothing may stop the shaft.';
  if (word === undefined)
    return `The drive’s own time-out, ${place.number}, is not read yet: should the link break, nothing may stop the shaft.`;
  if (word === 0 || ignores)
    return `The drive’s own time-out, ${place.number}, is ${word === 0 ? 'off' : 'ignored'}: should the link break, nothing stops the shaft.`;
  if (proven) return '';
  return `The drive’s own time-out is ${meaningOf(index, place, word)} by ${place.number}, but nobody has proven here that it stops the shaft.`;
}
