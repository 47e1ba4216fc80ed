import type { PlaceLink } from '../core/places/place-link';
import { identityOf } from '../core/sheet/identity';
import type { PlacedParameter, SheetIndex } from '../core/sheet/index-sheet';
import type { ParameterRole } from '../core/sheet/parameter-section';

/** What must be read to know how a drive stands and why it does or does not run. */
const WATCHED: readonly ParameterRole[] = [
  'fault-code',
  'status-word',
  'torque',
  'current',
  'actual-speed',
  'control-word',
  'mode-display',
  'mode',
  'position-high',
  'position-low',
  'target-high',
  'target-low',
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

/** Read requests only; nothing here can move a shaft. */
export function watchReads(station: number, index: SheetIndex, places: PlaceLink): readonly Uint8Array[] {
  const wanted = WATCHED.flatMap((role) => index.byRole.get(role) ?? []);
  return places.read(station, wanted);
}

/** Reads of what tells this drive from another; done with a reading by hand, for it does not change. */
export function identityReads(station: number, index: SheetIndex, places: PlaceLink): readonly Uint8Array[] {
  const told: readonly PlacedParameter[] = identityOf(index, () => undefined).map(({ parameter }) => parameter);
  return told.length === 0 ? [] : places.read(station, told);
}
