import type { JobLine } from '../../core/job/job';

/** Under which name the texts of the form of a line over TCP are kept while they are typed. */
export const targetForm = (line: Pick<JobLine, 'id'>): string => `target ${line.id}`;

/** Where the form keeps why what is typed there names no other end; empty where it does. The first view reads this and needs no addresses. */
export const targetRefused = (line: Pick<JobLine, 'id'>): string => `${targetForm(line)} refused`;

/**
 * Why a line is not opened now; empty where it may be. While a host is typed that names nothing, the line would go to another end than the one
 * that is shown.
 */
export function whyNotOpened(line: JobLine, typed: ReadonlyMap<string, string>): string {
  if (line.far === 'not-built') return 'nothing is at its other end yet: choose that in Line';
  const refused = line.far === 'tcp' ? (typed.get(targetRefused(line)) ?? '') : '';
  return refused === '' ? '' : `another end is typed in Line than it would go to: ${refused}`;
}
