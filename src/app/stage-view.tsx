'use client';

import Button from '@mui/material/Button';
import { useDeferredValue, useEffect, useState, type ComponentType, type ReactNode } from 'react';
import { useBenchState } from '../bench/bench-context';
import { useStagePath, type StagePath } from '../bench/hooks/go-to';
import { messageOf } from '../core/message-of';
import { Panel, StageHead } from '../ui/panel';

/** The other stages are fetched so long after the first view is there: they must be here when the server is not. */
const FETCH_AHEAD_MS = 2_500;
/** While something does not come, all is asked for again after twice as long each time, and after so long at most. */
const MOST_MS = 60_000;

/** A mark in the browser's own timeline: from then on the server may go. */
const ALL_HERE = 'bujo: all stages are here';

const LOADERS: Readonly<Record<StagePath, () => Promise<ComponentType>>> = {
  '/': () => import('../features/job/job-stage').then(({ JobStage }) => JobStage),
  '/line': () => import('../features/line/line-stage').then(({ LineStage }) => LineStage),
  '/frames': () => import('../features/frames/frames-stage').then(({ FramesStage }) => FramesStage),
  '/words': () => import('../features/words/words-stage').then(({ WordsStage }) => WordsStage),
  '/scaling': () => import('../features/scaling/scaling-stage').then(({ ScalingStage }) => ScalingStage),
  '/registers': () => import('../features/registers/registers-stage').then(({ RegistersStage }) => RegistersStage),
  '/trials': () => import('../features/trials/trials-stage').then(({ TrialsStage }) => TrialsStage),
  '/sheets': () => import('../features/sheets/sheets-stage').then(({ SheetsStage }) => SheetsStage),
  '/handover': () => import('../features/handover/handover-stage').then(({ HandoverStage }) => HandoverStage),
};

const loaded = new Map<StagePath, ComponentType>();

async function load(path: StagePath): Promise<ComponentType> {
  const known = loaded.get(path) ?? (await LOADERS[path]());
  loaded.set(path, known);
  return known;
}

const isStage = (path: string): path is StagePath => path in LOADERS;

/** The stage of the address. The first one comes with the page (`children`); any other is shown without asking the server for a page. */
export function StageView({ children }: { readonly children: ReactNode }) {
  const path = useStagePath();
  const [first] = useState(path);
  const phase = useBenchState((state) => state.phase.kind);
  const isReady = phase === 'ready';
  // A stage with all its parts is drawn a few milliseconds at a time beside the strip, the trace and hands.
  const isStarting = useDeferredValue(phase) === 'starting';
  useEffect(() => {
    if (!isReady) return undefined;
    let isLeft = false;
    const stages = Object.keys(LOADERS)
      .filter(isStage)
      .map((stage) => () => load(stage));
    const fetchAll = async (): Promise<void> => {
      const { fetchAhead } = await import('./fetch-ahead');
      await fetchAhead(stages, () => isLeft);
      if (!isLeft) performance.mark(ALL_HERE);
    };
    let timer: ReturnType<typeof setTimeout> | undefined;
    const beginIn = (ms: number): void => {
      // The server may be away just now, and come back.
      timer = setTimeout(() => void fetchAll().catch(() => !isLeft && beginIn(Math.min(2 * ms, MOST_MS))), ms);
    };
    beginIn(FETCH_AHEAD_MS);
    return () => {
      isLeft = true;
      clearTimeout(timer);
    };
  }, [isReady]);
  if (isStarting) return <StageHead title="Opening the job …" />;
  return path === first || !isStage(path) ? children : <OtherStage key={path} path={path} />;
}

type Loading =
  | { readonly kind: 'loading' }
  | { readonly kind: 'ready'; readonly Stage: ComponentType }
  | { readonly kind: 'failed'; readonly why: string };

function OtherStage({ path }: { readonly path: StagePath }) {
  const known = loaded.get(path);
  const [tries, setTries] = useState(0);
  const [loading, setLoading] = useState<Loading>(known ? { kind: 'ready', Stage: known } : { kind: 'loading' });
  useEffect(() => {
    if (loading.kind === 'ready') return undefined;
    let isGone = false;
    load(path).then(
      (Stage) => !isGone && setLoading({ kind: 'ready', Stage }),
      (error: unknown) => !isGone && setLoading({ kind: 'failed', why: messageOf(error) }),
    );
    return () => {
      isGone = true;
    };
  }, [loading.kind, path, tries]);
  if (loading.kind === 'ready') return <loading.Stage />;
  if (loading.kind === 'loading') return <Panel title="Loading …">This stage comes from the local server.</Panel>;
  return (
    <Panel title="This stage is not here">
      <p>
        The local server does not answer, and this stage was not loaded before it went. Lines that are open, keep-alives
        and Stop go on in this page. ({loading.why})
      </p>
      <Button
        variant="outlined"
        color="inherit"
        onClick={() => {
          setLoading({ kind: 'loading' });
          setTries(tries + 1);
        }}
      >
        Try again
      </Button>
    </Panel>
  );
}
