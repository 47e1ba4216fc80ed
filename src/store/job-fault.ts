import { readForm, type FormFault } from '../core/bounded-form';
import { MOST_LINES } from '../core/job/job-limits';
import { JobSchema, LineSchema } from '../core/job/job-schema';
import { breaths } from './breathe';

/** What is wrong with a row, in a sentence; empty where it is a job. A line at a time, for a job may have 24,700 stations. */
export async function jobFault(row: unknown): Promise<string> {
  const lines =
    typeof row === 'object' && row !== null && 'lines' in row && Array.isArray(row.lines) ? row.lines : null;
  if (!lines) return 'it has no lines, so it is no job';
  const frame = readForm(JobSchema, { ...(row as object), lines: [] });
  if (!frame.ok) return faultText(frame.error, '');
  if (lines.length > MOST_LINES) return `it has ${lines.length} lines; ${MOST_LINES} at most`;
  const breath = breaths();
  for (const [i, line] of lines.entries()) {
    const read = readForm(LineSchema, line);
    if (!read.ok) return faultText(read.error, `lines.${i}.`);
    await breath();
  }
  return '';
}

const faultText = ([first]: readonly FormFault[], place: string): string =>
  first ? `${place}${first.path}: ${first.text}` : 'it is no job';
