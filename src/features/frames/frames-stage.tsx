'use client';

import { useBench, useDrafts } from '../../bench/bench-context';
import { Tabs } from '../../ui/tabs';
import { PARTS } from './parts';

/** Frames: build and read them, keep them, open captures, look at unknown bytes, describe a drive's own commands. */
export function FramesStage() {
  const bench = useBench();
  const part = useDrafts((drafts) => drafts.framesPart);
  const { id, Body } = PARTS.find((candidate) => candidate.id === part) ?? PARTS[0];
  return (
    <Tabs label="Parts of Frames" tabs={PARTS} chosen={id} onChoose={bench.drafts.getState().setFramesPart}>
      <Body />
    </Tabs>
  );
}
