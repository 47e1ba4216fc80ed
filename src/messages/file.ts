import type { Job, KeptFrame } from '../core/job/job';
import type { JobFile } from '../core/job/job-file';
import type { JobFault } from '../core/job/load-job';
import type { Description } from '../core/devices/description';
import type { OpenedSet } from '../core/sets/open-set';
import type { Sheet } from '../core/sheet/sheet';
import type { FramedPage, PageTable } from '../core/tables/page-table';
import type { TableReading, TableSettings } from '../core/tables/read-table';

/** What the page asks of the file worker, one question a worker. */
export type FileQuestion =
  | { readonly kind: 'read-job'; readonly file: File }
  | { readonly kind: 'read-frames'; readonly file: File }
  | { readonly kind: 'read-table'; readonly table: string | File; readonly settings: TableSettings }
  | { readonly kind: 'open-set'; readonly file: File; readonly sheet: Sheet }
  | { readonly kind: 'page-table'; readonly pages: readonly FramedPage[]; readonly columns: readonly number[] | null }
  | { readonly kind: 'describe'; readonly file: File }
  | { readonly kind: 'read-sheet'; readonly file: File }
  | { readonly kind: 'export-trace'; readonly form: 'csv' | 'jsonl'; readonly job: Job };

export type FileAnswer =
  | { readonly kind: 'job'; readonly file: JobFile }
  | { readonly kind: 'frames'; readonly frames: readonly KeptFrame[] }
  | { readonly kind: 'table'; readonly text: string; readonly reading: TableReading }
  | { readonly kind: 'set'; readonly opened: OpenedSet }
  | { readonly kind: 'page-table'; readonly table: PageTable }
  | { readonly kind: 'description'; readonly description: Description }
  | { readonly kind: 'sheet'; readonly sheet: Sheet }
  | { readonly kind: 'faults'; readonly faults: readonly JobFault[] }
  | { readonly kind: 'file'; readonly blob: Blob; readonly entries: number };
