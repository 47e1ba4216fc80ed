import { messageOf } from '../message-of';
import { readForm, type FormFault } from '../bounded-form';
import { checkTarget } from '../line/target';
import { mostStation } from './most-station';
import { done, failed, type Result } from '../result';
import { loadSheet } from '../sheet/load-sheet';
import type { JobFile } from './job-file';
import type { Job, JobLine } from './job';
import { JOB_FORMAT } from './job-limits';
import { JobSchema } from './job-schema';

/** A fault of a job file at its path. */
export type JobFault = FormFault;

/** Larger files are refused by their size, before a byte is read. */
export const LARGEST_JOB_FILE = 32 * 1024 * 1024;

/** More sheets than this are in no job. */
export const MOST_SHEETS = 200;

/** Reads a job file's text: JSON, format, form, the fields against each other, and the sheets in it. Nothing of a faulty file is used. */
export function readJobText(text: string): Result<JobFile, readonly JobFault[]> {
  let value: unknown;
  try {
    value = JSON.parse(text) as unknown;
  } catch (error) {
    const why = messageOf(error);
    return failed([{ path: '', text: `this is no JSON file, or it is cut short: ${why}` }]);
  }
  if (typeof value !== 'object' || value === null || !('sheets' in value)) {
    const job = loadJob(value);
    return job.ok ? done({ job: job.value, sheets: [] }) : job;
  }
  const { sheets, ...record } = value;
  const job = loadJob(record);
  if (!job.ok) return job;
  if (!Array.isArray(sheets) || sheets.length > MOST_SHEETS)
    return failed([{ path: 'sheets', text: `a list of ${MOST_SHEETS} sheets at most` }]);
  const read = sheets.map((sheet) => loadSheet(sheet));
  const faults = read.flatMap((one, i) =>
    one.ok ? [] : one.error.map(({ path, text: why }) => ({ path: `sheets.${i}.${path}`, text: why })),
  );
  if (faults.length > 0) return failed(faults);
  return done({ job: job.value, sheets: read.flatMap((one) => (one.ok ? [one.value] : [])) });
}

/** A job from a file or the database, brought to the present format. Every fault names the path of its field; hundreds at most. */
export function loadJob(value: unknown): Result<Job, readonly JobFault[]> {
  const format = typeof value === 'object' && value !== null && 'format' in value ? value.format : undefined;
  if (typeof format === 'number' && format > JOB_FORMAT)
    return failed([
      { path: 'format', text: `format ${format} is newer than this program, which reads up to ${JOB_FORMAT}` },
    ]);
  if (typeof format !== 'number')
    return failed([{ path: '', text: 'this is JSON, but no job file: it names no format' }]);
  const read = readForm(JobSchema, value);
  if (!read.ok) return read;
  const faults = crossFaults(read.value);
  return faults.length > 0 ? failed(faults) : read;
}

function crossFaults({ lines }: Job): readonly JobFault[] {
  const ids = new Set<string>();
  const seen = (id: string): boolean => ids.has(id) || !ids.add(id);
  return lines.flatMap((line, i) => {
    const numbers = new Set<number>();
    const mostUnit = mostStation(line.protocol);
    return [
      ...farFaults(line, `lines.${i}`),
      ...(seen(line.id) ? [{ path: `lines.${i}.id`, text: 'another line or station has this id' }] : []),
      ...line.stations.flatMap((station, k): JobFault[] => {
        const path = `lines.${i}.stations.${k}`;
        const twice = numbers.has(station.station);
        numbers.add(station.station);
        return [
          ...(seen(station.id) ? [{ path: `${path}.id`, text: 'another line or station has this id' }] : []),
          ...(station.station > mostUnit
            ? [{ path: `${path}.station`, text: `station ${station.station}: 1 to ${mostUnit} are stations here` }]
            : []),
          ...(twice
            ? [{ path: `${path}.station`, text: `station ${station.station} is on line ${line.name} twice` }]
            : []),
        ];
      }),
    ];
  });
}

/** A line must say where its other end is. */
function farFaults({ far, tcp, serial }: JobLine, path: string): readonly JobFault[] {
  if (far === 'tcp') {
    if (!tcp) return [{ path: `${path}.tcp`, text: 'a line over TCP needs an address and a port' }];
    const target = checkTarget(tcp.host, tcp.port);
    return target.ok ? [] : [{ path: `${path}.tcp.host`, text: target.error }];
  }
  return far !== 'not-built' && !serial
    ? [{ path: `${path}.serial`, text: 'a serial line needs its settings: rate, data bits, parity and stop bits' }]
    : [];
}
