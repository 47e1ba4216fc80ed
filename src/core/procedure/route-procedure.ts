import { hexNumber } from '../bytes/hex';
import type { KnownWord, PlaceLink } from '../places/place-link';
import { stateOf, type Pattern, type Profile } from '../profile/profile';
import type { RouteStep } from '../profile/route';
import { done, failed, type Result } from '../result';
import type { SheetIndex } from '../sheet/index-sheet';
import { bitOfRole } from '../words/read';
import type { StatusRole } from '../words/spec';
import type { Procedure, ProcedureStep, WordCondition } from './procedure';

/** The status is asked for this often while a state is waited for. */
const EVERY_US = 60_000;
/** A state that takes no ramp comes within this time. */
const USUAL_US = 3_000_000;

/** How long a step's state is waited for, in microseconds: a ramp may lie in between. */
export const waitUs = ({ sheet, profile }: SheetIndex, { states }: RouteStep): number =>
  Math.max(
    USUAL_US,
    1000 * (sheet.commands?.stop.standstillWithinMs ?? 0),
    // A way of the drive's own to such a state may take longer.
    ...(profile?.own ?? []).filter(({ to }) => states.includes(to)).map(({ withinMs }) => 1000 * withinMs),
  );

export interface RouteWay {
  readonly index: SheetIndex;
  readonly profile: Profile;
  readonly places: PlaceLink;
  readonly station: number;
  /** States in which the drive may be before the first word. */
  readonly here: readonly string[];
  readonly steps: readonly RouteStep[];
  readonly title: string;
  readonly known: KnownWord;
}

/**
 * A route word by word: each must be confirmed and its state must show before the next one goes out. The error says what the sheet does not tell.
 */
export function routeProcedure(way: RouteWay): Result<Procedure, string> {
  const { index, places, station, steps, title, known } = way;
  const control = index.byRole.get('control-word');
  const status = index.byRole.get('status-word');
  const read = status && places.read(station, [status])[0];
  if (!control || !status || !read) return failed('the sheet does not say where the words are');
  const all: ProcedureStep[] = [];
  for (const [i, step] of steps.entries()) {
    const bytes = places.write(station, control, step.word, known);
    if (!bytes) return failed('this link cannot write the control word');
    const before = i === 0 ? way.here : (steps[i - 1]?.expects ?? []);
    all.push({ kind: 'request', text: wordText(way, step), station, bytes, needs: 'answer' });
    all.push({
      kind: 'watch',
      station,
      bytes: read,
      everyUs: EVERY_US,
      withinUs: waitUs(index, step),
      ...expectation(way, step, { cells: status.cells, order: status.order }, before.some(isFaultState)),
    });
  }
  return done({ kind: 'route', title, station, steps: all, rounds: 1, standsStill: false });
}

const isFaultState = (id: string): boolean => id.includes('fault');

const wordText = ({ profile }: RouteWay, { word }: RouteStep): string => hexNumber(word, profile.control.width / 4);

/** The pattern under which a bit with a role does its work, or does not; null where the word has no such bit. */
export function levelOfRole({ status }: Profile, role: StatusRole, active: boolean): Pattern | null {
  const spec = bitOfRole(status, role);
  if (!spec) return null;
  const mask = (1 << spec.bit) >>> 0;
  return { mask, value: (spec.active === 'low') !== active ? mask : 0 };
}

/** What must show after a word, what must not, and how it is told when it does not come. */
function expectation(
  way: RouteWay,
  step: RouteStep,
  place: WordCondition['place'],
  fromFault: boolean,
): Pick<
  Extract<ProcedureStep, { kind: 'watch' }>,
  'text' | 'until' | 'never' | 'overdue' | 'names' | 'hints' | 'width'
> {
  const { profile } = way;
  const word = wordText(way, step);
  const fault = levelOfRole(profile, 'fault', true);
  const local = levelOfRole(profile, 'remote', false);
  const wanted = step.expects.map((id) => stateOf(profile, id)?.name ?? id).join(' or ');
  // A drive that was in fault before, and still is, has refused the reset; nothing new came.
  const mayFault = fromFault || step.expects.some(isFaultState);
  return {
    text: wanted,
    until: { place, any: profile.states.filter(({ id, shown }) => step.expects.includes(shown ?? id)) },
    ...(fault && !mayFault
      ? {
          never: {
            // PROFIdrive's S1 may still show the fault that is being left.
            when: { place, any: [fault], none: profile.states.filter(({ id }) => id === 'S1') },
            why: `after ${word} a fault came`,
          },
        }
      : {}),
    overdue: fromFault
      ? `after ${word} it should be “${wanted}”: the reset was refused`
      : `after ${word} it should be “${wanted}”`,
    names: profile.states.map(({ mask, value, name }) => ({ mask, value, name })),
    hints: local ? [{ ...local, text: 'it does not look at its control word now' }] : [],
    width: profile.status.width,
  };
}
