import type { SerialSettings } from '../core/line/settings';
import type { Random } from '../core/random/random';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { Clock } from '../core/time/clock';
import type { Disturbance } from './disturbance';
import { Cia402Drive } from './cia402-drive';
import { DialectDrive } from './dialect-drive';
import { DialectStation } from './dialect-station';
import { Inverter } from './inverter';
import { OtherMaster } from './other-master';
import type { Nonvolatile } from './parameter-store';
import { RtuStation } from './rtu-station';
import { SerialBus } from './serial-bus';
import { UssDrive } from './uss-drive';
import { UssStation } from './uss-station';
import type { YardDrive } from './yard-drive';

/** A drive to build: its sheet, and what it kept without power. */
export interface DrivePlan {
  readonly station: number;
  readonly index: SheetIndex;
  readonly kept: Nonvolatile;
}

/** One simulated line with its drives. It runs on the clock that it is given, whether anyone is connected or not. */
export class YardLine {
  readonly bus: SerialBus;
  readonly drives: ReadonlyMap<number, YardDrive>;
  readonly #clock: Clock;
  readonly #random: Random;
  readonly #settings: SerialSettings;
  readonly #plans: readonly DrivePlan[];
  readonly #otherMaster: OtherMaster;
  #twin: { readonly leave: () => void } | null = null;

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
        const plan = { station, index, kept };
        return [station, this.#build(plan, (values) => onKeep(station, values)).drive];
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
    this.#twin = this.#build(plan, () => undefined).party;
  }

  /** What the sheet describes is what the drive speaks. */
  #build(
    { station, index, kept }: DrivePlan,
    onKeep: (kept: Nonvolatile) => void,
  ): { readonly drive: YardDrive; readonly party: { readonly leave: () => void } } {
    const [bus, clock, random] = [this.bus, this.#clock, this.#random];
    const end = { station, settings: this.#settings };
    if (index.sheet.dialect) {
      const drive = new DialectDrive(index, clock, kept, end, onKeep);
      return { drive, party: new DialectStation(bus, clock, random, drive) };
    }
    if (index.sheet.uss) {
      const drive = new UssDrive(index, clock, kept, end, onKeep);
      return { drive, party: new UssStation(bus, clock, random, drive) };
    }
    const drive =
      index.sheet.profile?.kind === 'cia402'
        ? new Cia402Drive(index, clock, kept, end, onKeep)
        : new Inverter(index, clock, kept, end, onKeep);
    return { drive, party: new RtuStation(bus, clock, random, drive) };
  }

  anyTurning(): boolean {
    return [...this.drives.values()].some((drive) => drive.isTurning());
  }
}
