import type { SerialSettings } from '../core/line/settings';
import type { Random } from '../core/random/random';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { Clock } from '../core/time/clock';
import type { Disturbance } from './disturbance';
import { Inverter } from './inverter';
import { OtherMaster } from './other-master';
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
  readonly #clock: Clock;
  readonly #random: Random;
  readonly #settings: SerialSettings;
  readonly #plans: readonly DrivePlan[];
  readonly #otherMaster: OtherMaster;
  #twin: RtuStation | null = null;

  constructor(
    clock: Clock,
    random: Random,
    settings: SerialSettings,
    plans: readonly DrivePlan[],
    onKeep: (station: number, kept: Nonvolatile) => void,
  ) {
    this.#clock = clock;
    this.#random = random;
    this.#settings = settings;
    this.#plans = plans;
    this.bus = new SerialBus(clock, random);
    this.drives = new Map(
      plans.map(({ station, index, kept }) => {
        const drive = new Inverter(index, clock, kept, { station, settings }, (values) => onKeep(station, values));
        new RtuStation(this.bus, clock, random, drive);
        return [station, drive];
      }),
    );
    const stations = plans.map(({ station }) => station);
    this.#otherMaster = new OtherMaster(this.bus, clock, stations.length > 0 ? stations : [1], settings);
  }

  disturb(disturbance: Disturbance): void {
    this.bus.disturbance = disturbance;
    this.#otherMaster.set(disturbance.otherMaster);
    this.#twin?.leave();
    this.#twin = null;
    const plan = this.#plans.find(({ station }) => station === disturbance.twin);
    if (!plan) return;
    const end = { station: plan.station, settings: this.#settings };
    const drive = new Inverter(plan.index, this.#clock, plan.kept, end, () => undefined);
    this.#twin = new RtuStation(this.bus, this.#clock, this.#random, drive);
  }

  anyTurning(): boolean {
    return [...this.drives.values()].some((drive) => drive.isTurning());
  }
}
