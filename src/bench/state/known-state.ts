import { hexNumber } from '../../core/bytes/hex';
import { meaningOf, type KnownNumber } from '../../core/drive/describe';
import { inMode, type PlacedParameter, type SheetIndex } from '../../core/sheet/index-sheet';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { cellsText } from '../../core/drive/cells-text';
import { patternOfCells, seenIn } from '../../core/drive/seen';
import { statusText } from '../../core/drive/status';
import { turningBy } from '../../core/drive/turning';
import { MISSES_UNTIL_STALE, type LiveValue, type StationView } from './live-values';
import { withoutStatus, type KnownState } from './told-state';

/** A value older than this is grey even when nothing failed: somebody may have changed it at the drive. */
const OLD_US = 10_000_000;
/** Readings further apart than this are not of one moment. */
const APART_US = 2_000_000;

/** The value of a role as it was last seen, with its age; null where it was not, or the sheet has no such role. */
export const liveOf = (index: SheetIndex | null, view: StationView, role: ParameterRole): LiveValue | null => {
  const place = index?.byRole.get(role);
  return (place && liveIn(place, view.values)) ?? null;
};

/** The raw numbers that a view knows, for scales that hang on another entry. */
export const knownIn =
  (index: SheetIndex, values: StationView['values']): KnownNumber =>
  (number) => {
    const place = index.byNumber.get(number);
    return place && liveIn(place, values)?.word;
  };

/** What a place holds, in words, and when its oldest word was seen. */
export interface LiveText {
  readonly text: string;
  readonly atUs: number;
}

/** What a place holds in words, however wide; null where that is not known. */
export function liveText(index: SheetIndex, values: StationView['values'], role: ParameterRole): LiveText | null {
  const place = index.byRole.get(role);
  const live = place?.cells.map((cell) => values.get(cell)) ?? [];
  if (!place || !live.every((one) => one !== undefined)) return null;
  const words = live.map(({ word }) => word);
  const pattern = patternOfCells(place, words);
  const known = knownIn(index, values);
  return {
    text: pattern === null ? cellsText(index, place, words, known) : meaningOf(index, place, pattern, known),
    atUs: Math.min(...live.map(({ atUs }) => atUs)),
  };
}

/** What a place holds by its cells, as one value; what changed is told of single words only. */
export const liveIn = (place: PlacedParameter, values: StationView['values']): LiveValue | undefined =>
  seenIn(place, (cell) => values.get(cell));

/** The sheet in the mode that the drive shows, else in the one that was asked for. */
export const inPresentMode = (index: SheetIndex, view: StationView): SheetIndex =>
  index.modes.size === 0
    ? index
    : inMode(index, (liveOf(index, view, 'mode-display') ?? liveOf(index, view, 'mode'))?.word);

/** Whether the shaft turns by a status that is still believed; null where that is not known now. */
export function turningOf(index: SheetIndex | null, view: StationView, nowUs: number): boolean | null {
  if (!index || view.misses >= MISSES_UNTIL_STALE) return null;
  return turningBy(index, (role) => {
    const live = liveOf(index, view, role);
    return live && nowUs - live.atUs <= OLD_US ? live.word : undefined;
  });
}

/** Status and speed in words; a speed that is older than its status is not told as if it were of the same moment. */
function stateText(index: SheetIndex, status: LiveValue, speed: LiveText | null): string {
  const words = statusText(index, status.word);
  if (!speed) return words;
  const behindUs = status.atUs - speed.atUs;
  return `${words}, ${behindUs > APART_US ? `${Math.round(behindUs / 1e6)} s before that ` : ''}${speed.text}`;
}

function beforeText(index: SheetIndex | null, { before }: StationView): { text: string; atUs: number } | null {
  const place = index?.byRole.get('status-word');
  const status = place && liveIn(place, before);
  return index?.words && status
    ? {
        text: `not known now; before the line went away ${stateText(index, status, liveText(index, before, 'actual-speed'))}`,
        atUs: status.atUs,
      }
    : null;
}

/** What the drive does, as far as it is known, and how old that is. */
export function knownState(index: SheetIndex | null, view: StationView, nowUs: number): KnownState {
  const status = liveOf(index, view, 'status-word');
  if (!status || !index?.words) {
    const before = status ? null : beforeText(index, view);
    const text = status ? `it answers; status ${hexNumber(status.word)}` : (before?.text ?? withoutStatus(view));
    const atUs = status?.atUs ?? before?.atUs ?? null;
    return { text, ageUs: atUs === null ? null : nowUs - atUs, stale: view.misses > 0 || before !== null };
  }
  const ageUs = nowUs - status.atUs;
  const lost = view.misses >= MISSES_UNTIL_STALE;
  const text = stateText(index, status, liveText(index, view.values, 'actual-speed'));
  return {
    text: lost ? `no answer for ${view.misses} tries; was ${text}` : text,
    ageUs,
    stale: lost || ageUs > OLD_US,
  };
}
