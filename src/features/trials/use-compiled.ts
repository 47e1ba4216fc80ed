import { useMemo } from 'react';
import { useBenchState } from '../../bench/bench-context';
import { knownIn, liveOf } from '../../bench/state/known-state';
import { isUnderWay } from '../../bench/state/runs';
import { numbersHeld, scaleSettings } from '../../core/drive/describe';
import type { PlaceLink } from '../../core/places/place-link';
import { statesOf } from '../../core/profile/profile';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { compileTrial, type CompiledTrial } from '../../core/trial/compile';
import { restOf } from '../../core/trial/states';
import type { Trial } from '../../core/trial/trial';
import { storedNumbers } from './use-axis';
import { useTrialed } from './use-trialed';

/** What a trial's requests rest on beside the state: the mode, and settings that a step speaks of by name. */
const KNOWN: readonly ParameterRole[] = [
  'mode-display',
  'position-least',
  'position-most',
  'homing-method',
  'home-offset',
  'position-window',
  'round-way',
];

/** Trials as the drive that is looked at would do them now; worked out anew only where they, its state or a setting that they speak of change. */
export function useCompiled(trials: readonly Trial[], index: SheetIndex, places: PlaceLink): readonly CompiledTrial[] {
  const { station, name, view, protocol, isText } = useTrialed();
  const at = station?.station ?? 0;
  const status = liveOf(index, view, 'status-word')?.word ?? null;
  const here = statesNow(index, status).join(' ');
  // Where it stands changes all the time; only what moves an axis rests on it, and nothing is begun while a procedure runs.
  const isBusy = useBenchState((state) => state.runs.some((run) => run.line === state.lineId && isUnderWay(run)));
  const moves =
    !isBusy && trials.some(({ steps }) => steps.some(({ kind }) => kind === 'move' || kind === 'stored-move'));
  const roles: readonly ParameterRole[] = moves ? [...KNOWN, 'actual-position'] : KNOWN;
  const known = JSON.stringify(roles.map((role) => [role, liveOf(index, view, role)?.word ?? null]));
  const stored = trials.some(({ steps }) => steps.some(({ kind }) => kind === 'stored-move'));
  const settings = JSON.stringify(
    numbersHeld([...scaleSettings(index), ...(stored ? storedNumbers(index) : [])], knownIn(index, view.values)),
  );
  return useMemo(() => {
    const held = new Map(Object.entries(JSON.parse(settings) as Record<string, number>));
    const words = new Map(JSON.parse(known) as readonly (readonly [ParameterRole, number | null])[]);
    return trials.map((trial) =>
      compileTrial(trial, {
        index,
        places,
        station: at,
        name,
        here: here === '' ? [] : here.split(' '),
        known: (role) => words.get(role) ?? undefined,
        held: (number) => held.get(number),
        protocol,
        isText,
      }),
    );
  }, [trials, index, places, protocol, isText, at, name, here, known, settings]);
}

/** The states that the status allows now; before it was read, the one at rest. */
function statesNow({ profile }: SheetIndex, status: number | null): readonly string[] {
  if (!profile) return [];
  if (status !== null) return statesOf(profile, status).map(({ id }) => id);
  const rest = restOf(profile);
  return rest === undefined ? [] : [rest];
}
