import type { SheetIndex } from '../core/sheet/index-sheet';
import type { SheetUssParameter } from '../core/sheet/uss-section';
import type { Clock } from '../core/time/clock';
import type { Nonvolatile } from './parameter-store';
import type { LinkEnd } from './rtu-station';
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
const COMMAND_SOURCE = 110;
const KEYPAD = 1;
const LINE = 2;
/** Ready to switch on, no OFF2, no OFF3, control requested: what the drive says while nothing drives its state machine. */
const STATUS_AT_REST = 0x0231;

interface Task {
  readonly id: number;
  readonly parameter: number;
  readonly index: number;
  readonly high: number;
  readonly low: number;
}

const word = (bytes: readonly number[], at: number): number => (bytes[at] ?? 0) * 256 + (bytes[at + 1] ?? 0);
const split = (value: number): [number, number] => [Math.floor(value / 65536) % 65536, value % 65536];

/**
 * A drive behind USS, from its sheet: the parameter channel with both memories, refusals and change reports, and process data. It stands still;
 * what its words do comes with the state machine.
 */
export class UssDrive implements YardDrive {
  readonly #index: SheetIndex;
  readonly #clock: Clock;
  readonly #rule: NonNullable<SheetIndex['sheet']['uss']>;
  readonly #onKeep: (kept: Nonvolatile) => void;
  readonly #parameters: ReadonlyMap<number, SheetUssParameter>;
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

  constructor(index: SheetIndex, clock: Clock, kept: Nonvolatile, end: LinkEnd, onKeep: (kept: Nonvolatile) => void) {
    const { uss } = index.sheet;
    if (!uss) throw new RangeError(`sheet ${index.sheet.slug} says nothing of USS, so no drive can speak it`);
    this.#index = index;
    this.#clock = clock;
    this.#rule = uss;
    this.#kept = kept;
    this.#onKeep = onKeep;
    this.#link = end;
    this.#upFromUs = clock.now();
    this.#parameters = new Map(uss.parameters.map((parameter) => [parameter.number, parameter]));
    this.#answer = this.#nothing();
    this.#powerUp();
  }

  link(): LinkEnd {
    return this.#link;
  }

  isUp(): boolean {
    return this.#powered && this.#clock.now() >= this.#upFromUs;
  }

  isTurning(): boolean {
    return false;
  }

  heardBreak(us: number): void {
    const { link } = this.#index.sheet;
    if (link?.serial && link.breakToDefaultMs !== undefined && us >= link.breakToDefaultMs * 1000)
      this.#link = { ...this.#link, settings: link.serial };
  }

  /** The selector at the drive is the command source: turning it changes a parameter behind the master's back, which is reported. */
  setHands({ selector }: Hands): void {
    if (!this.#parameters.has(COMMAND_SOURCE)) return;
    const wanted = selector === 'local' ? KEYPAD : LINE;
    if (this.#value(COMMAND_SOURCE, 0) === wanted) return;
    this.#working.set(`${COMMAND_SOURCE}.0`, wanted);
    this.#reports.push(COMMAND_SOURCE);
  }

  powerOff(): void {
    this.#powered = false;
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
  }

  /** The answer's net data to a request's, or null when its size is not this drive's. */
  exchange(net: readonly number[]): readonly number[] | null {
    const { pkwWords, pzdWords } = this.#rule;
    if (net.length !== 2 * (pkwWords + pzdWords)) return null;
    const double = pkwWords === 4;
    const key = word(net, 0);
    const task: Task = {
      id: Math.floor(key / 4096),
      parameter: this.#number(key % 2048, word(net, 2)),
      index: this.#element(word(net, 2)),
      high: double ? word(net, 4) : 0,
      low: word(net, double ? 6 : 4),
    };
    const confirmsReport = Math.floor(key / 2048) % 2 === 1;
    const channel = this.#channel(task, confirmsReport, net.slice(0, 2 * pkwWords).join(' '));
    const status = [STATUS_AT_REST, ...new Array<number>(Math.max(pzdWords - 1, 0)).fill(0)].slice(0, pzdWords);
    return [...channel, ...status].flatMap((value) => [Math.floor(value / 256), value % 256]);
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
    const { elements = 1, double = false } = parameter;
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
        return parameter.text ? this.#text(task.parameter, task.index, parameter.text) : this.#refuse(task, NO_TEXT);
      default:
        return this.#write(task, parameter);
    }
  }

  #write(task: Task, parameter: SheetUssParameter): readonly number[] {
    const { elements = 1, double = false } = parameter;
    const isDoubleTask = [3, 8, 11, 13].includes(task.id);
    const isArrayTask = [7, 8, 11, 12].includes(task.id);
    if (parameter.write === 'never') return this.#refuse(task, NOT_CHANGEABLE);
    if (isDoubleTask !== double) return this.#refuse(task, WRONG_TYPE);
    if (isArrayTask && elements === 1) return this.#refuse(task, NO_ARRAY);
    if (task.index >= elements) return this.#refuse(task, NO_INDEX);
    const raw = double ? task.high * 65536 + task.low : task.low;
    const half = double ? 2 ** 31 : 2 ** 15;
    const value = parameter.min < 0 && raw >= half ? raw - 2 * half : raw;
    if (value < parameter.min || value > parameter.max) return this.#refuse(task, OUT_OF_LIMITS);
    const place = `${parameter.number}.${task.index}`;
    this.#working.set(place, value);
    if (task.id >= 11) {
      this.#kept = { ...this.#kept, [place]: value };
      this.#onKeep(this.#kept);
    }
    const answerId = isArrayTask ? (double ? 5 : 4) : double ? 2 : 1;
    return this.#words(answerId, parameter.number, task.index, value);
  }

  #value(number: number, element: number): number {
    return this.#working.get(`${number}.${element}`) ?? this.#parameters.get(number)?.default ?? 0;
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
  #text(number: number, index: number, text: string): readonly number[] {
    const size = 2 * (this.#rule.pkwWords - 2);
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
