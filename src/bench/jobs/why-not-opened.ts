import type { JobLine } from '../../core/job/job';
import { textOf, type Forms } from '../state/forms';

/**
 * Why a line is not opened now; empty where it may be. While a host is typed that names nothing, the line would go to another end than the one
 * that is shown. The form of the line says why; the first view reads that and needs no addresses.
 */
export function whyNotOpened(line: JobLine, forms: Forms): string {
  if (line.far === 'not-built') return 'nothing is at its other end yet: choose that in Line';
  const refused = line.far === 'tcp' ? (textOf(forms, 'target', line.id, 'refused') ?? '') : '';
  return refused === '' ? '' : `another end is typed in Line than it would go to: ${refused}`;
}
