'use client';

import Button from '@mui/material/Button';
import { useBench, useDrafts } from '../../bench/bench-context';
import { lineText } from '../../core/job/line-text';
import { useCurrent } from '../../bench/hooks/use-current';
import { useOpenLine } from '../../bench/hooks/use-open-line';
import type { JobLine } from '../../core/job/job';
import { isRetrying } from '../../link/line-life';
import { ActButton } from '../../ui/act-button';
import { StageHead, Warning } from '../../ui/panel';
import { Tabs } from '../../ui/tabs';
import { PARTS } from './parts';

/** Line: set it up, prove it with one harmless exchange, and find out why it fails. */
export function LineStage() {
  const { line } = useCurrent();
  if (!line) return <StageHead title="Line" aside="this job has no line; add one in Job" />;
  return <LineView line={line} />;
}

function LineView({ line }: { readonly line: JobLine }) {
  const bench = useBench();
  const { isOpen, lineState } = useCurrent();
  const { off, open } = useOpenLine(line);
  const part = useDrafts((drafts) => drafts.linePart);
  const { id, Body } = PARTS.find((candidate) => candidate.id === part) ?? PARTS[0];
  const holds = isOpen || isRetrying(lineState?.life);
  return (
    <>
      <StageHead title={line.name} aside={lineText(line)}>
        {holds ? (
          <Button variant="outlined" color="inherit" onClick={() => bench.close(line.id)}>
            Close {line.name}
          </Button>
        ) : (
          <ActButton variant="contained" color="secondary" off={off} onClick={open}>
            Open {line.name}
          </ActButton>
        )}
      </StageHead>
      {lineState !== null && lineState.driven.length > 0 && (
        <Warning>
          This bench set station {lineState.driven.join(', ')} in motion. Settings, breaks and sweeps are not done until
          Stop has brought it to rest: they would cut the line to it.
        </Warning>
      )}
      <Tabs label="Parts of the line" tabs={PARTS} chosen={id} onChoose={bench.drafts.getState().setLinePart}>
        <Body key={line.id} />
      </Tabs>
    </>
  );
}
