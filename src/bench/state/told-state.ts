import type { SheetIndex } from '../../core/sheet/index-sheet';
import { MISSES_UNTIL_STALE, type StationView } from './live-values';

/** What is known of a drive in words, and whether it may be out of date. */
export interface KnownState {
  readonly text: string;
  readonly ageUs: number | null;
  readonly stale: boolean;
}

/** How what a drive says is put into words: a part of the page that comes with the first line, since before that no drive has said anything. */
export interface Telling {
  readonly knownState: (index: SheetIndex | null, view: StationView, nowUs: number) => KnownState;
  /** The sentence that must be read before anything is written; empty while nothing differs. */
  readonly identityWarning: (index: SheetIndex, values: StationView['values']) => string;
}

/** What is known of a drive of which no word was read. */
export function withoutStatus({ misses, lastAnswerUs }: StationView): string {
  if (misses > 0) return 'no answer yet';
  return lastAnswerUs === null ? 'not asked yet' : 'it answers; its status is not read yet';
}

/** What the drive does, as far as it is known; where words are there and the part that tells them is not, that is said. */
export function toldState(
  { telling, nowUs }: { readonly telling: Telling | null; readonly nowUs: number },
  index: SheetIndex | null,
  view: StationView,
): KnownState {
  if (telling) return telling.knownState(index, view, nowUs);
  const isUnread = view.values.size === 0 && view.before.size === 0;
  return { text: isUnread ? withoutStatus(view) : untold(view), ageUs: null, stale: view.misses > 0 || !isUnread };
}

/** A drive that is silent is not said to answer, whatever was read of it. */
function untold({ misses, lastAnswerUs }: StationView): string {
  if (misses >= MISSES_UNTIL_STALE) return `no answer for ${misses} tries; what it said cannot be told yet`;
  return lastAnswerUs === null
    ? 'not known now; what it said before cannot be told yet'
    : 'it answers; what it says cannot be told yet';
}
