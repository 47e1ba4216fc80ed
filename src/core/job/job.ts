import type * as v from 'valibot';
import type { JobSchema, KeptFrameSchema } from './job-schema';

/** One visit or plant, as it is kept and carried. What reads one that comes from outside is `job-schema.ts`: no view needs it at its start. */
export type Job = v.InferOutput<typeof JobSchema>;
export type JobLine = Job['lines'][number];
export type JobStation = JobLine['stations'][number];
export type KeptFrame = v.InferOutput<typeof KeptFrameSchema>;

/** Puts an element with an id in the place of the one that is there, behind the others where none is, or takes it away. */
export function withOne<T extends { readonly id: string }>(
  list: readonly T[] | undefined,
  id: string,
  value: T | undefined,
): T[] {
  const known = list ?? [];
  if (value === undefined) return known.filter((one) => one.id !== id);
  return known.some((one) => one.id === id) ? known.map((one) => (one.id === id ? value : one)) : [...known, value];
}

/** The job with one line changed; the same job where it has no such line. */
export const withLine = (job: Job, id: string, change: (line: JobLine) => JobLine): Job => ({
  ...job,
  lines: job.lines.map((line) => (line.id === id ? change(line) : line)),
});

/** The job with one station of one line changed. */
export const withStation = (
  job: Job,
  line: string,
  station: number,
  change: (station: JobStation) => JobStation,
): Job =>
  withLine(job, line, (own) => ({
    ...own,
    stations: own.stations.map((candidate) => (candidate.station === station ? change(candidate) : candidate)),
  }));

/** `K1 kiln · RS-485 · 19200 8E1 · Modbus RTU` without the settings. */
export const PROTOCOL_TEXT: Readonly<Record<JobLine['protocol'], string>> = {
  'modbus-rtu': 'Modbus RTU',
  'modbus-ascii': 'Modbus ASCII',
  uss: 'USS',
  ascii: 'ASCII commands',
  'modbus-tcp': 'Modbus TCP',
  'raw-tcp': 'text over TCP',
};

/** The same job as a record of its own: fresh ids throughout, so that both can be kept. */
export function copyOfJob(job: Job, name: string, newId: () => string): Job {
  return {
    ...job,
    id: newId(),
    name,
    lines: job.lines.map((line) => ({
      ...line,
      id: newId(),
      stations: line.stations.map((station) => ({ ...station, id: newId() })),
    })),
  };
}

/** Whether two records of a job say the same. */
export const sameJob = (a: Job, b: Job): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);
