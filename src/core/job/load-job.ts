import { messageOf } from '../message-of';
import { readForm, type FormFault } from '../bounded-form';
import { checkTarget } from '../line/target';
import { mostStation } from '../protocol/stations';
import { failed, type Result } from '../result';
import { JOB_FORMAT, JobSchema, type Job, type JobLine } from './job';

/** A fault of a job file at its path. */
export type JobFault = FormFault;

/** Larger files are refused by their size, before a byte is read. */
export const LARGEST_JOB_FILE = 32 * 1024 * 1024;

/** Reads a job file's text: JSON, format, form, and the fields against each other. Nothing of a faulty file is used. */
export function readJobText(text: string): Result<Job, readonly JobFault[]> {
  let value: unknown;
  try {
    value = JSON.parse(text) as unknown;
  } catch (error) {
    const why = messageOf(error);
    return failed([{ path: '', text: `this is no JSON file, or it is cut short: ${why}` }]);
  }
  return loadJob(value);
}

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
