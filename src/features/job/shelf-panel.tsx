'use client';

import Button from '@mui/material/Button';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import type { Job } from '../../core/job/job';
import { ActButton } from '../../ui/act-button';
import { FileButton } from '../../ui/file-button';
import { Panel } from '../../ui/panel';
import styles from './job.module.css';

/** Come with the first act that has something to say, and where a row is damaged. */
const shelfNews = () => import('./shelf-news');
const ShelfNewsLine = dynamic(() =>
  shelfNews().then(
    (part) => part.ShelfNewsLine,
    () => BareNews,
  ),
);
const BadRows = dynamic(() =>
  shelfNews().then(
    (part) => part.BadRows,
    () => BareRows,
  ),
);

/** What is said where the server went before that part came: an act that failed must not fail a second time in silence, nor a deletion lose its way back. */
function BareNews() {
  const { jobs } = useBench();
  const { text, undo } = useBenchState((state) => state.shelfNews) ?? {};
  return (
    <p role="alert">
      {text} {undo && <Button onClick={() => jobs.restore(undo)}>Undo</Button>}
    </p>
  );
}

const BareRows = () => <p role="alert">Jobs that cannot be read are left where they are; reload to see them.</p>;
/** Comes with the first name that is typed. */
const NameEntry = dynamic(() => import('./name-entry').then((part) => part.NameEntry));

/** The jobs of this browser: made, renamed, copied, deleted with undo, carried in and out as files. */
export function ShelfPanel() {
  const bench = useBench();
  const jobs = useBenchState((state) => state.jobs);
  const open = useBenchState((state) => state.job);
  const hasNews = useBenchState((state) => state.shelfNews !== null);
  const hasBadRows = useBenchState((state) => state.badJobs.length > 0);
  return (
    <Panel
      title="Jobs"
      aside="kept in this browser; a file carries one to another"
      tools={
        <>
          <FileButton label="Job file" accept=".json,application/json" onFile={(file) => bench.jobs.importFile(file)}>
            Import a job file
          </FileButton>
          {open && (
            <>
              <Button variant="text" color="inherit" onClick={() => bench.jobs.exportTrace(open, 'csv')}>
                Export the trace as CSV
              </Button>
              <Button variant="text" color="inherit" onClick={() => bench.jobs.exportTrace(open, 'jsonl')}>
                as JSON Lines
              </Button>
            </>
          )}
        </>
      }
    >
      {hasNews && <ShelfNewsLine />}
      <ul className={styles.shelf} aria-label="Jobs">
        {jobs.map((job) => (
          <JobRow key={job.id} job={job} isOpen={job.id === open?.id} />
        ))}
      </ul>
      {hasBadRows && <BadRows />}
      <NewJob />
    </Panel>
  );
}

function NewJob() {
  const bench = useBench();
  const [name, setName] = useState<string | null>(null);
  const make = (): void => {
    if (name === null || name.trim() === '') return;
    bench.jobs.create(name.trim());
    setName(null);
  };
  if (name === null)
    return (
      <div className={styles.new}>
        <Button variant="outlined" color="inherit" onClick={() => setName('')}>
          New job …
        </Button>
      </div>
    );
  return (
    <div className={styles.new}>
      <NameEntry label="Name of a new job" value={name} onName={setName} onEnter={make} onLeave={() => setName(null)} />
      <ActButton variant="outlined" color="inherit" off={name.trim() === '' ? 'give it a name' : ''} onClick={make}>
        Make it
      </ActButton>
      <Button variant="text" color="inherit" onClick={() => setName(null)}>
        Leave it
      </Button>
    </div>
  );
}

function JobRow({ job, isOpen }: { readonly job: Job; readonly isOpen: boolean }) {
  const { jobs } = useBench();
  const [name, setName] = useState<string | null>(null);
  const rename = (): void => {
    if (name !== null && name.trim() !== '' && name.trim() !== job.name) jobs.rename(job, name.trim());
    setName(null);
  };
  return (
    <li className={styles.job} aria-label={job.name}>
      {name === null ? (
        <strong>{job.name}</strong>
      ) : (
        <NameEntry
          label="New name"
          value={name}
          onName={setName}
          onEnter={rename}
          onBlur={rename}
          onLeave={() => setName(null)}
        />
      )}
      <span className={styles.soft}>
        {isOpen ? 'open, ' : ''}
        {job.lines.length === 1 ? '1 line' : `${job.lines.length} lines`}
      </span>
      <span className={styles.acts}>
        <ActButton variant="outlined" color="inherit" off={isOpen ? 'is open' : ''} onClick={() => jobs.open(job)}>
          Open
        </ActButton>
        <Button variant="text" color="inherit" onClick={() => setName(job.name)}>
          Rename
        </Button>
        <Button variant="text" color="inherit" onClick={() => jobs.copy(job)}>
          Copy
        </Button>
        <Button variant="text" color="inherit" onClick={() => jobs.exportJob(job)}>
          Export
        </Button>
        <ActButton
          variant="text"
          color="inherit"
          off={isOpen ? 'is open' : ''}
          title={isOpen ? 'open another job first' : undefined}
          onClick={() => jobs.remove(job)}
        >
          Delete
        </ActButton>
      </span>
    </li>
  );
}
