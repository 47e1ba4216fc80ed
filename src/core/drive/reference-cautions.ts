import { compare, ratio, type Rational } from '../scaling/rational';
import { roleActive } from '../words/read';
import { meaningOf } from './describe';
import { rolePattern, roleValue } from './role-value';
import type { SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';

const ZERO = ratio(0n);

const sizeOf = (value: Rational): Rational => (value.num < 0n ? ratio(-value.num, value.den) : value);

/**
 * What the drive will make of a speed reference, where that is another thing than what is asked for: minimum, maximum, skipped band, direction.
 * `value` is in the unit of the reference, as the drive gets it; `known` gives the last word seen in the place with a role.
 */
export function referenceCautions(
  index: SheetIndex,
  value: Rational,
  known: (role: ParameterRole) => number | undefined,
): readonly string[] {
  if (!index.byRole.has('speed-reference')) return [];
  const wordOf = (role: ParameterRole): number | undefined => rolePattern(index, role, known(role));
  const limit = (role: ParameterRole): Rational | null => {
    const found = roleValue(index, role, wordOf(role));
    return found && sizeOf(found);
  };
  const say = (role: ParameterRole): string => {
    const at = index.byRole.get(role);
    const word = wordOf(role);
    return at && word !== undefined
      ? `${meaningOf(index, at, word)} by ${at.number}${known(role) === undefined ? ', as it leaves the factory; not read yet' : ''}`
      : '';
  };
  const size = sizeOf(value);
  const [least, most] = [limit('minimum-speed'), limit('maximum-speed')];
  const [from, to] = [limit('skip-from'), limit('skip-to')];
  return [
    ...(least && compare(size, least) < 0
      ? [`Below the drive’s minimum speed: it turns at ${say('minimum-speed')}.`]
      : []),
    ...(most && compare(size, most) > 0
      ? [`Above the drive’s maximum speed: it turns at ${say('maximum-speed')}.`]
      : []),
    ...(from && to && compare(size, from) > 0 && compare(size, to) < 0
      ? [`Within the band that the drive skips, ${say('skip-from')} to ${say('skip-to')}: it does not stay there.`]
      : []),
    ...(compare(value, ZERO) < 0 ? directionCautions(index, known) : []),
  ];
}

function directionCautions(index: SheetIndex, known: (role: ParameterRole) => number | undefined): readonly string[] {
  const control = known('control-word');
  const reversed = control !== undefined && index.words && roleActive(index.words.control, 'reverse', control) === true;
  const lock = index.byRole.get('direction-lock');
  const locked = lock && known('direction-lock');
  return [
    ...(reversed
      ? [
          'The control word that the drive holds has its reverse bit set: with a negative reference the two cancel, and it turns forward.',
        ]
      : []),
    ...(lock && locked !== undefined && locked !== 0
      ? [`${lock.number} ${lock.name} is ${meaningOf(index, lock, locked)}: it may not turn this way.`]
      : []),
  ];
}
