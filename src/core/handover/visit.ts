import type { SectionId } from './document';

/** What a person adds to a record: names, remarks, order, what is left out, what they saw to. */
export interface Visit {
  readonly plant: string;
  readonly visit: string;
  readonly by: string;
  /** By section. */
  readonly remarks: Readonly<Record<string, string>>;
  /** Sections in the order of the page; those that are not named follow in their own order. */
  readonly order: readonly SectionId[];
  readonly leftOut: readonly SectionId[];
  /** What only a person can see to, by the check: who says so, and when. */
  readonly ticks: Readonly<Record<string, { readonly by: string; readonly atMs: number }>>;
}

export const NO_VISIT: Visit = { plant: '', visit: '', by: '', remarks: {}, order: [], leftOut: [], ticks: {} };
