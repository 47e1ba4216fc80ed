import type { Row, VisitRecord } from './document';

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
}

/** Sections that tell of a moment: at every visit they are others. */
const OF_THE_MOMENT: ReadonlySet<string> = new Set(['open', 'leaving', 'exchanges', 'faults']);

const rowsOf = ({ sections }: VisitRecord): ReadonlyMap<string, Placed> =>
  new Map(
    sections
      .filter(({ id }) => !OF_THE_MOMENT.has(id))
      .flatMap(({ title, blocks }) =>
        blocks.flatMap((block) =>
          block.kind === 'table'
            ? block.rows.map((row): readonly [string, Placed] => [row.key, { section: title, table: block.title, row }])
            : [],
        ),
      ),
  );

const TIME = /\d{4}-\d\d-\d\d \d\d:\d\d(?::\d\d)?|\b\d+ times\b|\b\d+\.\d\d s\b/g;

/** When something was, how long a step took and how often a drive answered is another thing every time. */
const said = ({ cells, mark }: Row): string => JSON.stringify([cells.map((cell) => cell.replace(TIME, '')), mark]);

/** What is different between two records of a job, line by line, in the order of the newer one; lines that are gone at the end. Linear. */
export function recordDifferences(before: VisitRecord, after: VisitRecord): readonly RecordDifference[] {
  const [old, fresh] = [rowsOf(before), rowsOf(after)];
  return [
    ...[...fresh].flatMap(([key, { section, table, row }]): readonly RecordDifference[] => {
      const was = old.get(key);
      return was && said(was.row) === said(row)
        ? []
        : [{ section, table, before: was ? was.row.cells : null, after: row.cells }];
    }),
    ...[...old].flatMap(([key, { section, table, row }]): readonly RecordDifference[] =>
      fresh.has(key) ? [] : [{ section, table, before: row.cells, after: null }],
    ),
  ];
}
