import { wholeIn } from '../../core/bytes/whole';
import type { JobLine } from '../../core/job/job';
import { checkTarget, type Target } from '../../core/line/target';
import type { Result } from '../../core/result';

/** A host and a port as they stand in the form of a line over TCP. */
export interface TargetTexts {
  readonly host: string;
  readonly port: string;
}

/** Under which name the form's texts are kept while they are typed. */
export const targetForm = (line: Pick<JobLine, 'id'>): string => `target ${line.id}`;

/** What the form shows before anything was typed. */
export const targetOfLine = ({ tcp }: Pick<JobLine, 'tcp'>): TargetTexts => ({
  host: tcp?.host ?? '',
  port: `${tcp?.port ?? 502}`,
});

/** Reads a host and a port as typed. */
export const targetIn = ({ host, port }: TargetTexts): Result<Target, string> =>
  checkTarget(host, wholeIn(port) ?? NaN);

/**
 * Why a line is not opened now; empty where it may be. While a host is typed that names nothing, the line would go to another end than the one
 * that is shown.
 */
export function whyNotOpened(line: JobLine, typed: ReadonlyMap<string, string>): string {
  if (line.far === 'not-built') return 'nothing is at its other end yet: choose that in Line';
  if (line.far !== 'tcp') return '';
  const form = targetForm(line);
  const stored = targetOfLine(line);
  const target = targetIn({
    host: typed.get(`${form} host`) ?? stored.host,
    port: typed.get(`${form} port`) ?? stored.port,
  });
  return target.ok ? '' : `another end is typed in Line than it would go to: ${target.error}`;
}
