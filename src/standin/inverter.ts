import { identityOf } from './station-identity';
import type { StationIdentity } from './rtu-services';
import type { PlacedParameter, SheetIndex } from '../core/sheet/index-sheet';
import type { ParameterRole } from '../core/sheet/parameter-section';
import type { Clock, Due } from '../core/time/clock';
import { roleActive } from '../core/words/read';
import type { ControlRole, StatusRole, WordSpec } from '../core/words/spec';
import { fullScaleOf, stepOf, type FullScale } from './full-scale';
import { afterBreak, linkOf } from './own-link';
import { livingNumber } from './living';
import { ParameterStore, type GivenValue, type Nonvolatile, type Table } from './parameter-store';
import type { SerialDrive } from './rtu-station';
import type { LinkEnd } from './serial-station';
import { Shaft } from './shaft';
import { faultWithRole } from './fault-with-role';
import type { Hands, YardDrive } from './yard-drive';

/** Speeds inside the drive have this resolution, so what is read back differs a little from what was written. */
const STEPS_PER_HZ = 100;
/** An unpowered shaft loses this much speed per second. */
const COAST_HZ_PER_S = 15;
const NETWORK = 2;
const UNIPOLAR = 1;
const FORWARD_ONLY = 1;
const BACKWARD_ONLY = 2;
/** A restart that was asked for over the network waits until its answer is out. */
const RESTART_AFTER_US = 100_000;

/**
 * A plain-bit inverter that runs from a sheet: it knows roles, never bit numbers or registers. Watchdog, ramp and restart act with time,
 * with no request coming in.
 */
export class Inverter implements SerialDrive, YardDrive {
  readonly #index: SheetIndex;
  readonly #clock: Clock;
  readonly #store: ParameterStore;
  readonly #shaft: Shaft;
  readonly #onKeep: (kept: Nonvolatile) => void;
  readonly #control: WordSpec<ControlRole>;
  readonly #status: WordSpec<StatusRole>;
  readonly #full: FullScale;
  #hands: Hands = { selector: 'remote', liveFault: 0 };
  /** The last word written, and the word that acts: 0 until one is written while the network is in command. */
  #written = 0;
  #acting = 0;
  #fault = 0;
  #warning = false;
  /** After a fault or a watchdog stop, run must fall before it can start again. */
  #runSpent = false;
  #watch: Due | null = null;
  #sincePowerUpUs: number;
  #powered = true;
  /** It answers from this moment on. */
  #upFromUs: number;
  #link: LinkEnd;

  constructor(
    index: SheetIndex,
    clock: Clock,
    kept: Nonvolatile,
    fallback: LinkEnd,
    onKeep: (kept: Nonvolatile) => void,
  ) {
    const { words } = index;
    if (!words) throw new RangeError(`sheet ${index.sheet.slug} describes no words, so no inverter can run from it`);
    this.#index = index;
    this.#clock = clock;
    this.#onKeep = onKeep;
    this.#control = words.control;
    this.#status = words.status;
    this.#full = fullScaleOf(index);
    this.#store = new ParameterStore(index, kept);
    this.#shaft = new Shaft(clock);
    this.#link = linkOf(this.#store, fallback);
    this.#sincePowerUpUs = this.#upFromUs = clock.now();
    this.#storeSelector();
  }

  /** How the drive listens since it was powered up; a new setting waits for the next restart. */
  link(): LinkEnd {
    return this.#link;
  }

  /** Actual speed in Hz; negative is backward. */
  speedHz(): number {
    return this.#shaft.speed();
  }

  isTurning(): boolean {
    return this.#shaft.isTurning();
  }

  setHands(hands: Hands): void {
    this.#hands = hands;
    this.#storeSelector();
    if (hands.liveFault !== 0) this.#trip(hands.liveFault);
    if (!this.#networkCommands()) this.#acting = 0;
    this.#steer();
  }

  isUp(): boolean {
    return this.#powered && this.#clock.now() >= this.#upFromUs;
  }

  /** A break that is long enough returns the link to its factory settings at once, where the sheet says so. */
  heardBreak(us: number): void {
    this.#link = afterBreak(this.#index.sheet, this.#link, us);
  }

  /** Supply off: the shaft coasts and nothing answers. */
  powerOff(): void {
    this.#powered = false;
    this.#written = this.#acting = 0;
    this.#cancelWatch();
    this.#steer();
  }

  /** Supply off and on: the shaft coasts, working memory is what was kept, and the link is back after its start. */
  powerCycle(): void {
    this.#powered = true;
    this.#upFromUs = this.#clock.now() + (this.#index.sheet.link?.bootMs ?? 0) * 1000;
    this.#store.powerUp();
    this.#link = linkOf(this.#store, this.#link);
    this.#storeSelector();
    this.#written = this.#acting = this.#fault = 0;
    this.#warning = this.#runSpent = false;
    this.#sincePowerUpUs = this.#clock.now();
    this.#cancelWatch();
    this.#steer();
  }

  /** A valid request came for this drive; whether that calms the watchdog is the sheet's matter. */
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
    return parameter ? this.#store.wordOf(parameter, address, this.#shown(parameter), table) : null;
  }

  /** The number that a parameter shows now. */
  #shown(parameter: PlacedParameter): number {
    switch (parameter.role) {
      case 'status-word':
        return this.#statusWord();
      case 'fault-code':
        return this.#fault;
      case 'actual-speed':
        return this.#countsOf(this.speedHz(), parameter);
      case 'current':
        return this.#shaft.isTurning() ? 12 + Math.round(Math.abs(this.speedHz()) * 0.915) : 0;
      case 'torque':
        return this.#torque();
      case 'control-word':
        return this.#written;
      default:
        return livingNumber(parameter, this.#clock.now()) ?? this.#store.numberOf(parameter);
    }
  }

  write(address: number, words: readonly number[], table?: Table): number {
    const given = this.#store.valuesOf(address, words, table);
    const refusal = this.#store.refusalOf(given, this.#shaft.isTurning());
    if (refusal !== 0 || !given) return refusal;
    for (const value of given) this.#accept(value);
    this.#steer();
    return 0;
  }

  #accept(given: GivenValue): void {
    const { parameter, number } = given;
    const { role } = parameter;
    if (role === 'control-word') return this.#command(number);
    if (role === 'keep') {
      if (number === 1) this.#onKeep(this.#store.keep());
      return;
    }
    if (role === 'restart') {
      // The answer goes out first.
      if (number === 1) this.#clock.at(this.#clock.now() + RESTART_AFTER_US, () => this.powerCycle());
      return;
    }
    this.#store.take(given);
    if (role === 'watchdog-time' || role === 'watchdog-action') this.#feedWatchdog();
    if (role === 'command-source' && !this.#networkCommands()) this.#acting = 0;
  }

  #command(word: number): void {
    const rose = (role: ControlRole): boolean => this.#has(role, word) && !this.#has(role, this.#written);
    const resets = rose('fault-reset');
    this.#written = word;
    if (!this.#networkCommands()) return;
    this.#acting = word;
    if (resets && this.#hands.liveFault === 0) {
      this.#fault = 0;
      this.#warning = false;
    }
    if (!this.#asksToTurn()) this.#runSpent = false;
    this.#feedWatchdog();
  }

  #has(role: ControlRole, word: number): boolean {
    return roleActive(this.#control, role, word) === true;
  }

  #asksToTurn(): boolean {
    return this.#has('run', this.#acting) || this.#has('jog', this.#acting);
  }

  #networkCommands(): boolean {
    return this.#hands.selector === 'remote' && this.#store.number('command-source', NETWORK) === NETWORK;
  }

  #networkReference(): boolean {
    return this.#hands.selector === 'remote' && this.#store.number('reference-source', NETWORK) === NETWORK;
  }

  #storeSelector(): void {
    this.#store.setRole('selector', this.#hands.selector === 'remote' ? 1 : 0);
  }

  #enabled(): boolean {
    return this.#fault === 0 && this.#has('enable', this.#acting);
  }

  /** Where the shaft should go now, from everything that has a say; called whenever one of them changed. */
  #steer(): void {
    if (!this.#enabled()) return this.#shaft.head(0, COAST_HZ_PER_S);
    const rampS = Math.max(0.01, this.#seconds('ramp-time', 5));
    this.#shaft.head(this.#wantedHz(), this.#full.value / rampS);
  }

  #wantedHz(): number {
    const run = this.#has('run', this.#acting);
    const jog = this.#has('jog', this.#acting);
    if (this.#runSpent || this.#has('stop', this.#acting) || run === jog) return 0;
    const reverse = this.#has('reverse', this.#acting) ? -1 : 1;
    if (jog) return reverse * this.#hzOf(this.#store.number('jog-speed', 0));
    const asked = this.#networkReference() ? this.#hzOf(this.#store.number('speed-reference', 0)) : 0;
    const reference = asked < 0 && this.#store.number('reference-form', 0) === UNIPOLAR ? 0 : asked;
    const least = this.#hzOf(this.#store.number('minimum-speed', 0));
    const most = this.#hzOf(this.#store.number('maximum-speed', this.#full.counts));
    const sign = reference < 0 ? -reverse : reverse;
    if (this.#store.number('direction-lock', 0) === (sign > 0 ? BACKWARD_ONLY : FORWARD_ONLY)) return 0;
    return sign * Math.min(most, Math.max(least, Math.abs(reference)));
  }

  #hzOf(counts: number): number {
    const hz = (Math.abs(counts) * this.#full.value) / this.#full.counts;
    return (Math.sign(counts) * Math.floor(hz * STEPS_PER_HZ + 1e-6)) / STEPS_PER_HZ;
  }

  /** In the number of the parameter that shows it: what is no float is rounded inside the drive first. */
  #countsOf(hz: number, parameter: PlacedParameter): number {
    if (parameter.type === 'float32') return hz;
    const steps = Math.floor(Math.abs(hz) * STEPS_PER_HZ + 1e-6);
    return Math.sign(hz) * Math.floor((steps / STEPS_PER_HZ / this.#full.value) * this.#full.counts);
  }

  /** A time in seconds, by the step that the sheet gives it. */
  #seconds(role: ParameterRole, fallback: number): number {
    const parameter = this.#index.byRole.get(role);
    return parameter ? this.#store.numberOf(parameter) * stepOf(parameter) : fallback;
  }

  #torque(): number {
    if (!this.#enabled() || !this.#shaft.isTurning()) return 0;
    const share = this.speedHz() / this.#full.value;
    const accelerates = this.speedHz() !== this.#shaft.target() ? 180 : 0;
    return 60 + accelerates + Math.round(520 * share * share);
  }

  #statusWord(): number {
    const turning = this.#shaft.isTurning();
    const speed = this.speedHz();
    const state: Readonly<Partial<Record<StatusRole, boolean>>> = {
      ready: this.#fault === 0,
      enabled: this.#enabled(),
      turning,
      fault: this.#fault !== 0,
      backward: speed < 0,
      jogging: turning && this.#enabled() && this.#has('jog', this.#acting),
      warning: this.#warning,
      'at-speed': turning && speed === this.#shaft.target(),
      remote: this.#hands.selector === 'remote',
      'network-command': this.#networkCommands(),
      'network-reference': this.#networkReference(),
    };
    return this.#status.bits.reduce((word, { bit, role, active, ignored }) => {
      if (ignored) return word + (this.#heartbeat() ? 2 ** bit : 0);
      const on = role !== undefined && (state[role] ?? false) === (active !== 'low');
      return on ? word + 2 ** bit : word;
    }, 0);
  }

  #heartbeat(): boolean {
    return Math.floor((this.#clock.now() - this.#sincePowerUpUs) / 1e6) % 2 === 1;
  }

  #trip(code: number): void {
    if (this.#fault === 0) this.#fault = code;
    this.#runSpent = true;
    this.#cancelWatch();
  }

  #cancelWatch(): void {
    if (this.#watch !== null) this.#clock.cancel(this.#watch);
    this.#watch = null;
  }

  #feedWatchdog(): void {
    this.#cancelWatch();
    const seconds = this.#seconds('watchdog-time', 0);
    if (seconds === 0 || !this.#asksToTurn() || this.#fault !== 0) return;
    this.#watch = this.#clock.at(this.#clock.now() + Math.round(seconds * 1e6), () => this.#watchRanOut());
  }

  #watchRanOut(): void {
    this.#watch = null;
    const action = this.#store.number('watchdog-action', 0);
    this.#warning = true;
    if (action === 0) this.#trip(faultWithRole(this.#index.sheet, 'watchdog'));
    if (action === 1) this.#runSpent = true;
    this.#steer();
  }
}
