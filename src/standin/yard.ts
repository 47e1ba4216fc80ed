import type { SerialSettings } from '../core/line/settings';
import type { Random } from '../core/random/random';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { Clock } from '../core/time/clock';
import { Inverter } from './inverter';
import type { Nonvolatile } from './parameter-store';
import { RtuStation } from './rtu-station';
import { SerialBus } from './serial-bus';

/** A drive to build: its sheet, and what it kept without power. */
export interface DrivePlan {
  readonly station: number;
  readonly index: SheetIndex;
  readonly kept: Nonvolatile;
}

/** One simulated line with its drives. It runs on the clock that it is given, whether anyone is connected or not. */
export class YardLine {
  readonly bus: SerialBus;
  readonly drives: ReadonlyMap<number, Inverter>;

  constructor(
    clock: Clock,
    random: Random,
    settings: SerialSettings,
    plans: readonly DrivePlan[],
    onKeep: (station: number, kept: Nonvolatile) => void,
  ) {
    this.bus = new SerialBus(clock, random);
    this.drives = new Map(
      plans.map(({ station, index, kept }) => {
        const drive = new Inverter(index, clock, kept, { station, settings }, (values) => onKeep(station, values));
        new RtuStation(this.bus, clock, random, drive);
        return [station, drive];
      }),
    );
  }

  anyTurning(): boolean {
    return [...this.drives.values()].some((drive) => drive.isTurning());
  }
}
