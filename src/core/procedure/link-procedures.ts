import { settingsText, type SerialSettings } from '../line/settings';
import type { PlaceLink } from '../places/place-link';
import { done, failed, type Result } from '../result';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { LinkChange } from '../papers/link-change';
import type { Procedure, ProcedureStep } from './procedure';

const ASK_EVERY_US = 400_000;
/** A drive is asked again for so much longer than its sheet gives it to start. */
const PATIENCE_US = 4_000_000;
const USUAL_BOOT_US = 3_000_000;

interface LinkWay {
  readonly index: SheetIndex;
  readonly places: PlaceLink;
  readonly station: number;
}

const nothing = (): undefined => undefined;

function writeStep(
  { places, station }: LinkWay,
  parameter: PlacedParameter,
  raw: number,
  text: string,
): Result<ProcedureStep, string> {
  const bytes = places.write(station, parameter, raw, nothing);
  return bytes
    ? done({ kind: 'request', text, station, bytes, needs: 'answer' })
    : failed(`this link cannot write ${parameter.number}`);
}

/** Waits until the drive answers again, for as long as its start takes and some time more. */
function returnStep({ index, places, station }: LinkWay, text: string): Result<ProcedureStep, string> {
  const status = index.byRole.get('status-word');
  const bytes = status && places.read(station, [status])[0];
  const bootUs = index.sheet.link?.bootMs === undefined ? USUAL_BOOT_US : 1000 * index.sheet.link.bootMs;
  return bytes
    ? done({
        kind: 'return',
        text,
        station,
        bytes,
        fromUs: bootUs,
        everyUs: ASK_EVERY_US,
        withinUs: bootUs + PATIENCE_US,
      })
    : failed('the sheet does not say what can be read to see the drive answer');
}

/** All steps, or the first reason why one cannot be. */
function gathered(
  title: string,
  kind: Procedure['kind'],
  station: number,
  steps: readonly Result<ProcedureStep, string>[],
): Result<Procedure, string> {
  const bad = steps.find((step) => !step.ok);
  if (bad && !bad.ok) return bad;
  const good = steps.flatMap((step) => (step.ok ? [step.value] : []));
  return done({ kind, title, station, steps: good, rounds: 1, standsStill: true });
}

/** Changes the drive's settings and then this end's, and proves the link. */
export function bothEndsProcedure(
  way: LinkWay,
  { writes }: LinkChange,
  settings: SerialSettings,
): Result<Procedure, string> {
  return gathered(`Both ends to ${settingsText(settings)}`, 'both-ends', way.station, [
    ...writes.map(({ parameter, raw, why }) => writeStep(way, parameter, raw, `${parameter.number} ← ${raw}: ${why}`)),
    done({ kind: 'settings', text: `this end to ${settingsText(settings)}`, settings }),
    returnStep(way, 'the drive starts, and answers under the new settings'),
  ]);
}

/** What a restart keeps of the settings that were read, by name of the run's `kept`. */
export const BEFORE = 'before';
export const AFTER = 'after';

/** Restarts the drive at the user's wish: reads all before, waits, finds it again, reads all after. */
export function restartProcedure(way: LinkWay): Result<Procedure, string> {
  const { index, places, station } = way;
  const restart = index.byRole.get('restart');
  if (!restart) return failed('the sheet knows no restart over the link');
  const readAll = (text: string, keeps: string): readonly Result<ProcedureStep, string>[] =>
    places
      .read(station, index.parameters)
      .map((bytes) => done({ kind: 'request', text, station, bytes, needs: 'end', keeps }));
  return gathered('Restart of the drive', 'restart', station, [
    ...readAll('read all settings', BEFORE),
    writeStep(way, restart, 1, 'the drive is asked to restart'),
    returnStep(way, 'it is gone, which is no fault; wait until it answers again'),
    ...readAll('read all settings again', AFTER),
  ]);
}
