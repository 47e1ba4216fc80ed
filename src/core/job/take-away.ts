import { withLine, type Job, type JobLine, type JobStation } from './job';

/** A deletion in the open job, in words, and the way back. */
export interface WayBack {
  readonly text: string;
  /** Puts back what was taken away, whatever else was changed meanwhile. */
  readonly restore: (job: Job) => Job;
}

/** A job without one of its lines. */
export const withoutLine = (job: Job, line: string): Job => ({
  ...job,
  lines: job.lines.filter(({ id }) => id !== line),
});

/** A job without one station of a line. */
export const withoutStation = (job: Job, line: string, station: string): Job =>
  withLine(job, line, (own) => ({ ...own, stations: own.stations.filter(({ id }) => id !== station) }));

/** Puts a line back where it stood, unless it is there. */
export function lineBack(job: Job | null, line: JobLine): WayBack {
  const at = job?.lines.findIndex(({ id }) => id === line.id) ?? 0;
  return {
    text: `Deleted ${line.name}.`,
    restore: (now) =>
      now.lines.some(({ id }) => id === line.id) ? now : { ...now, lines: now.lines.toSpliced(at, 0, line) },
  };
}

/** Makes a station what it was before a change of it, unless it is gone or another one has its number now. */
export const stationAsItWas = (line: JobLine, before: JobStation): WayBack => ({
  text: `Changed ${before.station} · ${before.name}.`,
  restore: (now) =>
    withLine(now, line.id, (own) =>
      own.stations.some(({ id, station }) => id !== before.id && station === before.station)
        ? own
        : { ...own, stations: own.stations.map((station) => (station.id === before.id ? before : station)) },
    ),
});

/** Puts a station back where it stood on its line, unless it or its number is there again. */
export function stationBack(line: JobLine, id: string): WayBack {
  const at = line.stations.findIndex((known) => known.id === id);
  const gone = line.stations[at];
  if (!gone) return { text: '', restore: (now) => now };
  return {
    text: `Removed ${gone.station} · ${gone.name}.`,
    restore: (now) =>
      withLine(now, line.id, (own) =>
        own.stations.some((known) => known.id === id || known.station === gone.station)
          ? own
          : { ...own, stations: own.stations.toSpliced(at, 0, gone) },
      ),
  };
}
