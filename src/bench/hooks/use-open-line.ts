'use client';

import type { JobLine } from '../../core/job/job';
import { useBench, useDrafts } from '../bench-context';
import { whyNotOpened } from '../jobs/why-not-opened';

/** The act that opens a line, and why it is off. */
export function useOpenLine(line: JobLine | null): { readonly off: string; readonly open: () => void } {
  const bench = useBench();
  const off = useDrafts((drafts) => (line ? whyNotOpened(line, drafts.forms) : 'no line is chosen'));
  return {
    off,
    open: () => {
      if (line) bench.open(line.id);
    },
  };
}
