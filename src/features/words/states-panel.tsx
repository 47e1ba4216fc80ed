'use client';

import Button from '@mui/material/Button';
import { useBench, useBenchState } from '../../bench/bench-context';
import { liveOf } from '../../bench/state/known-state';
import { useNoStop } from '../../bench/hooks/use-no-stop';
import { useCurrent } from '../../bench/hooks/use-current';
import { isUnderWay, lastRun, type RunView } from '../../bench/state/runs';
import { useTyped } from '../../bench/hooks/use-typed';
import { hexNumber } from '../../core/bytes/hex';
import { mapOf } from '../../core/profile/layout';
import { RUNNING, statesOf, targetsOf, type Profile } from '../../core/profile/profile';
import { routeProcedure, waitUs } from '../../core/procedure/route-procedure';
import { routeTo, type Route, type RouteStep } from '../../core/profile/route';
import { motionCautions } from '../../core/drive/motion-cautions';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { ActButton, LINE_CLOSED, whyOff } from '../../ui/act-button';
import { ageText } from '../../ui/format';
import { Panel, Warning } from '../../ui/panel';
import { StateMapView } from './state-map';
import styles from './states.module.css';
import { targetOf } from './target';

/** Where the drive is, and the shortest list of words to where it should be, walked one step at a time or in one go. */
export function StatesPanel({ index }: { readonly index: SheetIndex }) {
  const { profile } = index;
  if (!profile)
    return (
      <Panel title="Where it is, and the way there" aside="no states">
        Sheet {index.sheet.name} names no profile and lists no states of its own, so no way can be worked out.
      </Panel>
    );
  return <Ways index={index} profile={profile} />;
}

function Ways({ index, profile }: { readonly index: SheetIndex; readonly profile: Profile }) {
  const bench = useBench();
  const { view, key, name, places, isOpen, drive } = useCurrent();
  const nowUs = useBenchState((state) => state.nowUs);
  const last = useBenchState((state) => lastRun(state, state.lineId, 'route'));
  const [chosen, setTarget] = useTyped('route', key, 'target', '');
  const status = liveOf(index, view, 'status-word');
  const held = liveOf(index, view, 'control-word')?.word ?? null;
  const here = status ? statesOf(profile, status.word).map(({ id }) => id) : [];
  const target = targetsOf(profile).includes(chosen) ? chosen : null;
  const route = target === null ? null : routeTo(profile, here, held, target);
  const steps = route?.kind === 'steps' ? route.steps : [];
  const walk = last?.procedure.station === drive?.station ? last : null;
  const walked = walk?.about.kind === 'route' ? walk.about.steps : [];
  const walking = walk !== null && isUnderWay(walk);
  const turning = steps.find(({ turns }) => turns);
  const cautions = turning
    ? motionCautions({ control: turning.word }, index, (role) => liveOf(index, view, role)?.word).warnings
    : [];
  const [typedTarget] = useTyped('target position', key, 'counts', '');
  const elsewhere =
    profile.takes === 'position' && turning !== undefined && targetOf(index, view, typedTarget).differs
      ? 'The target typed below is not the one that the drive holds: send the target before a move is started.'
      : '';
  const noStop = useNoStop(index);
  const cannotGo = whyOff(
    [turning !== undefined && noStop.off !== '', noStop.off],
    [!isOpen, LINE_CLOSED],
    [walking, 'a walk is under way'],
    [steps.length === 0, 'there is no step to go'],
  );
  const go = (one: boolean): void => {
    if (!places || !drive || target === null || route?.kind !== 'steps') return;
    const made = routeProcedure({
      index,
      profile,
      places,
      station: drive.station,
      here,
      steps: one ? route.steps.slice(0, 1) : route.steps,
      title: `${name} to ${nameOf(profile, target)}`,
      known: (role) => liveOf(index, view, role)?.word,
    });
    if (made.ok) bench.start(drive.line, made.value, { kind: 'route', target, steps: route.steps });
    else bench.state.setState({ refused: `Not begun: ${made.error}.` });
  };
  return (
    <Panel
      title="Where it is, and the way there"
      aside={whereText(profile, status?.word, here, status ? nowUs - status.atUs : null)}
    >
      <StateMapView
        map={mapOf(profile)}
        here={new Set(here)}
        target={target === RUNNING ? (profile.runs?.state ?? null) : target}
        way={[...here.slice(0, 1), ...steps.map(({ states }) => states[0] ?? '')]}
        onTarget={(id) => setTarget(id)}
      />
      {profile.runs && (
        <p>
          <Button
            variant="outlined"
            color={target === RUNNING ? 'primary' : 'inherit'}
            aria-pressed={target === RUNNING}
            onClick={() => setTarget(RUNNING)}
          >
            running: {lower(nameOf(profile, profile.runs.state))} with {hexNumber(profile.runs.value)}
          </Button>
        </p>
      )}
      <Steps
        profile={profile}
        index={index}
        walk={walk}
        steps={walking || (walk && steps.length === 0) ? walked : steps}
      />
      {route?.kind === 'none' && <Warning>No way there: {route.why}.</Warning>}
      {elsewhere !== '' && <Warning>{elsewhere}</Warning>}
      {cautions.map((text) => (
        <Warning key={text}>{text}</Warning>
      ))}
      <div className={styles.acts}>
        <p role="status" data-testid="walk">
          {walkText(profile, walk, target, route, status === null)}
        </p>
        {target !== null && (
          <>
            <ActButton
              variant="outlined"
              color="inherit"
              off={elsewhere !== '' && steps[0] === turning ? 'see below' : cannotGo}
              onClick={() => go(true)}
            >
              One step: {steps[0] ? hexNumber(steps[0].word, profile.control.width / 4) : 'none'}
            </ActButton>
            <ActButton variant="contained" off={elsewhere !== '' ? 'see below' : cannotGo} onClick={() => go(false)}>
              Walk {name} to {nameOf(profile, target)}
            </ActButton>
          </>
        )}
      </div>
    </Panel>
  );
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

const nameOf = (profile: Profile, id: string): string =>
  lower(profile.states.find((state) => state.id === id)?.name ?? id);

function whereText(
  profile: Profile,
  status: number | undefined,
  here: readonly string[],
  ageUs: number | null,
): string {
  if (status === undefined || ageUs === null) return 'its status is not read yet';
  const hex = hexNumber(status, profile.status.width / 4);
  if (here.length === 0) return `${hex} is a status that no state has, ${ageText(ageUs)}`;
  const alike = here.length > 1 ? `. ${profile.alike}` : '';
  return `${hex}: ${here.map((id) => nameOf(profile, id)).join(' or ')}, ${ageText(ageUs)}${alike}`;
}

function walkText(
  profile: Profile,
  walk: RunView | null,
  target: string | null,
  route: Route | null,
  unknown: boolean,
): string {
  if (walk) {
    const [done, of] = [doneSteps(walk).length, wordsIn(walk)];
    if (isUnderWay(walk)) return `Walking, step ${Math.min(done + 1, of)} of ${of} …`;
    if (walk.run?.why) return `Stopped after ${done} of ${of}: ${walk.run.why}.`;
  }
  if (target === null) return 'Press a state to see the words that lead there.';
  if (route?.kind === 'steps' && route.steps.length === 0) return `It is there: ${nameOf(profile, target)}.`;
  return unknown ? 'The state is not known: these words lead there from any.' : '';
}

/** Each word of a route is two steps: it is sent, and its state is watched for. */
const wordsIn = ({ procedure }: RunView): number => procedure.steps.length / 2;

interface Step {
  readonly status: number;
  /** From the word's confirmation to the state, in milliseconds of the line's clock. */
  readonly ms: number;
}

/** One for each word that led where it should. */
const doneSteps = ({ procedure, run }: RunView): readonly Step[] =>
  (run?.records ?? []).flatMap(({ step, good, seen, fromUs, toUs }) =>
    good && seen !== null && procedure.steps[step]?.kind === 'watch'
      ? [{ status: seen, ms: Math.round((toUs - fromUs) / 1000) }]
      : [],
  );

function Steps({
  profile,
  index,
  walk,
  steps,
}: {
  readonly profile: Profile;
  readonly index: SheetIndex;
  readonly walk: RunView | null;
  readonly steps: readonly RouteStep[];
}) {
  const done = walk?.about.kind === 'route' && walk.about.steps === steps ? doneSteps(walk) : [];
  return (
    <ol className={styles.steps} aria-label="Words of the route">
      {steps.map((step, i) => {
        const taken = done[i];
        const digits = profile.control.width / 4;
        const edges = [
          step.raises.length > 0 && `raises ${step.raises.join(', ')}`,
          step.drops.length > 0 && `drops ${step.drops.join(', ')}`,
        ].filter((text) => text !== false);
        return (
          <li key={i} className={`${styles.step} ${taken ? styles.went : ''}`} data-word={hexNumber(step.word, digits)}>
            <code>▸ {hexNumber(step.word, digits)}</code> {step.name}
            <small>{edges.length > 0 ? `${edges.join('; ')}` : 'changes no bit'}</small>
            <small>
              {taken
                ? `✓ ${hexNumber(taken.status, profile.status.width / 4)} after ${taken.ms} ms`
                : `then ${step.expects.map((id) => nameOf(profile, id)).join(' or ')}, within ${waitUs(index, step) / 1e6} s`}
            </small>
            {step.turns && <small className={styles.turns}>! the shaft may turn from here</small>}
          </li>
        );
      })}
    </ol>
  );
}
