import { pick, type Random } from '../../src/core/random/random';
import { emptySheet } from '../../src/core/sheet/empty-sheet';
import { indexSheet, registerWay, type PlacedParameter, type SheetIndex } from '../../src/core/sheet/index-sheet';
import type { Parameter } from '../../src/core/sheet/parameter-section';
import { registerCell, type Cell } from '../../src/core/sheet/place';
import { accepts } from '../../src/standin/parameter-store';
import { numberOf } from '../../src/core/drive/describe';
import { patternOfNumber } from '../../src/core/values/pattern';
import type { GroupReply } from '../../src/core/sets/set-reading';
import type { WriteAct, WriteReply } from '../../src/core/sets/set-writing';
import { patternOfCells } from '../../src/core/drive/seen';
import { wordsOfSaid } from '../../src/core/sets/said';

const TYPES = ['uint16', 'int16', 'uint32', 'int32', 'float32', 'uint16', 'uint16'] as const;

/** A made-up dictionary: several types, tables, gaps between registers, names, limits that clamp, values that only read. */
export function madeUpIndex(random: Random, count: number): SheetIndex {
  let address = pick(random, 200);
  const parameters = Array.from({ length: count }, (_, i): Parameter => {
    const type = TYPES[pick(random, TYPES.length)] ?? 'uint16';
    const isWide = type.endsWith('32');
    if (random() < 0.15) address += 1 + pick(random, 30);
    const at = address;
    address += isWide ? 2 : 1;
    const isNamed = type === 'uint16' && random() < 0.2;
    return {
      number: `${1 + Math.floor(i / 20)}.${String(i % 20).padStart(2, '0')}`,
      name: `value ${i}`,
      type,
      at: [{ kind: 'register', table: random() < 0.1 ? 'input-register' : 'holding-register', address: at }],
      ...(isWide && random() < 0.5 ? { order: 'CDAB' as const } : {}),
      ...(isNamed
        ? { choices: [0, 1, 2].map((value) => ({ value, name: `way ${value}` })) }
        : type === 'float32'
          ? {}
          : { min: 0, max: 5000 }),
      ...(random() < 0.2 ? { write: 'never' as const } : {}),
      ...(!isNamed && random() < 0.1 ? { outside: 'limited' as const } : {}),
    };
  });
  return indexSheet({ ...emptySheet('made-up', 'Made up'), parameters });
}

/** A drive behind a line that loses answers: it holds words by cells, has holes, refuses what its sheet refuses, and counts every write. */
export class MadeUpDrive {
  readonly cells = new Map<Cell, number>();
  readonly writes: string[] = [];
  readonly index: SheetIndex;
  readonly #holes: ReadonlySet<string>;
  readonly #loses: () => 'request' | 'reply' | null;

  constructor(index: SheetIndex, holes: ReadonlySet<string>, loses: () => 'request' | 'reply' | null) {
    this.index = index;
    this.#holes = holes;
    this.#loses = loses;
  }

  hold(parameter: PlacedParameter, words: readonly number[]): void {
    parameter.cells.forEach((cell, i) => this.cells.set(cell, words[i] ?? 0));
  }

  wordsOf({ cells }: PlacedParameter): readonly number[] {
    return cells.map((cell) => this.cells.get(cell) ?? 0);
  }

  read(group: readonly string[]): GroupReply {
    if (this.#loses()) return { kind: 'silent' };
    const parameters = group.flatMap((number) => this.index.byNumber.get(number) ?? []);
    const ways = parameters.flatMap((parameter) => registerWay(parameter) ?? []);
    const [first, last] = [ways[0], parameters[parameters.length - 1]];
    if (!first || !last) return { kind: 'refused', why: 'no way', all: false };
    const end = (registerWay(last)?.address ?? 0) + last.cells.length;
    const told = new Map<Cell, number>();
    for (let at = first.address; at < end; at++) {
      const cell = registerCell(at, first.table);
      const owner = this.index.byCell.get(cell);
      if (!owner || this.#holes.has(owner.number)) return { kind: 'refused', why: 'exception 2', all: false };
      told.set(cell, this.cells.get(cell) ?? 0);
    }
    return { kind: 'told', told, atMs: 0 };
  }

  answer({ kind, item }: WriteAct): WriteReply {
    const parameter = this.index.byNumber.get(item.number);
    const lost = this.#loses();
    if (!parameter || lost === 'request') return { kind: 'silent' };
    const isHole = this.#holes.has(item.number);
    if (kind === 'read') {
      if (lost) return { kind: 'silent' };
      return isHole ? { kind: 'refused', why: 'exception 2' } : { kind: 'value', words: this.wordsOf(parameter) };
    }
    this.writes.push(item.number);
    const number = numberOf(parameter, patternOfCells(parameter, item.words) ?? 0);
    const limited = Math.min(parameter.max, Math.max(parameter.min, number));
    const isTaken = accepts(parameter, number) || parameter.outside === 'limited';
    if (!isHole && parameter.write !== 'never' && isTaken)
      this.hold(
        parameter,
        parameter.outside === 'limited' ? wordsOfSaid(parameter, patternOfNumber(parameter.type, limited)) : item.words,
      );
    if (lost) return { kind: 'silent' };
    return isHole || parameter.write === 'never' || !isTaken
      ? { kind: 'refused', why: 'exception 3' }
      : { kind: 'confirmed' };
  }
}
