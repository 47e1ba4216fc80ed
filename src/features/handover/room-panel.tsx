'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { counted } from '../../core/counted';
import { messageOf } from '../../core/message-of';
import { saveFile } from '../../bench/workers/ask-file-worker';
import type { RoomItem } from '../../store/room';
import { dateText } from '../../ui/format';
import { Panel } from '../../ui/panel';
import { handoverStore } from './handover-store';
import styles from './handover.module.css';

interface Looked {
  readonly items: readonly RoomItem[];
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
  const look = async (): Promise<void> => setLooked({ items: await bench.room.of(), ...(await browserRoom()) });
  const jobName = (id: string): string => jobs.find((job) => job.id === id)?.name ?? 'a job that is not here';
  const act = (what: () => Promise<void>) => () => void what().catch((error: unknown) => say(messageOf(error)));
  const letGo = async (item: RoomItem): Promise<void> => {
    const restore = await bench.room.letGo(item);
    setBack({ text: `Gone: ${itemName(item, jobName)}, ${itemSize(item)}.`, restore });
    await look();
  };
  const saveCopy = async (key: string): Promise<void> => {
    const text = await bench.room.copyText(key);
    if (text === null) return say('That copy is not here any more.');
    saveFile(new Blob([text], { type: 'application/json' }), `bujo-before-change-${key}.json`);
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
                Put it back
              </Button>
            </p>
          )}
          <ul className={styles.records} aria-label="What takes room in this browser">
            {looked.items.map((item) => (
              <li key={`${item.kind} ${item.key}`}>
                <span>{itemName(item, jobName)}</span>
                <span className={styles.soft}>
                  {itemSize(item)}
                  {item.kind === 'trace' && item.isOpen ? ', written to now' : ''}
                </span>
                {item.kind === 'copy' && (
                  <Button variant="text" color="inherit" size="small" onClick={act(() => saveCopy(item.key))}>
                    Save it as a file
                  </Button>
                )}
                {!(item.kind === 'trace' && item.isOpen) && (
                  <Button
                    variant="text"
                    color="inherit"
                    size="small"
                    aria-label={`Let go: ${itemName(item, jobName)}`}
                    onClick={act(() => letGo(item))}
                  >
                    Let it go
                  </Button>
                )}
              </li>
            ))}
          </ul>
          <p className={styles.soft}>Save an archive first: what is let go is in no later record.</p>
        </>
      )}
    </Panel>
  );
}

function itemName(item: RoomItem, jobName: (id: string) => string): string {
  switch (item.kind) {
    case 'trace':
      return `Trace of ${dateText(item.session.startedAtMs)}, ${jobName(item.session.job)}`;
    case 'photos':
      return `Photographs of ${jobName(item.key)}`;
    case 'copy':
      return `Copy of ${dateText(item.madeMs)}, before a newer program changed the database`;
  }
}

function itemSize(item: RoomItem): string {
  switch (item.kind) {
    case 'trace':
      return `${counted(item.entries, 'entry', 'entries')}, ${megabytes(item.bytes)}`;
    case 'photos':
      return `${counted(item.photos, 'photograph', 'photographs')}, ${megabytes(item.bytes)}`;
    case 'copy':
      return counted(item.rows, 'row', 'rows');
  }
}
