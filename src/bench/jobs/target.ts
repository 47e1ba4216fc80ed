import { wholeIn } from '../../core/bytes/whole';
import type { JobLine } from '../../core/job/job';
import { checkTarget, type Target } from '../../core/line/target';
import type { Result } from '../../core/result';

/** A host and a port as they stand in the form of a line over TCP. */
export interface TargetTexts {
  readonly host: string;
  readonly port: string;
}

/** What the form shows before anything was typed. */
export const targetOfLine = ({ tcp }: Pick<JobLine, 'tcp'>): TargetTexts => ({
  host: tcp?.host ?? '',
  port: `${tcp?.port ?? 502}`,
});

/** Reads a host and a port as typed. */
export const targetIn = ({ host, port }: TargetTexts): Result<Target, string> =>
  checkTarget(host, wholeIn(port) ?? NaN);
