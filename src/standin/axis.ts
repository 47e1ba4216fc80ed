import type { Clock, Due } from '../core/time/clock';
import { planHoming, type HomingPace } from './homing';
import { planHalt, planMove, type Move, type Pace, type Profile } from './move';
import { inputsAt, type Plant } from './plant';

/** The drive looks at its inputs and at its own errors this often. */
const CYCLE_US = 4_000;
/** The shaft is where it should be this much later. */
const LAG_S = 0.006;
/** At an end switch it brakes so many times as hard as a move does. */
const AT_END = 4;

/** What the drive's settings say of its axis, in counts as it shows them and in seconds. */
export interface AxisSettings {
  readonly window: number;
  readonly windowS: number;
  /** 0 = no watch. */
  readonly followingLimit: number;
  readonly followingS: number;
  /** Equal: no software limits. */
  readonly least: number;
  readonly most: number;
  readonly usesEnds: boolean;
  /** Of an axis that goes round: its turn, and the way that is gone to a place. */
  readonly round: { readonly turn: number; readonly way: number } | null;
}

/** The ways to a place that lies so far off, by their numbers: straight, backward, forward, the shorter one. */
const ROUND: readonly ((off: number, turn: number) => number)[] = [
  (off) => off,
  (off, turn) => (off > 0 ? off - turn : off),
  (off, turn) => (off < 0 ? off + turn : off),
  (off, turn) => (off > turn / 2 ? off - turn : off <= -turn / 2 ? off + turn : off),
];

const modulo = (value: number, turn: number): number => ((value % turn) + turn) % turn;

const roundTo = ({ turn, way }: NonNullable<AxisSettings['round']>, from: number, to: number): number =>
  (ROUND[way] ?? ((off: number) => off))(modulo(to, turn) - from, turn);

interface Motion {
  readonly plan: Move;
  readonly startUs: number;
  readonly deceleration: number;
  readonly kind: 'move' | 'halt' | 'homing';
}

/** How an axis calls its drive. */
export interface AxisCalls {
  readonly settings: () => AxisSettings;
  /** Counts that the shaft went in a speed mode, and how fast it goes there. */
  readonly way: () => number;
  readonly waySpeed: () => number;
  /** What moved it has come to its end. */
  readonly arrived: (by: Motion['kind']) => void;
  /** The shaft is behind its profile for too long. */
  readonly lost: () => void;
  /** An end switch is reached in a speed mode. */
  readonly ended: () => void;
}

/** Where homing stands. */
export type Homing = 'not-done' | 'under-way' | 'done' | 'failed';

/** One axis of a positioning drive: where it is, what moves it, what holds it. Its machine is null where the sheet describes none. */
export class Axis {
  readonly #clock: Clock;
  readonly #plant: Plant | null;
  readonly #calls: AxisCalls;
  /** In the machine's counts, less the way of the speed mode. */
  #rest: number;
  /** The machine's counts at which the position shows 0. */
  #zero = 0;
  #motion: Motion | null = null;
  #cycle: Due | null = null;
  #ends: Due | null = null;
  #target: number | null = null;
  /** Since when it is in its window, and since when it is too far behind; null while it is not. */
  #inWindowUs: number | null = -Infinity;
  #lateUs: number | null = null;
  #limit: 'low' | 'high' | 'software' | null = null;
  #homing: Homing = 'not-done';

  constructor(clock: Clock, plant: Plant | null, at: number, calls: AxisCalls) {
    this.#clock = clock;
    this.#plant = plant;
    this.#rest = at;
    this.#calls = calls;
  }

  /** In the counts that the drive shows. */
  position(): number {
    return this.#shown(Math.round(this.#at() - this.#zero));
  }

  #shown(at: number): number {
    const { round } = this.#calls.settings();
    return round ? modulo(at, round.turn) : at;
  }

  /** In counts per second. */
  speed(): number {
    return this.#motion ? this.#motion.plan.speedAt(this.#elapsedS() - LAG_S) : this.#calls.waySpeed();
  }

  isMoving(): boolean {
    return this.#motion !== null;
  }

  homing(): Homing {
    return this.#homing;
  }

  /** Zero is not known any more. */
  forgetHome(): void {
    this.#homing = 'not-done';
  }

  isAtLimit(): boolean {
    return this.#limit !== null;
  }

  inputs(): number {
    return this.#plant ? inputsAt(this.#plant, this.#at()) : 0;
  }

  followingError(): number {
    return this.#motion ? Math.round(this.#motion.plan.at(this.#elapsedS()) - this.#at()) : 0;
  }

  /** It stands in its window, and has done so for the time that is set. */
  isThere(): boolean {
    if (this.#motion || this.#inWindowUs === null) return false;
    return this.#clock.now() - this.#inWindowUs >= 1e6 * this.#calls.settings().windowS;
  }

  isInWindow(): boolean {
    const target = this.#target ?? this.#at();
    return Math.abs(target - this.#at()) <= this.#calls.settings().window;
  }

  isWithinLimits(shown: number): boolean {
    const { least, most, round } = this.#calls.settings();
    return round !== null || least >= most || (shown >= least && shown <= most);
  }

  /** Whether an end switch bars the way into a direction. */
  isBarred(direction: number): boolean {
    if (!this.#plant || !this.#calls.settings().usesEnds) return false;
    const inputs = this.inputs();
    return (direction < 0 && inputs % 2 === 1) || (direction > 0 && Math.floor(inputs / 2) % 2 === 1);
  }

  /**
   * To a position as the drive shows it, cut to the software limits. An end switch in the way lets it stand. One that goes round goes `by` so much, where
   * that was asked for.
   */
  go(shown: number, pace: Omit<Pace, 'startSpeed'>, profile: Profile, by?: number): void {
    const { least, most, round } = this.#calls.settings();
    const within = this.isWithinLimits(shown) ? shown : Math.min(most, Math.max(least, shown));
    const from = this.#at();
    const off = round ? (by ?? roundTo(round, this.#shown(from - this.#zero), shown)) : 0;
    const to = round ? from + off : within + this.#zero;
    this.#limit = within === shown ? null : 'software';
    if (this.isBarred(to - from)) {
      this.#limit = to < from ? 'low' : 'high';
      return;
    }
    this.#target = to;
    this.#inWindowUs = null;
    this.#begin('move', planMove(from, to, { ...pace, startSpeed: this.speed() }, profile), pace.deceleration);
  }

  /** False where the drive knows no such method, or its machine has no switches. */
  home(method: number, pace: HomingPace): boolean {
    const plan = planHoming(this.#plant, this.#at(), method, pace);
    this.#homing = plan ? 'under-way' : 'failed';
    if (!plan) return false;
    this.#limit = null;
    this.#target = null;
    this.#inWindowUs = null;
    this.#begin('homing', plan, pace.acceleration);
    return true;
  }

  /** From now on the position shows this where the axis stands. */
  showHere(shown: number): void {
    this.#zero = this.#at() - shown;
    this.#target = this.#at();
    this.#homing = 'done';
  }

  /** It brakes, and stays where it comes to rest. */
  halt(deceleration: number): void {
    if (!this.#motion) return;
    const [from, speed] = [this.#at(), this.speed()];
    const wasHoming = this.#motion.kind === 'homing';
    const plan = planHalt(from, speed, deceleration);
    if (wasHoming) this.#homing = 'not-done';
    this.#target = plan.at(Infinity);
    this.#begin('halt', plan, deceleration);
  }

  /** Cuts a move off at once; the speed that it had goes on elsewhere. */
  release(): void {
    if (this.#motion?.kind === 'homing') this.#homing = 'not-done';
    this.#settle(this.#at());
  }

  /** The position is held where it is. */
  hold(): void {
    if (!this.#motion) this.#target = this.#at();
    this.#inWindowUs = -Infinity;
  }

  /** The shaft turns in a speed mode: its ends are looked at as long as it does. */
  watch(): void {
    if (this.#cycle === null && this.#plant && this.#calls.settings().usesEnds) this.#schedule();
  }

  #begin(kind: Motion['kind'], plan: Move, deceleration: number): void {
    // What brakes, does so from where it is; only what follows a profile lags behind it.
    const startUs = this.#clock.now() - (kind === 'halt' ? Math.round(LAG_S * 1e6) : 0);
    if (this.#ends !== null) this.#clock.cancel(this.#ends);
    this.#motion = { kind, plan, startUs, deceleration };
    this.#ends = this.#clock.at(startUs + Math.ceil((plan.seconds + LAG_S) * 1e6), () => this.#arrived(kind));
    if (this.#cycle === null) this.#schedule();
  }

  #arrived(kind: Motion['kind']): void {
    this.#settle(this.#motion?.plan.at(Infinity) ?? this.#at());
    if (kind === 'homing') this.#homing = 'done';
    if (this.#inWindowUs === null) this.#inWindowUs = this.#clock.now();
    this.#calls.arrived(kind);
  }

  #settle(at: number): void {
    if (this.#ends !== null) this.#clock.cancel(this.#ends);
    this.#rest = at - this.#calls.way();
    this.#motion = this.#ends = null;
    this.#lateUs = null;
  }

  #schedule(): void {
    this.#cycle = this.#clock.at(this.#clock.now() + CYCLE_US, () => this.#look());
  }

  /** One cycle of the drive's own: window, following error, end switches. */
  #look(): void {
    this.#cycle = null;
    const motion = this.#motion;
    if (motion?.kind === 'move') {
      this.#inWindowUs = this.isInWindow() ? (this.#inWindowUs ?? this.#clock.now()) : null;
      if (this.#isLost()) this.#calls.lost();
    }
    if (motion?.kind !== 'homing' && this.speed() !== 0 && this.isBarred(this.speed())) {
      if (motion) {
        this.#limit = this.speed() < 0 ? 'low' : 'high';
        this.halt(AT_END * motion.deceleration);
      } else this.#calls.ended();
    }
    if (this.#motion || this.#calls.waySpeed() !== 0) this.#schedule();
  }

  #isLost(): boolean {
    const { followingLimit, followingS } = this.#calls.settings();
    const isLate = followingLimit > 0 && Math.abs(this.followingError()) > followingLimit;
    this.#lateUs = isLate ? (this.#lateUs ?? this.#clock.now()) : null;
    return this.#lateUs !== null && this.#clock.now() - this.#lateUs >= followingS * 1e6;
  }

  #elapsedS(): number {
    return this.#motion ? (this.#clock.now() - this.#motion.startUs) / 1e6 : 0;
  }

  /** In the machine's counts. */
  #at(): number {
    return this.#motion ? this.#motion.plan.at(this.#elapsedS() - LAG_S) : this.#rest + this.#calls.way();
  }
}
