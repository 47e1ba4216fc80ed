import type { LineState, StopReport } from '../../messages/line';

/**
 * What the page says itself of a Stop that nobody took: the worker is dead or hangs. It names every drive that was set in motion; a report that
 * still comes takes its place.
 */
export function unansweredStops(
  stops: readonly StopReport[],
  lines: ReadonlyMap<string, Pick<LineState, 'driven'>>,
  current: number,
): readonly StopReport[] {
  if (stops.every(({ over, outcomes }) => over || outcomes.length > 0)) return stops;
  return stops.map((report) => {
    if (report.over || report.outcomes.length > 0) return report;
    const driven = lines.get(report.line)?.driven ?? [];
    return {
      ...report,
      over: true,
      outcomes: [...new Set([current, ...driven])].map((station) => ({
        station,
        outcome: 'not-sent',
        why: 'the part of this page that holds the lines does not answer',
        atUs: null,
      })),
    };
  });
}
