import type { Job, KeptFrame } from '../core/job/job';
import type { JobFile } from '../core/job/job-file';
import type { JobFault } from '../core/job/load-job';
import type { Description } from '../core/devices/description';
import type { OpenedSet } from '../core/sets/open-set';
import type { Adopted, Reach } from '../core/sheet/adopt-described';
import type { Sheet } from '../core/sheet/sheet';
import type { FramedPage, PageTable } from '../core/tables/page-table';
import type { TableReading, TableSettings } from '../core/tables/read-table';

/** What the page asks of the file worker, one question a worker. */
export type FileQuestion =
  | { readonly kind: 'read-job'; readonly file: File }
  | { readonly kind: 'read-frames'; readonly file: File }
  | { readonly kind: 'table-text'; readonly file: File }
  | { readonly kind: 'read-table'; readonly text: string; readonly settings: TableSettings; readonly reach: Reach }
  | { readonly kind: 'open-set'; readonly file: File; readonly sheet: Sheet }
  | { readonly kind: 'page-table'; readonly pages: readonly FramedPage[]; readonly columns: readonly number[] | null }
  | { readonly kind: 'describe'; readonly file: File }
  | { readonly kind: 'photo'; readonly file: File }
  | { readonly kind: 'read-sheet'; readonly file: File }
  /** A sheet as its file holds it, of which nothing is known yet. */
  | { readonly kind: 'load-sheet'; readonly sheet: unknown }
  | { readonly kind: 'export-trace'; readonly form: 'csv' | 'jsonl'; readonly job: Job };

/** An entry as it would be taken, with the line of the table that it was read from. */
export interface AdoptedLine extends Adopted {
  readonly line: number;
}

/** A table that was read, its parameters made entries of a sheet: thousands of them are no work for the page. */
export interface AdoptedTable extends Omit<TableReading, 'parameters'> {
  readonly adopted: readonly AdoptedLine[];
}

export interface AdoptedDescription extends Omit<Description, 'parameters'> {
  readonly adopted: readonly Adopted[];
}

export type FileAnswer =
  | { readonly kind: 'job'; readonly file: JobFile }
  | { readonly kind: 'frames'; readonly frames: readonly KeptFrame[] }
  | { readonly kind: 'table-text'; readonly text: string }
  | { readonly kind: 'table'; readonly table: AdoptedTable }
  | { readonly kind: 'set'; readonly opened: OpenedSet }
  | { readonly kind: 'page-table'; readonly table: PageTable }
  | { readonly kind: 'description'; readonly description: AdoptedDescription }
  | { readonly kind: 'sheet'; readonly sheet: Sheet }
  | { readonly kind: 'photo'; readonly width: number; readonly height: number; readonly jpeg: Uint8Array }
  | { readonly kind: 'faults'; readonly faults: readonly JobFault[] }
  | { readonly kind: 'file'; readonly blob: Blob; readonly entries: number };
