import { characterUs, type SerialSettings } from '../../core/line/settings';
import type { TraceEntry } from '../../core/trace/entry';

export interface LineLoad {
  /** Exchanges per second, faults and the share of the line's time that bytes took, over the last seconds. */
  readonly exchangesPerS: number;
  readonly faults: number;
  /** Null where the line has no character time: over TCP. */
  readonly share: number | null;
}

const WINDOW_US = 2_000_000;
const FAULTY = new Set<TraceEntry['outcome']>(['damaged', 'timeout', 'foreign', 'late', 'may-be-late', 'stray']);

/** Activity of a line in the last two seconds before `nowUs`, from the newest entries backwards. */
export function lineLoad(
  entries: readonly TraceEntry[],
  line: string,
  session: string,
  settings: SerialSettings | null,
  nowUs: number,
): LineLoad {
  let sent = 0;
  let bytes = 0;
  let faults = 0;
  for (let i = entries.length - 1; i >= 0; i--) {
    const entry = entries[i];
    if (!entry || entry.session !== session || entry.atUs < nowUs - WINDOW_US) break;
    if (entry.line !== line) continue;
    if (entry.direction === 'sent') sent++;
    bytes += entry.bytes.length;
    if (FAULTY.has(entry.outcome)) faults++;
  }
  return {
    exchangesPerS: (sent * 1e6) / WINDOW_US,
    faults,
    share: settings && Math.min(1, (bytes * characterUs(settings)) / WINDOW_US),
  };
}
