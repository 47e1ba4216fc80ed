import { hexNumber } from '../core/bytes/hex';
import type { PlaceLink } from '../core/places/place-link';
import { stateNamesOf, statesOf, type Profile } from '../core/profile/profile';
import type { Route, RouteStep } from '../core/profile/route';
import type { SheetIndex } from '../core/sheet/index-sheet';
import { roleActive } from '../core/words/read';
import { isCertain } from '../link/request';
import { ask } from './ask';
import type { Bench } from './bench';
import { viewOf } from './bench-state';
import { liveOf } from './known-state';
import type { StepDone, Walk } from './walk-state';

const CAUSE = 'route';
/** The status is asked for this often while a state is waited for. */
const EVERY_MS = 60;
/** A state that takes no ramp comes within this time. */
const USUAL_MS = 3_000;

/** How long a step's state is waited for, in milliseconds: a ramp may lie in between. */
export const waitMs = ({ sheet, profile }: SheetIndex, { states }: RouteStep): number =>
  Math.max(
    USUAL_MS,
    sheet.commands?.stop.standstillWithinMs ?? 0,
    // A way of the drive's own to such a state may take longer.
    ...(profile?.own ?? []).filter(({ to }) => states.includes(to)).map(({ withinMs }) => withinMs),
  );

class Ended extends Error {}

interface Way {
  readonly index: SheetIndex;
  readonly profile: Profile;
  readonly places: PlaceLink;
  readonly route: Extract<Route, { kind: 'steps' }>;
  readonly target: string;
  /** Only the first word. */
  readonly one: boolean;
}

/**
 * Walks a route word by word: each word must be confirmed and its state must show before the next one goes out. It ends at the first answer that
 * was not expected, at a fault, at Stop, and when another line or station is chosen.
 */
export async function walkRoute(bench: Bench, way: Way): Promise<void> {
  const { state } = bench;
  const { lineId: line, station } = state.getState();
  const steps = way.one ? way.route.steps.slice(0, 1) : way.route.steps;
  let walk: Walk = { line, station, target: way.target, steps, done: [], over: false, why: '' };
  const show = (change: Partial<Walk>): void => {
    walk = { ...walk, ...change };
    state.setState({ walk });
  };
  const check = (): void => {
    const now = state.getState();
    if (now.walk !== walk) throw new Ended('another route was begun');
    if (now.stops.length > 0) throw new Ended('Stop was pressed');
    if (now.lineId !== line || now.station !== station) throw new Ended('another drive was chosen');
    if (now.lines.get(line)?.open !== true) throw new Ended('the line is closed');
  };
  show({});
  try {
    for (const step of steps) {
      check();
      const done = await takeStep(bench, way, station, step, check);
      show({ done: [...walk.done, done] });
    }
    show({ over: true });
  } catch (error) {
    if (state.getState().walk === walk)
      show({ over: true, why: error instanceof Ended ? error.message : String(error) });
  }
}

async function takeStep(
  bench: Bench,
  { index, profile, places }: Way,
  station: number,
  step: RouteStep,
  check: () => void,
): Promise<StepDone> {
  const { state } = bench;
  const control = index.byRole.get('control-word');
  const status = index.byRole.get('status-word');
  const known = (role: Parameters<typeof liveOf>[2]): number | undefined =>
    liveOf(index, viewOf(state.getState()), role)?.word;
  const bytes = control && places.write(station, control, step.word, known);
  const reads = status ? places.read(station, [status]) : [];
  const [read] = reads;
  if (!bytes || !read) throw new Ended('the sheet does not say where the words are');
  const word = hexNumber(step.word, profile.control.width / 4);
  const sent = await ask(bench, station, bytes, CAUSE);
  check();
  if (sent.outcome === 'exception')
    throw new Ended(`the drive refused ${word} with exception ${sent.said?.exception ?? ''}`);
  if (!isCertain(sent)) throw new Ended(`no sure answer came to ${word}; the drive may have taken it`);
  const withinUs = 1000 * waitMs(index, step);
  for (;;) {
    check();
    const answer = await ask(bench, station, read, CAUSE);
    const told = answer.outcome === 'answered' && answer.reply ? places.learned(read, answer.reply) : [];
    const seen = told.find(([address]) => address === status?.address)?.[1];
    if (seen !== undefined) {
      const names = stateNamesOf(profile, seen);
      if (names.some((name) => step.expects.includes(name)))
        return { status: seen, ms: Math.round((answer.endedUs - sent.endedUs) / 1000) };
      if (isFault(profile, seen) && !step.expects.some((name) => name.includes('fault')))
        throw new Ended(`after ${word} a fault came: status ${hexNumber(seen, profile.status.width / 4)}`);
    }
    if (answer.endedUs - sent.endedUs > withinUs) throw new Ended(surprise(profile, step, word, seen, withinUs));
    await new Promise((resolve) => setTimeout(resolve, EVERY_MS / state.getState().yardSpeed));
  }
}

/** A fault that the way does not start from: the state says so, or the bit of the status word. */
const isFault = (profile: Profile, status: number): boolean =>
  roleActive(profile.status, 'fault', status) === true && statesOf(profile, status).every(({ id }) => id !== 'S1');

function surprise(
  profile: Profile,
  { expects }: RouteStep,
  word: string,
  seen: number | undefined,
  withinUs: number,
): string {
  const wanted = expects.map((id) => profile.states.find((state) => state.id === id)?.name ?? id).join(' or ');
  if (seen === undefined)
    return `after ${word} the status did not come, so whether the drive is ${wanted} is not known`;
  const names = statesOf(profile, seen).map(({ name }) => name);
  const is = names.length > 0 ? names.join(' or ') : 'a status that no state has';
  const local =
    roleActive(profile.status, 'remote', seen) === false ? '; it does not look at its control word now' : '';
  return `after ${word} it should be “${wanted}”, but for ${withinUs / 1e6} s it is “${is}”, ${hexNumber(seen, profile.status.width / 4)}${local}`;
}
