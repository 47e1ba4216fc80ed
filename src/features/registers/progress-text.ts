import { counted } from '../../core/counted';
import type { SetRow } from '../../store/database';
import { dateText } from '../../ui/format';
import type { Running } from '../../bench/registers/registers-store';

/** A rate over less than this is no rate. */
const SHORTEST_US = 500_000;

/** `read 2026-11-20 09:14: 214 of 400 values, 12 refused, 38 requests, 24 a second, 8 s left` */
export function progressText({ reading, startedMs }: SetRow, running: Running | null, nowUs: number): string {
  const { said, of, requests, waiting } = reading;
  const kinds = [...said.values()];
  const refused = kinds.filter(({ kind }) => kind === 'refused').length;
  const silent = kinds.filter(({ kind }) => kind === 'silent').length;
  const left = waiting.reduce((sum, group) => sum + group.length, 0);
  const passedUs = running?.kind === 'read' ? nowUs - running.sinceUs : 0;
  const rate = running && passedUs > SHORTEST_US ? ((said.size - running.knownThen) * 1e6) / passedUs : 0;
  return [
    `${left > 0 || running ? 'reading, begun' : 'read'} ${dateText(startedMs)}: ${Math.max(0, of - left)} of ${counted(of, 'value')}`,
    ...(refused > 0 ? [`${refused} refused`] : []),
    ...(silent > 0 ? [`${silent} without an answer`] : []),
    counted(requests, 'request'),
    ...(rate > 0 && left > 0 ? [`${rate.toFixed(0)} a second, ${Math.ceil(left / rate)} s left`] : []),
  ].join(', ');
}
