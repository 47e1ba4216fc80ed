import type { SheetIndex } from '../core/sheet/index-sheet';

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

/** The machine of a sheet that describes its axis, by the drive's own sum of gear, drum and encoder; null where it describes none. */
export function plantOf({ sheet }: SheetIndex): Plant | null {
  const { axis, scalings = [] } = sheet;
  const chain = axis && scalings.find(({ id }) => id === axis.chain)?.chain;
  if (!axis?.travel || !chain) return null;
  let [factor, perTurn] = [1, 1];
  for (const step of chain.steps) {
    if (step.kind === 'lead' || step.kind === 'circumference') factor /= parseFloat(step.perTurn);
    else if (step.kind === 'gear') factor *= parseFloat(step.motor) / parseFloat(step.load);
    else if (step.kind === 'counts-per-turn') {
      perTurn = parseFloat(step.counts);
      factor *= perTurn;
    } else return null;
  }
  const [low, high] = [parseFloat(axis.travel.from) * factor, parseFloat(axis.travel.to) * factor];
  return { low, high, homeEdge: low + HOME_SHARE * (high - low), perTurn };
}

/** What the inputs show at a position: bit 0 the lower end, bit 1 the upper one, bit 2 the home switch. */
export const inputsAt = ({ low, high, homeEdge }: Plant, at: number): number =>
  (at <= low ? 1 : 0) + (at >= high ? 2 : 0) + (at >= homeEdge ? 4 : 0);
