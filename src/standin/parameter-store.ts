import type { ParameterRole } from '../core/sheet/parameter-section';
import { cellOf, type PlaceOf } from '../core/sheet/place';
import type { PlacedParameter, SheetIndex } from '../core/sheet/index-sheet';
import { isBeyondNumbers, numberFrom, wordsFor } from './value-words';

/** Raw numbers by parameter number, as they survive loss of power. */
export type Nonvolatile = Readonly<Record<string, number>>;

export type Table = PlaceOf<'register'>['table'];

/** A value that a write gives to a parameter. */
export interface GivenValue {
  readonly parameter: PlacedParameter;
  readonly number: number;
  /** Its registers, which for a text or a value of 64 bits say more than the number. */
  readonly words: readonly number[];
}

const NO_SUCH_ADDRESS = 2;

/** The register tables of each sheet, looked for once: a test builds drives of one sheet by the ten thousand. */
const tables = new WeakMap<SheetIndex, ReadonlySet<Table>>();

function tablesOf(index: SheetIndex): ReadonlySet<Table> {
  const known = tables.get(index);
  if (known) return known;
  const found = new Set(index.parameters.flatMap(({ place }) => (place.kind === 'register' ? [place.table] : [])));
  tables.set(index, found);
  return found;
}

/** A drive's two memories, as numbers: working values that the registers show, and what is kept without power. */
export class ParameterStore {
  readonly #index: SheetIndex;
  readonly #tables: ReadonlySet<Table>;
  #kept: Nonvolatile;
  /** What was given since power came on; the others are as they were kept, or as the factory sets them. */
  #working = new Map<string, number>();
  /** Texts and values of 64 bits that were written, as their registers. */
  #written = new Map<string, readonly number[]>();
  #keptWritten = new Map<string, readonly number[]>();

  constructor(index: SheetIndex, kept: Nonvolatile) {
    this.#index = index;
    this.#kept = kept;
    this.#tables = tablesOf(index);
  }

  /** Working memory as after power comes on: what was kept, else the factory's values. */
  powerUp(): void {
    this.#working = new Map();
    this.#written = new Map(this.#keptWritten);
  }

  keep(): Nonvolatile {
    const kept = this.#index.parameters.filter((parameter) => parameter.kept);
    this.#kept = {
      ...this.#kept,
      ...Object.fromEntries(kept.map((parameter) => [parameter.number, this.numberOf(parameter)])),
    };
    const names = new Set(kept.map(({ number }) => number));
    this.#keptWritten = new Map([...this.#written].filter(([number]) => names.has(number)));
    return this.#kept;
  }

  /** Whether the drive has a table at all; one without input registers answers for them with its holding registers. */
  hasTable(table: Table): boolean {
    return this.#tables.has(table) || table === 'input-register';
  }

  parameterAt(address: number, table: Table = 'holding-register'): PlacedParameter | undefined {
    const own = this.#tables.has(table) ? table : 'holding-register';
    return this.#index.byCell.get(cellOf({ kind: 'register', table: own, address }));
  }

  /** The word at an address, of a parameter that holds this number. */
  wordOf(parameter: PlacedParameter, address: number, number: number, table: Table | undefined): number {
    const words = this.#written.get(parameter.number) ?? wordsFor(parameter, number);
    return words[this.#partAt(parameter, address, table ?? 'holding-register', words.length)] ?? 0;
  }

  /** Which register of a value an address is, by whichever of its ways. */
  #partAt({ place, others }: PlacedParameter, address: number, table: Table, size: number): number {
    const own = this.#tables.has(table) ? table : 'holding-register';
    for (const way of [place, ...others])
      if (way.kind === 'register' && way.table === own && address >= way.address && address < way.address + size)
        return address - way.address;
    return 0;
  }

  numberOf({ number, default: factory = 0 }: PlacedParameter): number {
    return this.#working.get(number) ?? this.#kept[number] ?? factory;
  }

  /** The number of the parameter with a role; `fallback` where the sheet has none. */
  number(role: ParameterRole, fallback: number): number {
    const parameter = this.#index.byRole.get(role);
    return parameter ? this.numberOf(parameter) : fallback;
  }

  /** The name of the choice that the parameter with a role holds, such as `19200`; null where it has none. */
  choiceName(role: ParameterRole): string | null {
    const parameter = this.#index.byRole.get(role);
    return parameter?.choices?.find(({ value }) => value === this.numberOf(parameter))?.name ?? null;
  }

  /** Takes a value as this drive does: within its limits, rounded to its steps; what it resets goes back to the factory's. */
  set(parameter: PlacedParameter, value: number): void {
    this.#working.set(parameter.number, taken(parameter, value));
    const { resets } = parameter;
    if (!resets || value === 0) return;
    for (const { number, default: factory = 0 } of this.#index.parameters)
      if (number !== parameter.number && (resets === 'all' || resets.includes(number))) {
        this.#working.set(number, factory);
        this.#written.delete(number);
      }
  }

  /** Takes what a write gave. */
  take({ parameter, number, words }: GivenValue): void {
    this.set(parameter, number);
    if (isBeyondNumbers(parameter)) this.#written.set(parameter.number, words);
  }

  #isLocked({ lockedBy }: PlacedParameter): boolean {
    if (!lockedBy) return false;
    const lock = this.#index.byNumber.get(lockedBy.parameter);
    return !lock || this.numberOf(lock) !== lockedBy.value;
  }

  setRole(role: ParameterRole, number: number): void {
    const parameter = this.#index.byRole.get(role);
    if (parameter) this.set(parameter, number);
  }

  /** What words from an address on give to parameters; a word that is a part of a wide value goes into what it holds. Null: one of them is not there. */
  valuesOf(address: number, words: readonly number[], table: Table = 'holding-register'): readonly GivenValue[] | null {
    const given: GivenValue[] = [];
    for (let i = 0; i < words.length;) {
      const parameter = this.parameterAt(address + i, table);
      if (!parameter || parameter.place.kind !== 'register') return null;
      const own = [...(this.#written.get(parameter.number) ?? wordsFor(parameter, this.numberOf(parameter)))];
      const part = this.#partAt(parameter, address + i, table, own.length);
      const taken = Math.min(own.length - part, words.length - i);
      for (let k = 0; k < taken; k++) own[part + k] = words[i + k] ?? 0;
      given.push({ parameter, number: numberFrom(parameter, own), words: own });
      i += taken;
    }
    return given;
  }

  /** 0 when a write would be taken, else the exception code that the sheet gives for it. */
  refusalOf(given: readonly GivenValue[] | null, turning: boolean): number {
    if (!given) return NO_SUCH_ADDRESS;
    const refusals = this.#index.sheet.refusals ?? { readOnly: 2, limit: 3, state: 4 };
    for (const { parameter, number } of given) {
      if (parameter.write === 'never' || this.#isLocked(parameter)) return refusals.readOnly;
      if (parameter.write === 'standstill' && turning) return refusals.state;
      if (!accepts(parameter, number)) return refusals.limit;
    }
    return 0;
  }
}

/** What a drive holds after a number was written: some limit it, some round it, and confirm it all the same. */
export const taken = ({ min, max, outside, step }: PlacedParameter, number: number): number => {
  const within = outside === 'limited' ? Math.min(max, Math.max(min, number)) : number;
  return step === undefined ? within : Math.round(within / step) * step;
};

/** Whether a number is within the sheet's limits, or limited to them, and, where it has names, one of them. */
export function accepts({ min, max, choices, outside }: PlacedParameter, number: number): boolean {
  if (outside !== 'limited' && !(number >= min && number <= max)) return false;
  return !choices || choices.some((choice) => choice.value === number);
}
