import type { Dialect, DialectCommand, DialectMessage } from '../core/dialect/dialect';
import type { CommandRole, ErrorRole, MotionRole } from '../core/dialect/roles';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { Clock } from '../core/time/clock';
import { Axis, type AxisSettings } from './axis';
import { faultWithRole } from './fault-with-role';
import { plantOf } from './plant';
import type { Nonvolatile } from './parameter-store';
import type { LinkEnd } from './serial-station';
import type { Hands, YardDrive } from './yard-drive';

/** The mode that holds the shaft and lets it move; every other one leaves it free. */
const POSITIONING = 4;
/** Speeds are counted in sixteenths of a count per second, accelerations in 16 counts per second squared. */
const SPEED_PARTS = 16;
const ACCELERATION_COUNTS = 16;
/** The answer goes out before the drive starts anew. */
const RESTART_AFTER_US = 60_000;
/** A jog is a move that goes on until it is stopped: so far that no hold outlasts it. */
const JOG_COUNTS = 2 ** 40;
const FIRMWARE = '1.04';

/**
 * A drive that takes commands as text, from its sheet. It knows roles, never verbs: position, target, speed and so on; what has no role is a
 * value that can be written and read back. A move is an exact function of time.
 */
export class DialectDrive implements YardDrive {
  readonly dialect: Dialect;
  readonly #index: SheetIndex;
  readonly #clock: Clock;
  readonly #onKeep: (kept: Nonvolatile) => void;
  #kept: Nonvolatile;
  #working = new Map<string, number>();
  /** What acts since the last start, for settings that wait for a restart. */
  #limitAtStart = Infinity;
  readonly #end: LinkEnd;
  #powered = true;
  #upFromUs: number;
  readonly #axis: Axis;
  #fault = 0;
  #liveFault = 0;

  constructor(index: SheetIndex, clock: Clock, kept: Nonvolatile, end: LinkEnd, onKeep: (kept: Nonvolatile) => void) {
    const { dialect } = index.sheet;
    if (!dialect) throw new RangeError(`sheet ${index.sheet.slug} describes no dialect, so no drive can speak it`);
    this.dialect = dialect;
    this.#index = index;
    this.#clock = clock;
    this.#kept = kept;
    this.#onKeep = onKeep;
    this.#end = end;
    this.#upFromUs = clock.now();
    this.#axis = new Axis(clock, plantOf(index), 0, {
      settings: () => this.#axisSettings(),
      way: () => 0,
      waySpeed: () => 0,
      arrived: (by) => {
        if (by === 'homing') this.#axis.showHere(this.#homeShows());
      },
      lost: () => this.#trip(faultWithRole(index.sheet, 'following-error')),
      ended: () => undefined,
    });
    this.#powerUp();
  }

  link(): LinkEnd {
    return this.#end;
  }

  isUp(): boolean {
    return this.#powered && this.#clock.now() >= this.#upFromUs;
  }

  isTurning(): boolean {
    return this.#axis.isMoving();
  }

  heardBreak(): void {}

  setHands({ liveFault }: Hands): void {
    this.#liveFault = liveFault;
    if (liveFault !== 0) this.#trip(liveFault);
  }

  powerOff(): void {
    this.#axis.release();
    this.#powered = false;
  }

  powerCycle(): void {
    this.#axis.release();
    this.#powered = true;
    this.#upFromUs = this.#clock.now() + (this.#index.sheet.link?.bootMs ?? 0) * 1000;
    this.#powerUp();
  }

  #powerUp(): void {
    this.#working = new Map(
      this.dialect.commands.flatMap((command) =>
        (command.default ?? []).map((value, i) => [place(command, i), this.#kept[place(command, i)] ?? value] as const),
      ),
    );
    this.#limitAtStart = this.#number('speed-limit', Infinity);
    this.#set('mode', 0);
    this.#fault = 0;
    this.#axis.forgetHome();
  }

  /** The answer to one request that was read without fault. */
  obey(request: DialectMessage): DialectMessage {
    const command = this.dialect.commands.find(({ id }) => id === request.command);
    const station = request.station === undefined ? {} : { station: request.station };
    const answer = command ? this.#answer(command, request) : this.refusal('unknown');
    return { ...station, ...answer };
  }

  /** The refusal that a line gets which could not be read. */
  refusal(role: ErrorRole): DialectMessage {
    return { kind: 'error', error: this.dialect.errors?.find((error) => error.role === role)?.code ?? 0 };
  }

  #answer(command: DialectCommand, { kind, values = [] }: DialectMessage): DialectMessage {
    if (kind === 'read') return { kind: 'value', command: command.id, values: this.#read(command, values) };
    if (kind === 'act') return this.#act(command.role);
    const numbers = values.map((value) => (typeof value === 'number' ? value : 0));
    numbers.forEach((value, i) => this.#working.set(place(command, i), value));
    if (kind === 'keep') this.#keep(command);
    if (command.role === 'mode') this.#modeChanged();
    return { kind: 'good' };
  }

  #read(command: DialectCommand, asked: readonly (number | string)[]): readonly (number | string)[] {
    switch (command.role) {
      case 'position':
        return [this.#axis.position()];
      case 'actual-speed':
        return [Math.round(this.#axis.speed() * SPEED_PARTS)];
      case 'following-error':
        return [this.#axis.followingError()];
      case 'axis-inputs':
        return [this.#axis.inputs()];
      case 'motion-word':
        return [this.#motionWord()];
      case 'fault':
        return [this.#fault];
      case 'identity':
        return [`${this.#index.sheet.name} ${FIRMWARE}`];
      default:
        // A value that is read by number is remembered under that number.
        return command.fields.map(
          (field, i) => this.#working.get(place(command, i)) ?? (field.base === 'text' ? '' : Number(asked[0] ?? 0)),
        );
    }
  }

  #act(role: CommandRole | undefined): DialectMessage {
    switch (role) {
      case 'move-absolute':
        return this.#start(this.#number('target', 0), 'move');
      case 'move-relative':
        return this.#start(this.#axis.position() + this.#number('distance', 0), 'move');
      case 'jog-forward':
      case 'jog-backward':
        return this.#start(this.#axis.position() + (role === 'jog-forward' ? 1 : -1) * JOG_COUNTS, 'jog');
      case 'go-home':
        return this.#goHome();
      case 'set-zero':
        if (this.isTurning()) return this.refusal('busy');
        this.#axis.showHere(0);
        return { kind: 'good' };
      case 'stop':
        this.#axis.halt(this.#acceleration());
        return { kind: 'good' };
      case 'reset':
        if (this.#liveFault !== 0) return this.refusal('state');
        this.#fault = 0;
        return { kind: 'good' };
      case 'keep-all':
        for (const command of this.dialect.commands) this.#keep(command);
        return { kind: 'good' };
      case 'restart':
        this.#clock.at(this.#clock.now() + RESTART_AFTER_US, () => this.powerCycle());
        return { kind: 'good' };
      default:
        return { kind: 'good' };
    }
  }

  #keep(command: DialectCommand): void {
    if (!command.access.includes('keep')) return;
    const values = command.fields.map(
      (_, i) => [place(command, i), this.#working.get(place(command, i)) ?? 0] as const,
    );
    this.#kept = { ...this.#kept, ...Object.fromEntries(values) };
    this.#onKeep(this.#kept);
  }

  /** Why nothing can be moved now; null where it can. */
  #notNow(): DialectMessage | null {
    if (this.#fault !== 0 || this.#number('mode', 0) !== POSITIONING) return this.refusal('state');
    return this.isTurning() ? this.refusal('busy') : null;
  }

  /** A move beyond the software limits is refused, a jog ends at them; an end switch refuses both. */
  #start(to: number, kind: 'move' | 'jog'): DialectMessage {
    const why = this.#notNow();
    if (why) return why;
    if (kind === 'move' && !this.#axis.isWithinLimits(to)) return this.refusal('limit');
    if (this.#axis.isBarred(to - this.#axis.position())) return this.refusal('limit');
    const acceleration = this.#acceleration();
    const pace = { speed: this.#speedOf('speed'), acceleration, deceleration: acceleration };
    this.#axis.go(to, pace, this.#number('profile', 0) === 1 ? 'soft' : 'trapezoid');
    return { kind: 'good' };
  }

  #goHome(): DialectMessage {
    const why = this.#notNow();
    if (why) return why;
    const pace = {
      search: this.#speedOf('homing-speed'),
      creep: this.#speedOf('homing-creep'),
      acceleration: this.#acceleration(),
    };
    return this.#axis.home(this.#number('homing-method', 0), pace) ? { kind: 'good' } : this.refusal('state');
  }

  /** In counts per second, not above the limit that acts. */
  #speedOf(role: CommandRole): number {
    return Math.min(this.#number(role, SPEED_PARTS), this.#limitAtStart) / SPEED_PARTS;
  }

  /** In counts per second squared. */
  #acceleration(): number {
    return this.#number('acceleration', 1) * ACCELERATION_COUNTS;
  }

  #homeShows(): number {
    const offset = this.#number('home-offset', 0);
    return this.#index.sheet.axis?.homeShows === 'minus-offset' ? -offset : offset;
  }

  #axisSettings(): AxisSettings {
    return {
      window: this.#number('window', 0),
      windowS: this.#number('position-window-time', 0) / 1000,
      followingLimit: this.#number('following-limit', 0),
      followingS: this.#number('following-time', 0) / 1000,
      least: this.#number('position-least', 0),
      most: this.#number('position-most', 0),
      usesEnds: this.#number('axis-inputs-use', 0) === 1,
      round: null,
    };
  }

  /** A free shaft stops where it is; there is no load that would carry it on. */
  #trip(code: number): void {
    if (this.#fault === 0) this.#fault = code;
    this.#set('mode', 0);
    this.#axis.release();
  }

  #modeChanged(): void {
    if (this.#number('mode', 0) === POSITIONING && this.#fault !== 0) this.#set('mode', 0);
    if (this.#number('mode', 0) !== POSITIONING) this.#axis.release();
    else this.#axis.hold();
  }

  #motionWord(): number {
    const enabled = this.#number('mode', 0) === POSITIONING;
    const state: Readonly<Record<MotionRole, boolean>> = {
      enabled,
      moving: this.#axis.isMoving(),
      'in-window': enabled && this.#axis.isThere(),
      homed: this.#axis.homing() === 'done',
      'homing-failed': this.#axis.homing() === 'failed',
      'at-limit': this.#axis.isAtLimit(),
      fault: this.#fault !== 0,
    };
    return (this.dialect.motion?.bits ?? []).reduce(
      (word, { bit, role, active }) =>
        role !== undefined && state[role] === (active !== 'low') ? word + 2 ** bit : word,
      0,
    );
  }

  #number(role: CommandRole, absent: number): number {
    const command = this.dialect.commands.find((one) => one.role === role);
    return (command && this.#working.get(place(command, 0))) ?? absent;
  }

  #set(role: CommandRole, value: number): void {
    const command = this.dialect.commands.find((one) => one.role === role);
    if (command) this.#working.set(place(command, 0), value);
  }
}

/** Where a value is kept: the command and the place of the field. */
const place = ({ id }: DialectCommand, field: number): string => `${id}.${field}`;
