import type { ParameterRole } from '../core/sheet/parameter-section';
import type { PlacedParameter, SheetIndex } from '../core/sheet/index-sheet';

/** Raw numbers by parameter number, as they survive loss of power. */
export type Nonvolatile = Readonly<Record<string, number>>;

const asWord = (value: number): number => ((value % 65536) + 65536) % 65536;
const asNumber = (parameter: PlacedParameter, word: number): number =>
  parameter.type === 'int16' && word >= 32768 ? word - 65536 : word;

/** A drive's two memories: working values that the registers show, and what is kept without power. */
export class ParameterStore {
  readonly #index: SheetIndex;
  #kept: Nonvolatile;
  #working = new Map<number, number>();

  constructor(index: SheetIndex, kept: Nonvolatile) {
    this.#index = index;
    this.#kept = kept;
    this.powerUp();
  }

  /** Working memory as after power comes on: what was kept, else the factory's values. */
  powerUp(): void {
    this.#working = new Map(
      this.#index.parameters.map((parameter) => [
        parameter.address,
        asWord(this.#kept[parameter.number] ?? parameter.default),
      ]),
    );
  }

  keep(): Nonvolatile {
    const kept = this.#index.parameters.filter((parameter) => parameter.kept);
    this.#kept = {
      ...this.#kept,
      ...Object.fromEntries(kept.map((parameter) => [parameter.number, this.#numberAt(parameter)])),
    };
    return this.#kept;
  }

  parameterAt(address: number): PlacedParameter | undefined {
    return this.#index.byAddress.get(address);
  }

  wordAt(address: number): number {
    return this.#working.get(address) ?? 0;
  }

  /** The number of the parameter with a role; `fallback` where the sheet has none. */
  number(role: ParameterRole, fallback: number): number {
    const parameter = this.#index.byRole.get(role);
    return parameter ? this.#numberAt(parameter) : fallback;
  }

  /** The name of the choice that the parameter with a role holds, such as `19200`; null where it has none. */
  choiceName(role: ParameterRole): string | null {
    const parameter = this.#index.byRole.get(role);
    const word = parameter && this.wordAt(parameter.address);
    return parameter?.choices?.find(({ value }) => value === word)?.name ?? null;
  }

  set(address: number, word: number): void {
    this.#working.set(address, asWord(word));
  }

  setRole(role: ParameterRole, number: number): void {
    const parameter = this.#index.byRole.get(role);
    if (parameter) this.set(parameter.address, number);
  }

  /** 0 when a write would be taken, else the exception code that the sheet gives for it. */
  refusalOf(address: number, word: number, turning: boolean): number {
    const parameter = this.parameterAt(address);
    const refusals = this.#index.sheet.refusals ?? { readOnly: 2, limit: 3, state: 4 };
    if (!parameter) return 2;
    if (parameter.write === 'never') return refusals.readOnly;
    if (parameter.write === 'standstill' && turning) return refusals.state;
    return this.accepts(parameter, word) ? 0 : refusals.limit;
  }

  /** Whether a word is within the sheet's limits and, where it has names, one of them. */
  accepts(parameter: PlacedParameter, word: number): boolean {
    const number = asNumber(parameter, word);
    if (number < parameter.min || number > parameter.max) return false;
    return !parameter.choices || parameter.choices.some((choice) => choice.value === word);
  }

  #numberAt(parameter: PlacedParameter): number {
    return asNumber(parameter, this.wordAt(parameter.address));
  }
}
