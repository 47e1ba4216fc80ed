'use client';

import Button from '@mui/material/Button';
import dynamic from 'next/dynamic';
import { useBench, useBenchState } from '../../bench/bench-context';
import styles from './job.module.css';

/** Comes with the first file of a job that is here already. */
const MergeOffers = dynamic(() => import('./merge-panel').then((part) => part.MergeOffers));

/** Rows of the database that are no jobs any more: they lock nothing out, and go out as they stand. */
export function BadRows() {
  const bench = useBench();
  const bad = useBenchState((state) => state.badJobs);
  return bad.map((row) => (
    <div key={row.id} className={`${styles.news} ${styles.bad}`} data-testid="bad-job">
      <span>
        ✗ A job in this browser’s storage cannot be read and was left where it is: {row.text}. Its id is {row.id}.
      </span>
      <Button variant="outlined" color="inherit" onClick={() => bench.jobs.exportRow(row)}>
        Export it as it stands
      </Button>
    </div>
  ));
}

/** What came of the last act, with the way back or the choice that it needs. */
export function ShelfNewsLine() {
  const { jobs } = useBench();
  const news = useBenchState((state) => state.shelfNews);
  const open = useBenchState((state) => state.job?.id ?? '');
  if (!news) return null;
  const { text, bad, undo, ask } = news;
  return (
    <div className={`${styles.news} ${bad ? styles.bad : ''}`} role={bad ? 'alert' : 'status'} data-testid="shelf-news">
      <span>
        {bad ? '✗ ' : ''}
        {text}
      </span>
      {undo && (
        <Button variant="outlined" color="inherit" onClick={() => jobs.restore(undo)}>
          Undo
        </Button>
      )}
      {ask && (
        <>
          {ask.job.id === open && <MergeOffers key={text} file={ask} />}
          <Button variant="outlined" color="inherit" onClick={() => jobs.settle(ask, 'replace')}>
            Replace it with the file
          </Button>
          <Button variant="outlined" color="inherit" onClick={() => jobs.settle(ask, 'keep-both')}>
            Keep both
          </Button>
        </>
      )}
      <Button variant="text" color="inherit" onClick={jobs.dismiss}>
        {ask ? 'Leave it' : 'Seen'}
      </Button>
    </div>
  );
}
