import { NO_VISIT } from '../core/handover/visit';
import type { HandoverDrive } from '../core/handover/drive';
import { makeRecord } from '../core/handover/make-record';
import { NO_FACTS } from '../core/handover/trace-facts';
import type { Job } from '../core/job/job';
import { protocolOfLine } from '../core/protocol/choose';
import { pinnedIn, shelfOf } from '../core/sheet/shelf';
import type { Sheet } from '../core/sheet/sheet';
import type { RecordRow } from './database';
import { digestOf } from './digest';
import { shippedSets } from './set-row';

/** Half an hour after the values were read. */
const CLOSED_AFTER_MS = 1_800_000;

/** The record that somebody left of the demo's plant at the last visit: what was read of the kiln fan then, and nothing else. */
export async function shippedRecords(demo: Job, sheets: readonly Sheet[]): Promise<readonly RecordRow[]> {
  const [left] = shippedSets(demo, sheets);
  if (!left) return [];
  const shelf = shelfOf(sheets);
  const madeMs = left.startedMs + CLOSED_AFTER_MS;
  const drives = demo.lines.flatMap((line) =>
    line.stations.map((station): HandoverDrive => {
      const index = pinnedIn(shelf, station.sheet);
      const isFan = left.line === line.id && left.station === station.station;
      const { id, name, startedMs, reading } = left;
      return {
        line,
        station,
        index,
        protocol: protocolOfLine(line, shelf),
        facts: NO_FACTS,
        now: isFan && index ? { id, name, startedMs, index, said: reading.said } : null,
        visits: [],
        writings: [],
        runs: [],
      };
    }),
  );
  const visit = { ...NO_VISIT, visit: 'spring check of the kiln' };
  const record = makeRecord({ job: demo, drives, photos: [], visit, madeMs, zoneMinutes: 0 });
  return [{ digest: await digestOf(record), job: demo.id, record, keptMs: madeMs, ships: true }];
}
