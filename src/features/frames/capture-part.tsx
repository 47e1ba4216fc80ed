'use client';

import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useState } from 'react';
import { LONGEST_PASTE } from '../../core/bytes/pasted';
import { counted } from '../../core/counted';
import { silentStations, type Statistics } from '../../core/capture/statistics';
import { inMs } from '../../ui/format';
import { HeadRow } from '../../ui/head-row';
import { ActButton } from '../../ui/act-button';
import { PasteArea } from '../../ui/paste-area';
import { FileButton } from '../../ui/file-button';
import { Panel, StageHead, Warning } from '../../ui/panel';
import { CaptureFilters } from './capture-filters';
import { CaptureList } from './capture-list';
import { CaptureRounds } from './capture-rounds';
import { CaptureSetup } from './capture-setup';
import styles from './frames.module.css';
import { useCapture, useDialectOf } from './use-capture';

/** Open a long capture and find the exchange that went wrong. */
export function CapturePart() {
  const capture = useCapture();
  const dialectOf = useDialectOf();
  const { file, progress, opened, found, trouble } = capture;
  return (
    <div className={styles.stack}>
      <StageHead
        title={file ? file.name : 'Capture'}
        aside={
          opened
            ? `${counted(opened.frames, 'entry', 'entries')}, read in ${opened.ms < 1000 ? `${Math.ceil(opened.ms)} ms` : `${(opened.ms / 1000).toFixed(1)} s`}`
            : 'binary streams, packet captures, hex dumps, logs'
        }
      >
        <FileButton
          label="Capture file"
          variant={file ? 'outlined' : 'contained'}
          onFile={(chosen) => capture.choose(chosen, dialectOf)}
        >
          Choose a file …
        </FileButton>
        {opened && (
          <>
            <Button variant="outlined" color="inherit" onClick={() => capture.save('pcapng')}>
              Export pcapng
            </Button>
            <Button variant="outlined" color="inherit" onClick={() => capture.save('csv')}>
              CSV
            </Button>
            <Button variant="outlined" color="inherit" onClick={() => capture.save('jsonl')}>
              JSON Lines
            </Button>
          </>
        )}
      </StageHead>
      {trouble && <Warning>{trouble}</Warning>}
      {!file && (
        <Panel title="Nothing is open">
          Choose a file: raw bytes of a line, a packet capture (pcap or pcapng) with Modbus TCP, serial bytes or serial
          bytes through a device server, a hex dump, or a text log with times. It is read in the background and stays on
          this machine.
          <PasteCapture onText={(text) => capture.choose(new File([text], 'pasted text'), dialectOf)} />
        </Panel>
      )}
      {file && <CaptureSetup capture={capture} />}
      {progress && !opened && (
        <Panel
          title={`${((100 * progress.read) / Math.max(progress.size, 1)).toFixed(0)} % of ${(progress.size / 1e6).toFixed(1)} MB${progress.held ? ', waiting' : ''}`}
          tools={
            <>
              <Button variant="text" color="inherit" onClick={() => capture.hold(!progress.held)}>
                {progress.held ? 'Go on' : 'Wait here'}
              </Button>
              <Button variant="text" color="inherit" onClick={capture.cancel}>
                End reading
              </Button>
            </>
          }
        >
          <LinearProgress
            color="inherit"
            variant="determinate"
            value={(100 * progress.read) / Math.max(progress.size, 1)}
            aria-label="read so far"
          />
        </Panel>
      )}
      {opened && (
        <>
          {opened.notes.map((note) => (
            <Warning key={note}>{note}</Warning>
          ))}
          <CaptureFilters capture={capture} />
          <CaptureList key={capture.listKey} capture={capture} count={found?.count ?? 0} />
          <StatisticsPanel statistics={opened.statistics} />
          <CaptureRounds capture={capture} />
        </>
      )}
    </div>
  );
}

/** A log or a hex dump from the clipboard, read like a file. */
function PasteCapture({ onText }: { readonly onText: (text: string) => void }) {
  const [text, setText] = useState('');
  return (
    <div className={styles.paste}>
      <PasteArea
        rows={4}
        longest={LONGEST_PASTE}
        // A long one is not laid out first.
        onTooLong={onText}
        label="Or paste a log or a hex dump"
        value={text}
        onChange={setText}
      />
      <ActButton
        variant="outlined"
        color="inherit"
        off={text.trim() === '' ? 'nothing is pasted yet' : ''}
        onClick={() => onText(text)}
      >
        Read it
      </ActButton>
    </div>
  );
}

function StatisticsPanel({ statistics }: { readonly statistics: Statistics }) {
  const { frames, junkBytes, damaged, spanUs, stations } = statistics;
  const silent = silentStations(statistics);
  const rate =
    Number.isNaN(spanUs) || spanUs <= 0
      ? ''
      : `, ${(frames / (spanUs / 1e6)).toFixed(1)} frames a second over ${(spanUs / 1e6).toFixed(1)} s`;
  return (
    <Panel
      title="Stations"
      aside={`${counted(frames, 'frame')}${rate} · ${counted(damaged, 'stretch', 'stretches')} of ${counted(junkBytes, 'byte')} in no frame${silent.length > 0 ? ` · silent: ${silent.join(', ')}` : ''}`}
    >
      <div className={styles.scrollX}>
        <table className={styles.table}>
          <HeadRow
            names={[
              'station',
              'requests',
              'answers',
              'refusals',
              'unanswered',
              'retries',
              'shortest delay, ms',
              'mean, ms',
              'longest, ms',
            ]}
          />
          <tbody>
            {stations.slice(0, 60).map((one) => (
              <tr key={one.unit}>
                <th scope="row">{one.unit}</th>
                <td>{one.requests}</td>
                <td>{one.responses}</td>
                <td>{one.exceptions}</td>
                <td>{one.unanswered}</td>
                <td>{one.retries}</td>
                <td>{inMs(one.shortestUs)}</td>
                <td>{inMs(one.meanUs)}</td>
                <td>{inMs(one.longestUs)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </Panel>
  );
}
