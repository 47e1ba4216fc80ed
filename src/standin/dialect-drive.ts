import type {
  CommandRole,
  Dialect,
  DialectCommand,
  DialectMessage,
  ErrorRole,
  MotionRole,
} from '../core/dialect/dialect';
import type { SheetIndex } from '../core/sheet/index-sheet';
import type { Clock } from '../core/time/clock';
import { planHalt, planMove, type Move } from './move';
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
  #restCounts = 0;
  #target = 0;
  #move: { readonly plan: Move; readonly startUs: number } | null = null;
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
    this.#powerUp();
  }

  link(): LinkEnd {
    return this.#end;
  }

  isUp(): boolean {
    return this.#powered && this.#clock.now() >= this.#upFromUs;
  }

  isTurning(): boolean {
    return this.#speed() !== 0;
  }

  heardBreak(): void {}

  setHands({ liveFault }: Hands): void {
    this.#liveFault = liveFault;
    if (liveFault !== 0) this.#trip(liveFault);
  }

  powerOff(): void {
    this.#rest();
    this.#powered = false;
  }

  powerCycle(): void {
    this.#rest();
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
        return [Math.round(this.#position())];
      case 'actual-speed':
        return [Math.round(this.#speed() * SPEED_PARTS)];
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
        return this.#start(this.#number('target', 0));
      case 'move-relative':
        return this.#start(this.#position() + this.#number('distance', 0));
      case 'jog-forward':
      case 'jog-backward':
        return this.#start(this.#position() + (role === 'jog-forward' ? 1 : -1) * JOG_COUNTS);
      case 'stop':
        this.#halt();
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

  #start(to: number): DialectMessage {
    if (this.#fault !== 0 || this.#number('mode', 0) !== POSITIONING) return this.refusal('state');
    if (this.isTurning()) return this.refusal('busy');
    const from = this.#position();
    const speed = Math.min(this.#number('speed', SPEED_PARTS), this.#limitAtStart) / SPEED_PARTS;
    const acceleration = this.#number('acceleration', 1) * ACCELERATION_COUNTS;
    const profile = this.#number('profile', 0) === 1 ? 'soft' : 'trapezoid';
    this.#target = to;
    this.#move = { plan: planMove(from, to, speed, acceleration, profile), startUs: this.#clock.now() };
    return { kind: 'good' };
  }

  #halt(): void {
    const [from, speed] = [this.#position(), this.#speed()];
    if (speed === 0) return;
    const plan = planHalt(from, speed, this.#number('acceleration', 1) * ACCELERATION_COUNTS);
    this.#move = { plan, startUs: this.#clock.now() };
    this.#target = plan.at(plan.seconds);
  }

  /** A free shaft stops where it is; there is no load that would carry it on. */
  #rest(): void {
    this.#restCounts = this.#position();
    this.#move = null;
  }

  #trip(code: number): void {
    if (this.#fault === 0) this.#fault = code;
    this.#set('mode', 0);
    this.#rest();
  }

  #modeChanged(): void {
    if (this.#number('mode', 0) === POSITIONING && this.#fault !== 0) this.#set('mode', 0);
    if (this.#number('mode', 0) !== POSITIONING) this.#rest();
    else if (!this.#move) this.#target = this.#position();
  }

  #elapsed(): number {
    return this.#move ? (this.#clock.now() - this.#move.startUs) / 1e6 : 0;
  }

  #position(): number {
    return this.#move ? this.#move.plan.at(this.#elapsed()) : this.#restCounts;
  }

  #speed(): number {
    return this.#move ? this.#move.plan.speedAt(this.#elapsed()) : 0;
  }

  #motionWord(): number {
    const enabled = this.#number('mode', 0) === POSITIONING;
    const state: Readonly<Record<MotionRole, boolean>> = {
      enabled,
      moving: this.#move !== null && this.#elapsed() < this.#move.plan.seconds,
      'in-window': enabled && Math.abs(this.#target - this.#position()) <= this.#number('window', 0),
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
