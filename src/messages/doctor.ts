import type { Suspect } from '../core/doctor/diagnose';
import type { LineContext } from '../core/doctor/observe';
import type { JobLine } from '../core/job/job';
import type { Sheet } from '../core/sheet/sheet';
import type { TraceEntry } from '../core/trace/entry';

/** What the page asks the doctor: the line's newest entries and what is known beside them, as plain data. */
export interface DoctorQuestion {
  readonly number: number;
  readonly entries: readonly TraceEntry[];
  readonly context: Omit<LineContext, 'index' | 'protocol'>;
  readonly sheet: Sheet | null;
  readonly protocol: JobLine['protocol'];
}

export interface DoctorAnswer {
  readonly number: number;
  readonly suspects: readonly Suspect[];
}
