import { identityOf } from './station-identity';
import type { StationIdentity } from './rtu-services';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { ParameterRole } from '../core/sheet/parameter-section';
import type { Clock, Due } from '../core/time/clock';
import { Axis, type AxisSettings } from './axis';
import type { Pace } from './move';
import { Cia402Machine } from './cia402-machine';
import { fullScaleOf, stepOf, type FullScale } from './full-scale';
import { plantOf, turnOf } from './plant';
import { afterBreak, linkOf } from './own-link';
import { Lists, type ListWay } from './lists';
import { livingNumber } from './living';
import { ParameterStore, type GivenValue, type Nonvolatile, type Table } from './parameter-store';
import type { SerialDrive } from './rtu-station';
import type { LinkEnd } from './serial-station';
import { Shaft } from './shaft';
import { StoredMoves, type StoredMove } from './stored-moves';
import { faultWithRole } from './fault-with-role';
import type { Hands, YardDrive } from './yard-drive';

const RESTART_AFTER_US = 100_000;
/** Its own start, in which it is not ready to switch on. */
const SELF_TEST_US = 300_000;
const REACTION_US = 400_000;
/** A quick stop brakes so many times as fast as the ramp; a free shaft loses this share of its full scale each second. */
const QUICK = 5;
const COAST = 0.25;
const NETWORK = 2;
const VELOCITY = 2;
const POSITION = 1;
const HOMING = 6;
const STORED = -1;
const COUNTS_PER_TURN = 65_536;
/** Accelerations are counted in so many counts per second squared. */
const RATE_COUNTS = 64;
/** What a sheet that says nothing of moves gives: so many counts per second, and per second squared. */
const MOVE = { speed: 1_638_400, acceleration: 2_048_000 };
/** Modes in which the shaft goes to places; what it does there is not steered by the reference. */
const NO_SPEED: ReadonlySet<number> = new Set([POSITION, HOMING, STORED]);
const ANY_MASTER = '0.0.0.0';
const FAULT_ACTION = 0;
const QUICK_STOP_ACTION = 1;

const bit = (word: number, n: number): boolean => Math.floor(word / 2 ** n) % 2 === 1;

interface Target {
  readonly counts: number;
  readonly relative: boolean;
}

/**
 * A drive with the state machine of CiA 402 behind registers, from its sheet: velocity mode, and profile position with set-points that are
 * taken by handshake and homing where its sheet has modes for them. Ramps, watchdog, faults and moves act with time, with no request coming in.
 */
export class Cia402Drive implements SerialDrive, YardDrive {
  readonly #index: SheetIndex;
  readonly #clock: Clock;
  readonly #store: ParameterStore;
  readonly #machine = new Cia402Machine();
  readonly #shaft: Shaft;
  readonly #full: FullScale;
  readonly #onKeep: (kept: Nonvolatile) => void;
  readonly #onRestart: (bootMs: number) => void;
  #hands: Hands = { selector: 'remote', liveFault: 0 };
  #written = 0;
  #fault = 0;
  #watch: Due | null = null;
  #powered = true;
  #upFromUs: number;
  #link: LinkEnd;
  readonly #axis: Axis;
  /** Counts after which the axis comes round; null where it goes straight. */
  readonly #turn: number | null;
  readonly #lists: Lists;
  readonly #stored: StoredMoves;
  /** Inputs that the machine or a hand closes, beside those of the axis. */
  #closed = 0;
  #master: string;
  #waiting: Target | null = null;
  #acknowledged = false;
  #lastTarget: number;

  constructor(
    index: SheetIndex,
    clock: Clock,
    kept: Nonvolatile,
    fallback: LinkEnd,
    onKeep: (kept: Nonvolatile) => void,
    onRestart: (bootMs: number) => void = () => undefined,
  ) {
    this.#index = index;
    this.#clock = clock;
    this.#onKeep = onKeep;
    this.#onRestart = onRestart;
    this.#full = fullScaleOf(index);
    this.#store = new ParameterStore(index, kept);
    this.#lists = new Lists(index, this.#store, clock, (way) => this.#listLate(way));
    this.#stored = new StoredMoves(index, this.#store, clock, (move) => this.#goStored(move));
    this.#shaft = new Shaft(clock);
    this.#link = linkOf(this.#store, fallback);
    this.#lastTarget = this.#store.number('actual-position', 0);
    this.#turn = turnOf(index);
    this.#axis = new Axis(clock, plantOf(index), this.#lastTarget, {
      settings: () => this.#axisSettings(),
      way: () => (this.#shaft.way() * COUNTS_PER_TURN) / 60,
      waySpeed: () => (this.#shaft.speed() * COUNTS_PER_TURN) / 60,
      arrived: (by) => {
        if (by === 'homing') return this.#foundHome();
        // What was cut off does not go on by itself.
        if (by === 'move') this.#stored.arrived();
        else this.#stored.end();
        this.#arrived();
      },
      lost: () => this.#trip(faultWithRole(index.sheet, 'following-error')),
      ended: () => this.#steer(),
    });
    this.#master = this.#masterSet();
    this.#upFromUs = clock.now();
    // It has been under power for a while when the bench meets it.
    this.#machine.started();
  }

  link(): LinkEnd {
    return this.#link;
  }

  isUp(): boolean {
    return this.#powered && this.#clock.now() >= this.#upFromUs;
  }

  isTurning(): boolean {
    return this.#axis.isMoving() || this.#shaft.speed() !== 0;
  }

  heardBreak(us: number): void {
    this.#link = afterBreak(this.#index.sheet, this.#link, us);
  }

  setHands(hands: Hands): void {
    this.#hands = hands;
    if (hands.liveFault !== 0) this.#trip(hands.liveFault);
  }

  /** Whether a master at this address (dotted) is let in, by what was set when the drive started. */
  admits(address: string): boolean {
    return this.#master === ANY_MASTER || this.#master === address;
  }

  /** A person at the drive's keys lets any master in; its keys keep what they set. */
  letAnyMasterIn(): void {
    this.#store.setRole('master-high', 0);
    this.#store.setRole('master-low', 0);
    this.#onKeep(this.#store.keep());
    this.#master = this.#masterSet();
  }

  #masterSet(): string {
    const [high, low] = [this.#store.number('master-high', 0), this.#store.number('master-low', 0)];
    return [high >> 8, high & 0xff, low >> 8, low & 0xff].join('.');
  }

  powerOff(): void {
    this.#powered = false;
    this.#machine.powerUp();
    this.#halt(this.#full.value * COAST);
    this.#feedWatchdog();
  }

  powerCycle(): void {
    const bootMs = this.#index.sheet.link?.bootMs ?? 0;
    this.#powered = true;
    this.#fault = 0;
    this.#store.powerUp();
    this.#link = linkOf(this.#store, this.#link);
    this.#master = this.#masterSet();
    this.#halt(this.#full.value * COAST);
    this.#start(bootMs);
    this.#onRestart(bootMs);
  }

  #start(bootMs: number): void {
    this.#machine.powerUp();
    this.#written = 0;
    this.#upFromUs = this.#clock.now() + bootMs * 1000;
    this.#clock.at(this.#upFromUs + SELF_TEST_US, () => this.#machine.started());
    this.#feedWatchdog();
    this.#lists.end('written');
    this.#lists.end('read');
  }

  heard(): void {
    if (this.#index.sheet.commands?.watchdogFedBy === 'any-request') this.#feedWatchdog();
  }

  get identity(): StationIdentity {
    return identityOf(this.#index);
  }

  hasTable(table: Table): boolean {
    return this.#store.hasTable(table);
  }

  read(address: number, table?: Table): number | null {
    const parameter = this.#store.parameterAt(address, table);
    if (!parameter) return null;
    if (this.#lists.holds(address, table)) {
      if (!this.#lists.isOn()) return null;
      this.#lists.touched('read');
    }
    const live = parameter.role ? this.#live(parameter.role) : livingNumber(parameter, this.#clock.now());
    const number = live ?? this.#store.numberOf(parameter);
    return this.#store.wordOf(parameter, address, number, table);
  }

  /** What a parameter with a role shows now; undefined where it shows what was written. */
  #live(role: ParameterRole): number | undefined {
    switch (role) {
      case 'status-word':
        return this.#statusWord();
      case 'control-word':
        return this.#written;
      case 'fault-code':
        return this.#fault;
      case 'actual-speed':
        return this.#countsOf(this.#speed());
      case 'mode-display':
        return this.#mode();
      case 'actual-position':
        return this.#axis.position();
      case 'following-error':
        return this.#axis.followingError();
      case 'stored-move-display':
        return this.#stored.underWay();
      case 'life-sign-back':
        return this.#store.number('life-sign', 0);
      case 'axis-inputs':
        return this.#axis.inputs() + this.#closed;
      case 'current':
        return this.isTurning() ? 14 + Math.round((24 * Math.abs(this.#speed())) / this.#full.value) : 0;
      case 'torque':
        return this.isTurning() ? 180 : 0;
      default:
        return undefined;
    }
  }

  write(address: number, words: readonly number[], table?: Table): number {
    const inList = words.some((_, i) => this.#lists.holds(address + i, table));
    const given = inList && !this.#lists.isOn() ? null : this.#store.valuesOf(address, words, table);
    const refusal = this.#store.refusalOf(given, this.isTurning());
    if (refusal !== 0 || !given) return refusal;
    // A mode is not left while the shaft turns.
    const changesMode = given.some(({ parameter, number }) => parameter.role === 'mode' && number !== this.#mode());
    if (changesMode && this.isTurning()) return this.#index.sheet.refusals?.state ?? 4;
    if (changesMode) this.#forgetSetPoint();
    // Set-point and reference come before the word that takes them, wherever they stand in the request.
    const isWord = ({ parameter }: GivenValue): boolean => parameter.role === 'control-word';
    for (const value of given) if (!isWord(value)) this.#accept(value);
    for (const value of given) if (isWord(value)) this.#command(value.number);
    if (inList) this.#lists.touched('written');
    this.#steer();
    return 0;
  }

  #accept(given: GivenValue): void {
    const { parameter, number } = given;
    const { role } = parameter;
    if (role === 'keep') {
      if (number === 1) this.#onKeep(this.#store.keep());
    } else if (role === 'restart') {
      if (number === 1) this.#clock.at(this.#clock.now() + RESTART_AFTER_US, () => this.powerCycle());
    } else this.#store.take(given);
    if (role === 'watchdog-time') this.#feedWatchdog();
  }

  #command(word: number): void {
    this.#written = word;
    if (!this.#isRemote()) return;
    const before = this.#machine.word();
    this.#machine.command(word, this.#hands.liveFault === 0);
    if (this.#machine.state() !== 'fault' && this.#machine.state() !== 'reaction') this.#fault = 0;
    if (this.#isPositioning()) this.#handshake(bit(before, 4), bit(word, 4), bit(word, 5), bit(word, 6));
    if (this.#mode() === HOMING) this.#startHoming(bit(before, 4), bit(word, 4));
    if (this.#mode() === STORED) this.#startStored(bit(before, 4), bit(word, 4));
    this.#feedWatchdog();
  }

  /** The set-point is taken as bit 4 rises, acknowledged in status bit 12, and the next may come when both are 0 again. */
  #handshake(was: boolean, is: boolean, atOnce: boolean, relative: boolean): void {
    if (!is) {
      this.#acknowledged = this.#waiting !== null;
      return;
    }
    if (was || this.#acknowledged || this.#machine.state() !== 'enabled') return;
    const counts = this.#store.number('target-position', 0);
    this.#acknowledged = true;
    const target = { counts, relative };
    if (this.#axis.isMoving() && !atOnce) this.#waiting = target;
    else this.#go(target);
  }

  /** A stored move starts as bit 4 rises, acknowledged until it falls; while one is under way no other is taken. */
  #startStored(was: boolean, is: boolean): void {
    if (!is) this.#acknowledged = false;
    else if (!was && this.#mayStartStored()) this.#acknowledged = this.#stored.start();
  }

  #mayStartStored(): boolean {
    return this.#machine.state() === 'enabled' && this.#stored.underWay() === 0 && !bit(this.#machine.word(), 8);
  }

  /** An input of the machine closes for a moment, as a hand at a button does. */
  pressInput(input: number, us: number): void {
    this.#closed = 2 ** input;
    this.#clock.at(this.#clock.now() + us, () => (this.#closed = 0));
    if (this.#isRemote() && this.#mode() === STORED && this.#stored.isStartedBy(input) && this.#mayStartStored())
      this.#stored.start();
  }

  #goStored({ to, speed, relative }: StoredMove): void {
    const target = relative ? this.#axis.position() + to : to;
    this.#lastTarget = target;
    this.#axis.go(target, this.#paceAt(speed), 'trapezoid');
    if (this.#axis.isMoving()) return;
    // What an end switch bars ends the row of moves; a target at which it stands already is over at once.
    if (this.#axis.isAtLimit()) this.#stored.end();
    else this.#stored.arrived();
  }

  #forgetSetPoint(): void {
    this.#stored.end();
    this.#waiting = null;
    this.#acknowledged = false;
  }

  #go({ counts, relative }: Target): void {
    const to = relative ? this.#lastTarget + counts : counts;
    this.#lastTarget = to;
    const pace = this.#paceAt(this.#store.number('move-speed', MOVE.speed));
    this.#axis.go(to, pace, 'trapezoid', relative ? counts : undefined);
    // A target at which it stands already, or that an end switch bars, is over at once.
    if (!this.#axis.isMoving()) this.#arrived();
  }

  /** How a move at a speed is made, by the settings of now. */
  #paceAt(speed: number): Pace {
    const acceleration = this.#rate('move-acceleration', MOVE.acceleration);
    const deceleration = this.#rate('move-deceleration', acceleration);
    const jerk = this.#rate('move-jerk', 0);
    return { speed, acceleration, deceleration, ...(jerk > 0 ? { jerk } : {}) };
  }

  /** In counts per second squared, or cubed. */
  #rate(role: ParameterRole, absent: number): number {
    return this.#index.byRole.has(role) ? this.#store.number(role, 0) * RATE_COUNTS : absent;
  }

  #arrived(): void {
    const next = this.#waiting;
    this.#waiting = null;
    if (!next) return;
    if (!bit(this.#machine.word(), 4)) this.#acknowledged = false;
    this.#go(next);
  }

  /** Homing runs while bit 4 is 1, and begins as it rises. */
  #startHoming(was: boolean, is: boolean): void {
    const deceleration = this.#rate('homing-acceleration', MOVE.acceleration);
    if (!is) return this.#axis.halt(deceleration);
    if (was || this.#machine.state() !== 'enabled') return;
    this.#axis.home(this.#store.number('homing-method', 0), {
      search: this.#store.number('homing-speed', MOVE.speed),
      creep: this.#store.number('homing-creep', MOVE.speed),
      acceleration: deceleration,
    });
  }

  #foundHome(): void {
    const offset = this.#store.number('home-offset', 0);
    this.#axis.showHere(this.#index.sheet.axis?.homeShows === 'offset' ? offset : -offset);
    this.#lastTarget = this.#axis.position();
  }

  #axisSettings(): AxisSettings {
    const number = (role: ParameterRole): number => this.#store.number(role, 0);
    const seconds = (role: ParameterRole): number => number(role) * stepOf(this.#index.byRole.get(role));
    return {
      window: number('position-window'),
      windowS: seconds('position-window-time'),
      followingLimit: number('following-limit'),
      followingS: seconds('following-time'),
      least: number('position-least'),
      most: number('position-most'),
      usesEnds: number('axis-inputs-use') === 1,
      round: this.#round(),
    };
  }

  #round(): AxisSettings['round'] {
    if (this.#turn === null) return null;
    return {
      turn: this.#turn,
      way: (this.#store.number('round-way', 0) >> (this.#index.sheet.axis?.round?.wayBit ?? 0)) & 3,
    };
  }

  #isRemote(): boolean {
    return this.#hands.selector === 'remote' && this.#store.number('command-source', NETWORK) === NETWORK;
  }

  #mode(): number {
    return this.#store.number('mode', VELOCITY);
  }

  #isPositioning(): boolean {
    return this.#mode() === POSITION;
  }

  /** Where the shaft should go now, from everything that has a say. */
  #steer(): void {
    const state = this.#machine.state();
    const slope = this.#full.value / this.#rampS();
    if (state === 'quick-stop' || state === 'reaction') return this.#halt(slope * QUICK);
    if (state === 'switched-on') return this.#halt(slope);
    if (state !== 'enabled') return this.#halt(this.#full.value * COAST);
    if (NO_SPEED.has(this.#mode())) {
      if (bit(this.#machine.word(), 8)) this.#halt(slope);
      return;
    }
    // The ramp is held: the speed stays what it is.
    if (bit(this.#machine.word(), 4) && !bit(this.#machine.word(), 5))
      return this.#shaft.head(this.#shaft.speed(), slope);
    const wanted = this.#wanted();
    const isBarred = wanted !== 0 && this.#axis.isBarred(wanted);
    this.#shaft.head(isBarred ? 0 : wanted, isBarred ? slope * QUICK : slope);
    this.#axis.watch();
  }

  #wanted(): number {
    const word = this.#machine.word();
    if (!bit(word, 4) || !bit(word, 6) || bit(word, 8)) return 0;
    const reference = (this.#store.number('speed-reference', 0) * this.#full.value) / this.#full.counts;
    const scaled = (role: ParameterRole, fallback: number): number =>
      (this.#store.number(role, fallback) * this.#full.value) / this.#full.counts;
    const least = scaled('minimum-speed', 0);
    const most = scaled('maximum-speed', this.#full.counts);
    const size = Math.min(most, Math.max(least, Math.abs(reference)));
    const [from, to] = [scaled('skip-from', 0), scaled('skip-to', 0)];
    // It does not stay within its skip band, but keeps to the lower end.
    return (reference < 0 ? -1 : 1) * (size > from && size < to ? from : size);
  }

  #rampS(): number {
    return Math.max(0.01, this.#store.number('ramp-time', 1) * stepOf(this.#index.byRole.get('ramp-time')));
  }

  /** A move that is cut off ends where the shaft comes to rest: at a slope in the unit of the reference. */
  #halt(slope: number): void {
    this.#axis.halt((slope * COUNTS_PER_TURN) / 60);
    this.#forgetSetPoint();
    this.#shaft.head(0, slope);
  }

  /** In the unit of the reference. */
  #speed(): number {
    return (this.#axis.speed() * 60) / COUNTS_PER_TURN;
  }

  #countsOf(speed: number): number {
    const counts = Math.round((speed * this.#full.counts) / this.#full.value);
    return counts === 0 && speed !== 0 ? Math.sign(speed) : counts;
  }

  #statusWord(): number {
    const state = this.#machine.state();
    const voltage = state === 'not-ready' ? 0 : 0x10;
    const remote = this.#isRemote() ? 0x200 : 0;
    const reached = state === 'enabled' && this.#isReached() ? 0x400 : 0;
    const limit = this.#isLimited() ? 0x800 : 0;
    return this.#machine.statusBits() + voltage + remote + reached + limit + this.#modeBits();
  }

  #isLimited(): boolean {
    return this.#axis.isAtLimit() || (this.#mode() === VELOCITY && this.#axis.isBarred(this.#wanted()));
  }

  #isReached(): boolean {
    switch (this.#mode()) {
      case POSITION:
        return this.#axis.isThere();
      case HOMING:
        return !this.#axis.isMoving();
      case STORED:
        return this.#stored.underWay() === 0 && this.#axis.isThere();
      default:
        return this.#shaft.speed() === this.#shaft.target();
    }
  }

  /** Bits 12 and 13, which the mode gives a meaning. */
  #modeBits(): number {
    switch (this.#mode()) {
      case POSITION:
      case STORED:
        return this.#acknowledged ? 0x1000 : 0;
      case HOMING:
        return { 'not-done': 0, 'under-way': 0, done: 0x1000, failed: 0x2000 }[this.#axis.homing()];
      default:
        return 0;
    }
  }

  #trip(code: number): void {
    if (this.#fault === 0) this.#fault = code;
    if (this.#machine.state() === 'fault' || this.#machine.state() === 'reaction') return;
    this.#machine.fail();
    this.#steer();
    this.#feedWatchdog();
    this.#clock.at(this.#clock.now() + REACTION_US, () => {
      this.#machine.reacted();
      this.#steer();
    });
  }

  /** A controller that does not look after its lists in time is lost, if the drive does anything by them. */
  #listLate(way: ListWay): void {
    if (this.#machine.state() === 'enabled')
      this.#trip(faultWithRole(this.#index.sheet, way === 'written' ? 'list-not-written' : 'list-not-read'));
  }

  /** The drive watches its master while operation is enabled. */
  #feedWatchdog(): void {
    if (this.#watch !== null) this.#clock.cancel(this.#watch);
    this.#watch = null;
    const seconds = this.#store.number('watchdog-time', 0) * stepOf(this.#index.byRole.get('watchdog-time'));
    if (seconds === 0 || this.#machine.state() !== 'enabled') return;
    this.#watch = this.#clock.at(this.#clock.now() + Math.round(seconds * 1e6), () => this.#watchRanOut());
  }

  #watchRanOut(): void {
    this.#watch = null;
    const action = this.#store.number('watchdog-action', FAULT_ACTION);
    if (action === FAULT_ACTION) this.#trip(faultWithRole(this.#index.sheet, 'watchdog'));
    if (action !== QUICK_STOP_ACTION) return;
    this.#machine.command(0x02, false);
    this.#steer();
  }
}
