import type { Cell } from '../../core/sheet/place';
import type { PlaceLink } from '../../core/places/place-link';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { TraceEntry } from '../../core/trace/entry';

/** What the bench sends by itself writes no setting; most of a trace is that. */
export const BY_ITSELF: ReadonlySet<string> = new Set(['poll', 'keep-alive']);

/** Places of a station that were written, and confirmed, since it last restarted; from the trace that the page holds. */
export function writtenSinceStart(
  entries: readonly TraceEntry[],
  line: string,
  station: number,
  index: SheetIndex,
  places: PlaceLink | null,
): ReadonlySet<Cell> {
  const restart = index.byRole.get('restart')?.cells[0];
  const requests = new Map<number, TraceEntry>();
  let written = new Set<Cell>();
  for (const entry of entries) {
    if (entry.line !== line || entry.station !== station || BY_ITSELF.has(entry.cause)) continue;
    if (entry.direction === 'sent') {
      if (places?.writes(entry.bytes)) requests.set(entry.exchange, entry);
      continue;
    }
    const request = entry.outcome === 'answered' ? requests.get(entry.exchange) : undefined;
    if (!request) continue;
    requests.delete(entry.exchange);
    for (const [cell] of places?.written(request.bytes) ?? []) {
      if (cell === restart) written = new Set();
      else written.add(cell);
    }
  }
  return written;
}

/** Names of the settings among them that act only after a restart. */
export const waitingForRestart = (
  entries: readonly TraceEntry[],
  line: string,
  station: number,
  index: SheetIndex,
  places: PlaceLink | null,
): readonly string[] => [
  ...new Set(
    [...writtenSinceStart(entries, line, station, index, places)].flatMap((cell) => {
      const place = index.byCell.get(cell);
      return place?.effect === 'restart' ? [`${place.number} ${place.name}`] : [];
    }),
  ),
];
