import type { SectionId } from './document';

/** What a person adds to a record: names, remarks, order, what is left out, what they saw to. */
export interface Visit {
  readonly plant: string;
  readonly visit: string;
  readonly by: string;
  /** What was seen before is of an earlier visit, and in no record of this one; absent: everything is of this one. Wall clock, milliseconds. */
  readonly sinceMs?: number;
  /** By section. */
  readonly remarks: Readonly<Record<string, string>>;
  /** Sections in the order of the page; those that are not named follow in their own order. */
  readonly order: readonly SectionId[];
  readonly leftOut: readonly SectionId[];
  /** What only a person can see to, by the check: who says so, and when. */
  readonly ticks: Readonly<Record<string, { readonly by: string; readonly atMs: number }>>;
}

export const NO_VISIT: Visit = { plant: '', visit: '', by: '', remarks: {}, order: [], leftOut: [], ticks: {} };

/** The next visit: what was said of the last one stays in its record. Plant, name, order and what is left out stay. */
export const nextVisit = (visit: Visit, sinceMs: number): Visit => ({
  ...visit,
  visit: '',
  remarks: {},
  ticks: {},
  sinceMs,
});
