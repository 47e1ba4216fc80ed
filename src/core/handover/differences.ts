import type { Row, Table, VisitRecord } from './document';

/** One line that two records do not have alike; null where one of them does not have it. */
export interface RecordDifference {
  readonly section: string;
  readonly table: string;
  readonly before: readonly string[] | null;
  readonly after: readonly string[] | null;
}

interface Placed {
  readonly section: string;
  readonly table: string;
  readonly row: Row;
  /** What counts of the row, as text. */
  readonly said: string;
}

/** Sections that tell of a moment: at every visit they are others. */
const OF_THE_MOMENT: ReadonlySet<string> = new Set(['open', 'leaving', 'exchanges', 'faults']);

/** Columns that are another thing every time: when something was, how often, how long; their row's mark and its other cells are compared. */
const EVERY_TIME: ReadonlySet<string> = new Set(['when', 'took', 'seen', 'came to', 'how it is known']);

const placed = (section: string, { title, head, rows }: Table): readonly (readonly [string, Placed])[] =>
  rows.map((row) => {
    const counts = row.cells.filter((_, i) => !EVERY_TIME.has(head[i] ?? ''));
    return [row.key, { section, table: title, row, said: JSON.stringify([counts, row.mark]) }];
  });

const rowsOf = ({ sections }: VisitRecord): ReadonlyMap<string, Placed> =>
  new Map(
    sections
      .filter(({ id }) => !OF_THE_MOMENT.has(id))
      .flatMap(({ title, blocks }) => blocks.flatMap((block) => (block.kind === 'table' ? placed(title, block) : []))),
  );

/** What is different between two records of a job, line by line, in the order of the newer one; lines that are gone at the end. Linear. */
export function recordDifferences(before: VisitRecord, after: VisitRecord): readonly RecordDifference[] {
  const [old, fresh] = [rowsOf(before), rowsOf(after)];
  return [
    ...[...fresh].flatMap(([key, { section, table, row, said }]): readonly RecordDifference[] => {
      const was = old.get(key);
      return was?.said === said ? [] : [{ section, table, before: was ? was.row.cells : null, after: row.cells }];
    }),
    ...[...old].flatMap(([key, { section, table, row }]): readonly RecordDifference[] =>
      fresh.has(key) ? [] : [{ section, table, before: row.cells, after: null }],
    ),
  ];
}
