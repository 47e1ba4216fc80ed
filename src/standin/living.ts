import type { PlacedParameter } from '../core/sheet/index-sheet';

const HOUR_US = 3_600_000_000;
/** A temperature swings by so much around its default, once in so long. */
const SWING = { counts: 2, us: 40_000_000 };

/** What a value without a role shows that changes by itself: hours go on, temperatures and loads swing a little. Null: it stays as it is. */
export function livingNumber(
  { write, role, unit, default: byDefault = 0 }: PlacedParameter,
  nowUs: number,
): number | null {
  if (write !== 'never' || role !== undefined) return null;
  if (unit === 'h' && byDefault > 0) return byDefault + Math.floor(nowUs / HOUR_US);
  if (unit === '°C') return byDefault + Math.round(SWING.counts * Math.sin((2 * Math.PI * nowUs) / SWING.us));
  return null;
}
