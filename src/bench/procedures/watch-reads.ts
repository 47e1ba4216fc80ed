import { bytesToHex } from '../../core/bytes/hex';
import type { PlaceLink } from '../../core/places/place-link';
import { identityOf } from '../../core/drive/identity';
import type { PlacedParameter, SheetIndex } from '../../core/sheet/index-sheet';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import type { PollItem } from '../../link/poll-source';
import { LIVE } from './live-roles';

/** Settings that say why a drive does or does not run; they change only when somebody changes them. */
const SETTINGS: readonly ParameterRole[] = [
  'mode',
  'target-position',
  'stored-move',
  'stored-move-display',
  'move-speed',
  'move-acceleration',
  'move-deceleration',
  'move-jerk',
  'position-least',
  'position-most',
  'position-window',
  'round-way',
  'homing-method',
  'home-offset',
  'ramp-time',
  'speed-reference',
  'minimum-speed',
  'maximum-speed',
  'skip-from',
  'skip-to',
  'command-source',
  'reference-source',
  'selector',
  'watchdog-time',
  'watchdog-action',
  'direction-lock',
  'reference-form',
  'end-inputs',
];

const entriesOf = (index: SheetIndex, roles: readonly ParameterRole[]): readonly PlacedParameter[] =>
  roles.flatMap((role) => index.byRole.get(role) ?? []);

/** The settings, and the entries that say how any of what is watched is scaled. */
const settingsOf = (index: SheetIndex): readonly PlacedParameter[] => {
  const scales = entriesOf(index, [...LIVE, ...SETTINGS]).flatMap(
    ({ scale }) => (scale?.kind === 'by' && index.byNumber.get(scale.parameter)) || [],
  );
  return [...new Set([...entriesOf(index, SETTINGS), ...scales])];
};

/** All that must be read to know how a drive stands and why it does or does not run. Read requests only; nothing here can move a shaft. */
export const watchReads = (station: number, index: SheetIndex, places: PlaceLink): readonly Uint8Array[] =>
  places.read(station, [...new Set([...entriesOf(index, LIVE), ...settingsOf(index)])]);

/** The watch reads what lives this often, and settings the more rarely, in microseconds. */
const LIVE_EVERY_US = 200_000;
const SETTINGS_EVERY_US = 3_000_000;

/** The same over and over: what lives comes to its turn first, however slow the line is. */
export function watchItems(station: number, index: SheetIndex, places: PlaceLink): readonly PollItem[] {
  const live = places.read(station, entriesOf(index, LIVE));
  const known = new Set(live.map((bytes) => bytesToHex(bytes)));
  const settings = places.read(station, settingsOf(index)).filter((bytes) => !known.has(bytesToHex(bytes)));
  return [
    ...live.map((bytes) => ({ station, bytes, everyUs: LIVE_EVERY_US })),
    ...settings.map((bytes) => ({ station, bytes, everyUs: SETTINGS_EVERY_US })),
  ];
}

/** Reads of what tells this drive from another; done with a reading by hand, for it does not change. */
export function identityReads(station: number, index: SheetIndex, places: PlaceLink): readonly Uint8Array[] {
  const told: readonly PlacedParameter[] = identityOf(index, () => undefined).map(({ parameter }) => parameter);
  return told.length === 0 ? [] : places.read(station, told);
}
