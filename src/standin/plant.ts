import type { SheetIndex } from '../core/sheet/index-sheet';
import type { Sheet } from '../core/sheet/sheet';

/** What the machine has on its axis, in counts as they were when it was built: nothing that a network changes. */
export interface Plant {
  /** End switches: active from there on outward. */
  readonly low: number;
  readonly high: number;
  /** The home switch is active from its edge up to the upper end. */
  readonly homeEdge: number;
  /** One index pulse a turn of the motor, at its multiples. */
  readonly perTurn: number;
}

/** The edge of the home switch, as a share of the travel from the lower end. */
const HOME_SHARE = 0.25;

/** Counts of one load unit and of one turn of the motor, by the drive's own sum of gear, drum and encoder; null where the sheet does not say. */
function gearOf({ axis, scalings = [] }: Sheet): { readonly perUnit: number; readonly perTurn: number } | null {
  const chain = axis && scalings.find(({ id }) => id === axis.chain)?.chain;
  if (!chain) return null;
  let [perUnit, perTurn] = [1, 1];
  for (const step of chain.steps) {
    if (step.kind === 'lead' || step.kind === 'circumference') perUnit /= parseFloat(step.perTurn);
    else if (step.kind === 'gear')
      perUnit *= ((step.inverted ? -1 : 1) * parseFloat(step.motor)) / parseFloat(step.load);
    else if (step.kind === 'counts-per-turn') {
      perTurn = parseFloat(step.counts);
      perUnit *= perTurn;
    } else return null;
  }
  return { perUnit, perTurn };
}

/** The machine of a sheet that describes its axis from end to end; null where it describes none. */
export function plantOf({ sheet }: SheetIndex): Plant | null {
  const gear = gearOf(sheet);
  const { travel } = sheet.axis ?? {};
  if (!travel || !gear) return null;
  const ends = [travel.from, travel.to].map((end) => parseFloat(end) * gear.perUnit);
  const [low, high] = [Math.min(...ends), Math.max(...ends)];
  return { low, high, homeEdge: low + HOME_SHARE * (high - low), perTurn: gear.perTurn };
}

/** Counts of one turn of an axis that goes round; null where it goes straight. */
export function turnOf({ sheet }: SheetIndex): number | null {
  const gear = gearOf(sheet);
  const turn = sheet.axis?.round?.turn;
  return gear && turn !== undefined ? Math.round(parseFloat(turn) * gear.perUnit) : null;
}

/** What the inputs show at a position: bit 0 the lower end, bit 1 the upper one, bit 2 the home switch. */
export const inputsAt = ({ low, high, homeEdge }: Plant, at: number): number =>
  (at <= low ? 1 : 0) + (at >= high ? 2 : 0) + (at >= homeEdge ? 4 : 0);
