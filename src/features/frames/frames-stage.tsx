'use client';

import Button from '@mui/material/Button';
import { useCallback, useEffect, useMemo } from 'react';
import { useBench, useBenchState, useDrafts } from '../../bench/bench-context';
import { turningOf } from '../../bench/known-state';
import { useCurrent } from '../../bench/use-current';
import { characterUs, frameGapUs, type SerialSettings } from '../../core/line/settings';
import { objectionsTo } from '../../core/sheet/limits';
import { requestSentence } from '../../core/sheet/sentence';
import { StageHead } from '../../ui/panel';
import { useKeys } from '../../ui/use-keys';
import { firstRequest } from './draft-frame';
import styles from './frames.module.css';
import { ReplyPanels } from './reply-panels';
import { RequestPanel } from './request-panel';
import { WhereAddress, WhereValue } from './where-from';

const NO_BYTES = new Uint8Array(0);
/** What is said of the reply's time where no sheet says it. */
const DEFAULT_REPLY_MS = 200;

const ms = (us: number): string => (us / 1000).toFixed(1);

const onTheLine = (size: number, serial: SerialSettings | undefined): string =>
  serial ? ` · ${ms(size * characterUs(serial))} ms on the line, then ${ms(frameGapUs(serial))} ms of silence` : '';

/** Frames: build a request by field or by byte, see what it says and what should come back, send it, and read the reply. */
export function FramesStage() {
  const bench = useBench();
  const { line, station, index, view, key, isOpen, framing } = useCurrent();
  const draft = useDrafts((drafts) => drafts.frames.get(key)?.present);
  const ticket = useDrafts((drafts) => drafts.asked.get(key) ?? 0);
  const result = useBenchState((state) => state.results.get(ticket) ?? null);
  const bytes = draft ?? NO_BYTES;
  const reading = useMemo(() => framing.read(bytes, 'request'), [bytes, framing]);
  const nameOf = useCallback(
    (number: number) => line?.stations.find((candidate) => candidate.station === number)?.name ?? null,
    [line],
  );

  useEffect(() => {
    if (station && !draft) bench.drafts.getState().startFrame(key, firstRequest(framing, station.station, index));
  }, [bench, draft, framing, index, key, station]);

  const turning = turningOf(index, view);
  const objections = useMemo(
    () =>
      index && reading.message && reading.faults.length === 0 ? objectionsTo(reading.message, index, turning) : [],
    [index, reading, turning],
  );
  const target = bytes[framing.head] ?? 0;
  const targetName =
    target === 0 && framing.broadcasts ? 'all stations' : `${target} · ${nameOf(target) ?? 'not in the job'}`;
  const send = (): void => {
    if (isOpen && bytes.length > 0) bench.drafts.getState().setAsked(key, bench.send(target, bytes, 'Frames'));
  };
  useKeys({ 'Ctrl+Enter': send });

  if (!line || !station) return <StageHead title="Frames" aside="choose a line and a station in Job first" />;
  const whole = reading.message !== null && reading.faults.length === 0;
  return (
    <div className={styles.stack}>
      <StageHead
        title={whole && reading.message ? requestSentence(reading.message, index) : 'Bytes as typed'}
        aside={`${framing.name} · ${bytes.length} bytes${onTheLine(bytes.length, line.serial)}`}
      >
        {!isOpen && (
          <Button
            variant="outlined"
            color="inherit"
            onClick={() => bench.open(line.id)}
            disabled={line.far === 'not-built'}
          >
            Open line {line.name}
          </Button>
        )}
        <Button
          variant="contained"
          onClick={send}
          disabled={!isOpen || bytes.length === 0}
          aria-keyshortcuts="Control+Enter"
        >
          Send to {targetName}&nbsp;<kbd>Ctrl Enter</kbd>
        </Button>
      </StageHead>
      <RequestPanel
        stationKey={key}
        bytes={bytes}
        reading={reading}
        framing={framing}
        index={index}
        view={view}
        objections={objections}
        nameOf={nameOf}
      />
      <ReplyPanels
        request={bytes}
        framing={framing}
        refusal={objections.find(({ refusal }) => refusal !== null)?.refusal ?? null}
        result={result}
        waiting={ticket !== 0 && result === null}
        view={view}
        index={index}
        nameOf={nameOf}
        withinMs={index?.sheet.link?.replyWithinMs ?? DEFAULT_REPLY_MS}
      />
      <div className={styles.pair}>
        <WhereAddress message={reading.message} index={index} />
        <WhereValue message={reading.message} index={index} />
      </div>
    </div>
  );
}
