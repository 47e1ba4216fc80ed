import { hexNumber } from '../core/bytes/hex';
import { meaningOf } from '../core/sheet/describe';
import { inMode, type SheetIndex } from '../core/sheet/index-sheet';
import type { ParameterRole } from '../core/sheet/parameter-section';
import { statusText } from '../core/sheet/status';
import { turningBy } from '../core/sheet/turning';
import { MISSES_UNTIL_STALE, type LiveValue, type StationView } from './live-values';

/** A value older than this is grey even when nothing failed: somebody may have changed it at the drive. */
const OLD_US = 10_000_000;

export const liveOf = (index: SheetIndex | null, view: StationView, role: ParameterRole): LiveValue | null => {
  const place = index?.byRole.get(role);
  return (place && view.values.get(place.address)) ?? null;
};

/** The sheet in the mode that the drive shows, else in the one that was asked for. */
export const inPresentMode = (index: SheetIndex, view: StationView): SheetIndex =>
  index.modes.size === 0
    ? index
    : inMode(index, (liveOf(index, view, 'mode-display') ?? liveOf(index, view, 'mode'))?.word);

/** What is known of a drive in words, and whether it may be out of date. */
export interface KnownState {
  readonly text: string;
  readonly ageUs: number | null;
  readonly stale: boolean;
}

function withoutStatus({ misses, lastAnswerUs }: StationView): string {
  if (misses > 0) return 'no answer yet';
  return lastAnswerUs === null ? 'not asked yet' : 'it answers; its status is not read yet';
}

/** Whether the shaft turns by the status last seen; null where that is not known. */
export function turningOf(index: SheetIndex | null, view: StationView): boolean | null {
  return index && turningBy(index, (role) => liveOf(index, view, role)?.word);
}

export function knownState(index: SheetIndex | null, view: StationView, nowUs: number): KnownState {
  const status = liveOf(index, view, 'status-word');
  const words = index?.words;
  if (!status || !words) {
    const text = status ? `it answers; status ${hexNumber(status.word)}` : withoutStatus(view);
    return { text, ageUs: status ? nowUs - status.atUs : null, stale: view.misses > 0 };
  }
  const speed = liveOf(index, view, 'actual-speed');
  const place = index.byRole.get('actual-speed');
  const speedText = speed && place ? `, ${meaningOf(index, place, speed.word)}` : '';
  const ageUs = nowUs - status.atUs;
  const lost = view.misses >= MISSES_UNTIL_STALE;
  const text = `${statusText(index, status.word)}${speedText}`;
  return {
    text: lost ? `no answer for ${view.misses} tries; was ${text}` : text,
    ageUs,
    stale: lost || ageUs > OLD_US,
  };
}
