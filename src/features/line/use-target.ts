'use client';

import type { JobLine } from '../../core/job/job';
import { checkTarget, type Target } from '../../core/line/target';
import type { Result } from '../../core/result';
import { useTyped } from './use-typed';

/** The other end of a line over TCP as it is typed. */
export interface TypedTarget {
  readonly host: string;
  readonly port: string;
  /** What the two name together, or why they name nothing; then the line still has its target of before. */
  readonly target: Result<Target, string>;
  readonly setHost: (text: string) => void;
  readonly setPort: (text: string) => void;
}

/** Reads a host and a port as typed. */
export const targetIn = (host: string, port: string): Result<Target, string> =>
  checkTarget(host, /^\s*\d+\s*$/.test(port) ? parseInt(port, 10) : NaN);

export function useTarget({ id, tcp }: Pick<JobLine, 'id' | 'tcp'>): TypedTarget {
  const form = `target ${id}`;
  const [host, setHost] = useTyped(form, 'host', tcp?.host ?? '');
  const [port, setPort] = useTyped(form, 'port', `${tcp?.port ?? 502}`);
  return { host, port, target: targetIn(host, port), setHost, setPort };
}
