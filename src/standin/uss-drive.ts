import type { PlacedParameter, SheetIndex } from '../core/sheet/index-sheet';
import type { ParameterRole } from '../core/sheet/parameter-section';
import type { Clock, Due } from '../core/time/clock';
import { livingNumber } from './living';
import { accepts, taken, type Nonvolatile } from './parameter-store';
import { afterBreak } from './own-link';
import { ProfidriveMachine } from './profidrive-machine';
import type { LinkEnd } from './serial-station';
import { Shaft } from './shaft';
import { DRIVE_TELEGRAMS, plainTelegram, type DriveTelegram } from './drive-telegram';
import { faultWithRole } from './fault-with-role';
import type { Hands, YardDrive } from './yard-drive';

/** Error numbers and ids as the published description has them (from memory); this half is not shared with the core's tables. */
const REFUSED = 7;
const NO_NUMBER = 0;
const NOT_CHANGEABLE = 1;
const OUT_OF_LIMITS = 2;
const NO_INDEX = 3;
const NO_ARRAY = 4;
const WRONG_TYPE = 5;
const NO_DESCRIPTION = 9;
const NO_TEXT = 15;

/** Storing takes so many telegrams, in which the older answer is repeated. */
const STORING_TELEGRAMS = 2;
const LINE = 2;
const UPPER_END = 1;
const LOWER_END = 2;
const KEYPAD = 1;
/** Full scale of the process data, N2. */
const FULL_SCALE = 16_384;
const RATED_HZ = 50;
/** Speeds in shares of the full scale: a free shaft loses so much each second, and a fast stop is so many times as fast as the ramp. */
const COAST = 0.3;
const FAST = 4;
const TOLERANCE = 0.02;

interface Task {
  readonly id: number;
  readonly parameter: number;
  readonly index: number;
  readonly high: number;
  readonly low: number;
  /** Words of the channel that it came in, and its answer goes back in. */
  readonly words: number;
}

/** A parameter as the channel reaches it. */
interface ChannelParameter {
  readonly number: number;
  readonly double: boolean;
  readonly elements: number;
  readonly role: ParameterRole | undefined;
  readonly min: number;
  readonly max: number;
  readonly default: number;
  readonly write: PlacedParameter['write'];
  readonly text: string | undefined;
  readonly placed: PlacedParameter;
}

const channelParameters = ({ parameters }: SheetIndex): readonly ChannelParameter[] =>
  parameters.flatMap((placed) => {
    const { place, type, role, min, max, default: byDefault = 0, write, label } = placed;
    // The channel tells an array's elements apart by their index.
    return place.kind === 'uss' && place.element === undefined
      ? [
          {
            placed,
            number: place.number,
            double: /32$/.test(type),
            elements: place.elements ?? 1,
            role,
            min,
            max,
            default: byDefault,
            write,
            text: label,
          },
        ]
      : [];
  });

const word = (bytes: readonly number[], at: number): number => (bytes[at] ?? 0) * 256 + (bytes[at + 1] ?? 0);
const split = (value: number): [number, number] => [Math.floor(value / 65536) % 65536, value % 65536];

/**
 * A drive behind USS, from its sheet: the parameter channel with both memories, refusals and change reports, and process data that work the
 * state machine of PROFIdrive. Ramps, watchdog and faults act with time.
 */
export class UssDrive implements YardDrive {
  readonly #index: SheetIndex;
  readonly #clock: Clock;
  readonly #rule: NonNullable<SheetIndex['sheet']['uss']>;
  readonly #onKeep: (kept: Nonvolatile) => void;
  readonly #parameters: ReadonlyMap<number, ChannelParameter>;
  #kept: Nonvolatile;
  #working = new Map<string, number>();
  #link: LinkEnd;
  #powered = true;
  #upFromUs: number;
  #lastTask = '';
  /** The answer that is repeated until a new task comes, as words. */
  #answer: readonly number[];
  /** The answer that storing holds back, and for how many telegrams more. */
  #held: { readonly answer: readonly number[]; left: number } | null = null;
  #reports: number[] = [];
  /** The bit of the control word by which this drive turns its set-point round; each maker has its own, or none. */
  readonly #inverts: number | null;
  readonly #machine = new ProfidriveMachine();
  readonly #shaft: Shaft;
  /** In the counts of the full scale, as far as the telegram tells parts of one. */
  #setpoint = 0;
  #telegram: DriveTelegram;
  #beat = 0;
  #liveFault = 0;
  #fault = 0;
  #watch: Due | null = null;
  #standstill: Due | null = null;

  constructor(index: SheetIndex, clock: Clock, kept: Nonvolatile, end: LinkEnd, onKeep: (kept: Nonvolatile) => void) {
    const { uss } = index.sheet;
    if (!uss) throw new RangeError(`sheet ${index.sheet.slug} says nothing of USS, so no drive can speak it`);
    this.#index = index;
    this.#clock = clock;
    this.#rule = uss;
    this.#inverts = index.words?.control.bits.find(({ role }) => role === 'reverse')?.bit ?? null;
    this.#kept = kept;
    this.#onKeep = onKeep;
    this.#link = end;
    this.#upFromUs = clock.now();
    this.#shaft = new Shaft(clock);
    this.#parameters = new Map(channelParameters(index).map((parameter) => [parameter.number, parameter]));
    this.#answer = this.#nothing();
    this.#telegram = plainTelegram(uss.pzdWords);
    this.#powerUp();
  }

  link(): LinkEnd {
    return this.#link;
  }

  isUp(): boolean {
    return this.#powered && this.#clock.now() >= this.#upFromUs;
  }

  isTurning(): boolean {
    return this.#shaft.isTurning();
  }

  heardBreak(us: number): void {
    this.#link = afterBreak(this.#index.sheet, this.#link, us);
  }

  /** The selector at the drive is the command source: turning it changes a parameter behind the master's back, which is reported. */
  setHands({ selector, liveFault }: Hands): void {
    this.#liveFault = liveFault;
    if (liveFault !== 0) this.#trip(liveFault);
    const source = this.#numberOf('command-source');
    if (source === undefined) return;
    const wanted = selector === 'local' ? KEYPAD : LINE;
    if (this.#value(source, 0) === wanted) return;
    this.#working.set(`${source}.0`, wanted);
    this.#reports.push(source);
  }

  powerOff(): void {
    this.#powered = false;
    this.#machine.powerUp();
    this.#steer();
  }

  powerCycle(): void {
    this.#powered = true;
    this.#upFromUs = this.#clock.now() + (this.#index.sheet.link?.bootMs ?? 0) * 1000;
    this.#powerUp();
  }

  #powerUp(): void {
    this.#working = new Map(Object.entries(this.#kept));
    this.#answer = this.#nothing();
    this.#lastTask = '';
    this.#held = null;
    this.#reports = [];
    this.#fault = 0;
    this.#setpoint = 0;
    this.#telegram = DRIVE_TELEGRAMS.get(this.#valueOf('telegram', 0)) ?? plainTelegram(this.#rule.pzdWords);
    this.#beat = 0;
    this.#machine.powerUp();
    this.#steer();
  }

  /** The answer's net data to a request's, or null when its size is not this drive's. */
  exchange(net: readonly number[]): readonly number[] | null {
    const { pkwWords } = this.#rule;
    const key = word(net, 0);
    // A text may come in a channel as long as it needs; everything else in the drive's own.
    const channelWords = net.length / 2 - this.#telegram.words;
    const isLongText = channelWords > pkwWords && Number.isInteger(channelWords) && Math.floor(key / 4096) === 15;
    if (channelWords !== pkwWords && !isLongText) return null;
    const double = pkwWords === 4;
    const task: Task = {
      id: Math.floor(key / 4096),
      parameter: this.#number(key % 2048, word(net, 2)),
      index: this.#element(word(net, 2)),
      high: double ? word(net, 4) : 0,
      low: word(net, double ? 6 : 4),
      words: channelWords,
    };
    const confirmsReport = Math.floor(key / 2048) % 2 === 1;
    const channel = this.#channel(task, confirmsReport, net.slice(0, 2 * channelWords).join(' '));
    const asked = Array.from({ length: this.#telegram.words }, (_, i) => word(net, 2 * (channelWords + i)));
    this.#process(asked);
    const told = {
      status: this.#status(),
      speed: this.#shaft.speed(),
      turns: this.#turns(),
      asked,
      beat: this.#beat++,
    };
    const back = this.#telegram.back(told);
    const answered = Array.from({ length: channelWords }, (_, i) => channel[i] ?? 0);
    return [...answered, ...back].flatMap((value) => [Math.floor(value / 256), value % 256]);
  }

  /** The words of the process data: control word 1, then what the telegram in use has. */
  #process(asked: readonly number[]): void {
    if (this.#isLineInCommand()) {
      const [control = 0] = asked;
      this.#machine.command(control, this.#liveFault === 0, !this.#shaft.isTurning());
      if (!this.#machine.isFaulted()) this.#fault = 0;
      // Without control by PLC the set-point does not count either.
      if (Math.floor(control / 1024) % 2 === 1) this.#setpoint = this.#telegram.wanted(asked) * FULL_SCALE;
    }
    this.#steer();
    this.#feedWatchdog();
  }

  #isLineInCommand(): boolean {
    const source = this.#numberOf('command-source');
    return source === undefined || this.#value(source, 0) === LINE;
  }

  #numberOf(role: ParameterRole): number | undefined {
    return [...this.#parameters.values()].find((parameter) => parameter.role === role)?.number;
  }

  #valueOf(role: ParameterRole, fallback: number): number {
    const number = this.#numberOf(role);
    return number === undefined ? fallback : this.#value(number, 0);
  }

  /** Where the shaft should go now. Speeds are shares of the full scale; the ramp time is from standstill to it. */
  #steer(): void {
    const slope = 10 / Math.max(1, this.#valueOf('ramp-time', 10));
    const state = this.#machine.state();
    if (state === 'S1') this.#shaft.head(0, COAST);
    else if (state === 'S4') this.#follow(slope);
    else this.#shaft.head(0, state === 'S5' && this.#machine.isFast() ? slope * FAST : slope);
    if (this.#standstill !== null) this.#clock.cancel(this.#standstill);
    this.#standstill = null;
    if (state !== 'S5') return;
    this.#standstill = this.#clock.at(this.#shaft.arrivesUs() + 1, () => {
      this.#standstill = null;
      this.#machine.settle(true);
      this.#steer();
    });
  }

  #follow(slope: number): void {
    const control = this.#machine.word();
    const bit = (n: number): boolean => Math.floor(control / 2 ** n) % 2 === 1;
    // Jog: bits 4 to 6 at 0, bit 8 or 9 alone (from memory of the published description).
    if (!bit(4) && !bit(5) && !bit(6) && bit(8) !== bit(9))
      return this.#shaft.head(((bit(8) ? 1 : -1) * this.#valueOf('jog-speed', 0)) / FULL_SCALE, slope);
    // Run ramp: 0 keeps the speed that it has.
    if (bit(4) && !bit(5)) return this.#shaft.head(this.#shaft.speed(), slope);
    this.#shaft.head(bit(4) && bit(6) ? this.#wanted(this.#inverts !== null && bit(this.#inverts)) : 0, slope);
  }

  #wanted(inverted: boolean): number {
    const least = this.#valueOf('minimum-speed', 0);
    const most = this.#valueOf('maximum-speed', FULL_SCALE);
    const size = Math.min(most, Math.max(least, Math.abs(this.#setpoint))) / FULL_SCALE;
    const sign = (this.#setpoint < 0 ? -1 : 1) * (inverted ? -1 : 1);
    // An end that is reached lets the hoist go the other way only.
    const ends = this.#valueOf('end-inputs', 0);
    return ends % 4 === 3 || ends === (sign > 0 ? UPPER_END : LOWER_END) ? 0 : sign * size;
  }

  #status(): number {
    const speed = Math.abs(this.#shaft.speed());
    const wanted = Math.abs(this.#setpoint) / FULL_SCALE;
    const within = Math.abs(speed - wanted) <= TOLERANCE ? 0x100 : 0;
    const requested = this.#isLineInCommand() ? 0x200 : 0;
    const reached = this.#machine.state() === 'S4' && speed >= wanted ? 0x400 : 0;
    return this.#machine.statusBits() + within + requested + reached;
  }

  /** Turns of the shaft since power came: full scale is the rated frequency, over the pairs of poles. */
  #turns(): number {
    return (this.#shaft.way() * RATED_HZ * 2) / Math.max(2, this.#valueOf('motor-poles', 4));
  }

  #trip(code: number): void {
    if (this.#fault === 0) this.#fault = code;
    this.#machine.fail();
    this.#steer();
  }

  /** The drive watches its master while it is in operation. */
  #feedWatchdog(): void {
    if (this.#watch !== null) this.#clock.cancel(this.#watch);
    this.#watch = null;
    const ms = this.#valueOf('watchdog-time', 0);
    if (ms === 0 || this.#machine.state() !== 'S4') return;
    this.#watch = this.#clock.at(this.#clock.now() + ms * 1000, () => {
      this.#watch = null;
      this.#trip(faultWithRole(this.#index.sheet, 'watchdog'));
    });
  }

  #channel(task: Task, confirmsReport: boolean, asText: string): readonly number[] {
    if (confirmsReport) this.#reports.shift();
    if (this.#held) {
      this.#held.left--;
      if (this.#held.left > 0) return this.#answer;
      this.#answer = this.#held.answer;
      this.#held = null;
      return this.#answer;
    }
    if (task.id === 0) {
      this.#lastTask = '';
      const [report] = this.#reports;
      if (report === undefined) return (this.#answer = this.#nothing());
      return (this.#answer = this.#words(this.#isDouble(report) ? 10 : 9, report, 0, this.#value(report, 0)));
    }
    if (asText === this.#lastTask) return this.#answer;
    this.#lastTask = asText;
    const answer = this.#work(task);
    if (task.id >= 11 && task.id <= 14 && Math.floor((answer[0] ?? 0) / 4096) !== REFUSED) {
      this.#held = { answer, left: STORING_TELEGRAMS };
      return this.#answer;
    }
    return (this.#answer = answer);
  }

  #work(task: Task): readonly number[] {
    const parameter = this.#parameters.get(task.parameter);
    if (!parameter) return this.#refuse(task, NO_NUMBER);
    const { elements, double } = parameter;
    switch (task.id) {
      case 1:
        return this.#words(double ? 2 : 1, task.parameter, 0, this.#value(task.parameter, 0));
      case 6:
        if (elements === 1) return this.#refuse(task, NO_ARRAY);
        if (task.index >= elements) return this.#refuse(task, NO_INDEX);
        return this.#words(double ? 5 : 4, task.parameter, task.index, this.#value(task.parameter, task.index));
      case 9:
        return elements === 1 ? this.#refuse(task, NO_ARRAY) : this.#words(6, task.parameter, 0, elements);
      case 4:
      case 5:
        return this.#refuse(task, NO_DESCRIPTION);
      case 15:
        return parameter.text ? this.#text(task, parameter.text) : this.#refuse(task, NO_TEXT);
      default:
        return this.#write(task, parameter);
    }
  }

  #write(task: Task, parameter: ChannelParameter): readonly number[] {
    const { elements, double } = parameter;
    const isDoubleTask = [3, 8, 11, 13].includes(task.id);
    const isArrayTask = [7, 8, 11, 12].includes(task.id);
    if (parameter.write === 'never') return this.#refuse(task, NOT_CHANGEABLE);
    if (isDoubleTask !== double) return this.#refuse(task, WRONG_TYPE);
    if (isArrayTask && elements === 1) return this.#refuse(task, NO_ARRAY);
    if (task.index >= elements) return this.#refuse(task, NO_INDEX);
    const raw = double ? task.high * 65536 + task.low : task.low;
    const half = double ? 2 ** 31 : 2 ** 15;
    const value = parameter.min < 0 && raw >= half ? raw - 2 * half : raw;
    if (this.#isLocked(parameter.placed)) return this.#refuse(task, NOT_CHANGEABLE);
    if (!accepts(parameter.placed, value)) return this.#refuse(task, OUT_OF_LIMITS);
    const place = `${parameter.number}.${task.index}`;
    const held = taken(parameter.placed, value);
    this.#working.set(place, held);
    this.#reset(parameter.placed, held);
    if (task.id >= 11) {
      this.#kept = { ...this.#kept, [place]: held };
      this.#onKeep(this.#kept);
    }
    const answerId = isArrayTask ? (double ? 5 : 4) : double ? 2 : 1;
    return this.#words(answerId, parameter.number, task.index, held);
  }

  #isLocked({ lockedBy }: PlacedParameter): boolean {
    return lockedBy !== undefined && this.#value(Number(lockedBy.parameter), 0) !== lockedBy.value;
  }

  /** What a write sets back goes to the factory's values. */
  #reset({ resets, number: own }: PlacedParameter, value: number): void {
    if (!resets || value === 0) return;
    for (const { number, elements } of this.#parameters.values())
      if (`${number}` !== own && (resets === 'all' || resets.includes(`${number}`)))
        for (let element = 0; element < elements; element++) this.#working.delete(`${number}.${element}`);
  }

  #value(number: number, element: number): number {
    if (element === 0 && number === this.#numberOf('fault-code')) return this.#fault;
    const known = this.#parameters.get(number);
    const living = known ? livingNumber(known.placed, this.#clock.now()) : null;
    return living ?? this.#working.get(`${number}.${element}`) ?? known?.default ?? 0;
  }

  #isDouble(number: number): boolean {
    return this.#parameters.get(number)?.double === true;
  }

  #refuse(task: Task, error: number): readonly number[] {
    return this.#words(REFUSED, task.parameter, task.index, error);
  }

  #nothing(): readonly number[] {
    return new Array<number>(this.#rule.pkwWords).fill(0);
  }

  /** Two characters to a word, as many as the value words hold, from the one that the index names. */
  #text({ parameter: number, index, words: channel }: Task, text: string): readonly number[] {
    const size = 2 * (channel - 2);
    const part = text.slice(index * size, (index + 1) * size).padEnd(size, '\0');
    const words = Array.from({ length: size / 2 }, (_, i) => part.charCodeAt(2 * i) * 256 + part.charCodeAt(2 * i + 1));
    return [...this.#head(15, number, index), ...words];
  }

  #words(id: number, number: number, index: number, value: number): readonly number[] {
    const [high, low] = split(value < 0 ? value + 2 ** 32 : value);
    return [...this.#head(id, number, index), ...(this.#rule.pkwWords === 4 ? [high, low] : [low])];
  }

  #head(id: number, number: number, index: number): [number, number] {
    const page = [...this.#rule.pages].sort((a, b) => b.from - a.from).find(({ from }) => number >= from);
    const short = number - (page?.from ?? 0);
    const bits = page?.bits ?? 0;
    const report = this.#reports.length > 0 ? 2048 : 0;
    const place = this.#rule.indexHalf === 'high' ? index * 256 + bits : bits * 256 + index;
    return [id * 4096 + report + short, place];
  }

  #element(place: number): number {
    return this.#rule.indexHalf === 'high' ? Math.floor(place / 256) : place % 256;
  }

  #number(short: number, place: number): number {
    const bits = this.#rule.indexHalf === 'high' ? place % 256 : Math.floor(place / 256);
    return short + (this.#rule.pages.find((page) => page.bits === bits)?.from ?? 0);
  }
}
