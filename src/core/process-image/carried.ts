import type { SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import type { Block } from './blocks';

/** What people look for in a block: by the standard's signals, or by the roles of a sheet's entries; both ways of a telegram count. */
interface Carried {
  readonly name: string;
  readonly signals: RegExp;
  /** Absent where a sheet has no word for it. */
  readonly roles?: readonly ParameterRole[];
}

/** Signals of PROFIdrive (IEC 61800-7-203) and objects of CiA 402, from memory of the published tables, such as `NSOLL_A`, `G2_XIST1`, `607A`. */
const CARRIED: readonly Carried[] = [
  {
    name: 'speed',
    signals: /^N(?:SOLL|IST)_|^MDI_VELOCITY$|^60(?:FF|6C|42|44)$/,
    roles: ['speed-reference', 'actual-speed'],
  },
  {
    name: 'position',
    signals: /^X(?:SOLL|IST)_|XIST\d$|^MDI_TARPOS$|^60(?:7A|64)$/,
    roles: ['target-position', 'actual-position'],
  },
  { name: 'torque', signals: /^M(?:SOLL|IST)_|^MOMRED$|^607[17]$/, roles: ['torque'] },
  { name: 'current', signals: /^I\w*IST_/, roles: ['current'] },
  { name: 'a fault code', signals: /^FAULT_CODE$|^MELD_NAMUR$/, roles: ['fault-code'] },
  { name: 'a second encoder', signals: /^G2_/ },
];

/** What a block of a standard or of a sheet carries, and what it does not. A block of the user's own has names of its own: null. */
export function carriedBy(
  { id, items }: Block,
  index: SheetIndex | null,
): { readonly has: readonly string[]; readonly lacks: readonly string[] } | null {
  const isStandard = /^(?:telegram|cia402)-/.test(id);
  if (!isStandard && !(index && /^(?:sheet|list)-/.test(id))) return null;
  const roles = new Set(items.map(({ name }) => index?.byNumber.get(name)?.role));
  const asked = CARRIED.filter(({ roles: own }) => isStandard || own !== undefined);
  const isIn = ({ signals, roles: own = [] }: Carried): boolean =>
    isStandard ? items.some(({ name }) => signals.test(name)) : own.some((role) => roles.has(role));
  return {
    has: asked.filter(isIn).map(({ name }) => name),
    lacks: asked.filter((one) => !isIn(one)).map(({ name }) => name),
  };
}

const list = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? '') : `${names.slice(0, -1).join(', ')} and ${names[names.length - 1] ?? ''}`;

/** The same as a sentence for the controller's programmer; empty where nothing is said of the block. */
export function carriedText(block: Block, index: SheetIndex | null): string {
  const carried = carriedBy(block, index);
  if (!carried) return '';
  const { has, lacks } = carried;
  const without = lacks.map((name) => `no ${name.replace(/^a /, '')}`);
  const way = block.direction === 'to-drive' ? 'goes to the drive' : 'comes from it';
  return [
    has.length === 0
      ? 'Nothing of speed, position or torque'
      : `${list(has).replace(/^./, (first) => first.toUpperCase())}`,
    ` ${way} in this block`,
    lacks.length === 0 ? '.' : `; ${list(without)}: such values go by parameters, or in another block.`,
  ].join('');
}
