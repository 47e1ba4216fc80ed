import type { VisitRecord } from '../core/handover/document';
import type { Visit } from '../core/handover/visit';
import type { Photo } from '../core/handover/photo';
import type { Paper } from '../core/handover/html';
import type { Job } from '../core/job/job';
import type { Sheet } from '../core/sheet/sheet';
import type { SetRow, TrialRunRow, WritingRow } from '../store/database';

/** All that the page knows and the worker does not; the trace it reads by itself. */
export interface RecordSources {
  readonly job: Job;
  /** Every revision of every sheet that is here. */
  readonly sheets: readonly Sheet[];
  readonly sets: readonly SetRow[];
  readonly writings: readonly WritingRow[];
  readonly runs: readonly TrialRunRow[];
  readonly photos: readonly Photo[];
  readonly visit: Visit;
  readonly madeMs: number;
  readonly zoneMinutes: number;
}

/** What goes into an archive: all, or what the controller's programmer needs. */
export type ArchivePart = 'whole' | 'controller';

export type HandoverQuestion =
  | { readonly kind: 'record'; readonly sources: RecordSources }
  | { readonly kind: 'page'; readonly record: VisitRecord; readonly paper: Paper }
  | {
      readonly kind: 'archive';
      readonly record: VisitRecord;
      /** What the files beside the record are made of; null for a closed record: files of now would not belong to it. */
      readonly sources: RecordSources | null;
      readonly paper: Paper;
      readonly part: ArchivePart;
    }
  | { readonly kind: 'open'; readonly file: File };

export type HandoverAnswer =
  | {
      readonly kind: 'record';
      readonly record: VisitRecord;
      readonly digest: string;
      readonly notes: readonly string[];
    }
  | { readonly kind: 'file'; readonly blob: Blob; readonly digest: string }
  | { readonly kind: 'failed'; readonly why: string };
