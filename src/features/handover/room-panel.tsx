'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { counted } from '../../core/counted';
import { messageOf } from '../../core/message-of';
import type { SessionRoom } from '../../store/room';
import { dateText } from '../../ui/format';
import { Panel } from '../../ui/panel';
import { handoverStore } from './handover-store';
import styles from './handover.module.css';

interface Looked {
  readonly sessions: readonly SessionRoom[];
  readonly used: number | null;
  readonly quota: number | null;
  /** The browser may not clear it by itself; null where it does not tell. */
  readonly isKept: boolean | null;
}

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
const say = (text: string): void => handoverStore.setState({ news: [text] });

async function browserRoom(): Promise<Pick<Looked, 'used' | 'quota' | 'isKept'>> {
  // A page that is not from this machine, or an old browser, has none of it.
  const storage: StorageManager | undefined = navigator.storage;
  const { usage, quota } = (await storage?.estimate?.()) ?? {};
  return { used: usage ?? null, quota: quota ?? null, isKept: (await storage?.persisted?.()) ?? null };
}

/** What this browser's database takes, and whose it is; traces of old visits are let go, with a way back. */
export function RoomPanel() {
  const bench = useBench();
  const jobs = useBenchState((state) => state.jobs);
  const [looked, setLooked] = useState<Looked | null>(null);
  const [back, setBack] = useState<{ readonly text: string; readonly restore: () => Promise<void> } | null>(null);
  const look = async (): Promise<void> => setLooked({ sessions: await bench.room.of(), ...(await browserRoom()) });
  const act = (what: () => Promise<void>) => () => void what().catch((error: unknown) => say(messageOf(error)));
  const letGo = async ({ session, entries }: SessionRoom): Promise<void> => {
    const restore = await bench.room.letGo(session.id);
    setBack({ text: `${counted(entries, 'entry', 'entries')} of ${dateText(session.startedAtMs)} are gone.`, restore });
    await look();
  };
  return (
    <Panel title="Room in this browser" aside={looked === null || looked.used === null ? '' : megabytes(looked.used)}>
      <Button variant="outlined" color="inherit" size="small" onClick={act(look)}>
        {looked ? 'Look again' : 'Look what takes it'}
      </Button>
      {looked && (
        <>
          <p className={styles.text}>
            {looked.used === null || looked.quota === null
              ? 'This browser does not tell how much room there is. '
              : `${megabytes(looked.used)} of ${megabytes(looked.quota)} that this browser gives. `}
            {looked.isKept === true
              ? 'It keeps them until you clear them.'
              : 'It may clear them by itself where the disk is full.'}
          </p>
          {looked.isKept === false && (
            <Button
              variant="text"
              color="inherit"
              size="small"
              onClick={act(async () => {
                const isKept = await navigator.storage.persist();
                if (!isKept) say('This browser does not promise to keep what is here: save an archive.');
                await look();
              })}
            >
              Ask it to keep them
            </Button>
          )}
          {back && (
            <p className={styles.text} role="status">
              {back.text}{' '}
              <Button
                variant="text"
                color="inherit"
                size="small"
                onClick={act(async () => {
                  await back.restore();
                  setBack(null);
                  await look();
                })}
              >
                Put them back
              </Button>
            </p>
          )}
          <ul className={styles.records} aria-label="Traces in this browser">
            {looked.sessions.map((room) => {
              const { session, entries, bytes, isOpen } = room;
              const job = jobs.find(({ id }) => id === session.job)?.name ?? 'a job that is not here';
              return (
                <li key={session.id}>
                  <span>
                    {dateText(session.startedAtMs)}, {job}
                  </span>
                  <span className={styles.soft}>
                    {counted(entries, 'entry', 'entries')}, {megabytes(bytes)}
                    {isOpen ? ', written to now' : ''}
                  </span>
                  {!isOpen && (
                    <Button
                      variant="text"
                      color="inherit"
                      size="small"
                      aria-label={`Let the trace of ${dateText(session.startedAtMs)} go`}
                      onClick={act(() => letGo(room))}
                    >
                      Let it go
                    </Button>
                  )}
                </li>
              );
            })}
          </ul>
          <p className={styles.soft}>Save an archive first: what is let go is in no later record.</p>
        </>
      )}
    </Panel>
  );
}
