'use client';

import Button from '@mui/material/Button';
import { useState } from 'react';
import { useBench, useBenchState } from '../../bench/bench-context';
import { counted } from '../../core/counted';
import type { Job } from '../../core/job/job';
import type { JobFile } from '../../core/job/job-file';
import { mergeOffers } from '../../core/job/merge-job';
import { messageOf } from '../../core/message-of';
import { ActButton } from '../../ui/act-button';
import { HeadRow } from '../../ui/head-row';
import styles from './job.module.css';

/** More differences than these are another job; the rest comes as these are taken. */
const SHOWN = 100;

/** A colleague's record of the open job: what it has otherwise is taken over one by one, each with a way back; what only one's own has stays. */
export function MergeOffers({ file }: { readonly file: JobFile }) {
  const bench = useBench();
  const job = useBenchState((state) => state.job);
  const [theirs, setTheirs] = useState<Job | null>(null);
  if (!job) return null;
  if (!theirs)
    return (
      <Button
        variant="outlined"
        color="inherit"
        onClick={() =>
          void bench.jobs
            .adopt(file)
            .then(setTheirs, (error: unknown) =>
              bench.state.setState({ refused: `the sheets of the file cannot be kept: ${messageOf(error)}` }),
            )
        }
      >
        Take from it, one by one
      </Button>
    );
  const offers = mergeOffers(job, theirs);
  return (
    <div className={styles.merge}>
      <p className={styles.soft}>
        {offers.length === 0
          ? 'Nothing in the file differs from this job any more.'
          : `${counted(offers.length, 'thing')} in the file ${offers.length === 1 ? 'differs' : 'differ'}; what only this job has stays.`}
      </p>
      {offers.length > 0 && (
        <table className={styles.offers} aria-label="What differs in the file">
          <HeadRow names={['what', 'this job', 'the file', '']} />
          <tbody>
            {offers.slice(0, SHOWN).map(({ key, what, own, theirs: other, why, take, back }) => (
              <tr key={key}>
                <th scope="row">{what}</th>
                <td>{own === '' ? 'not there' : own}</td>
                <td>{other}</td>
                <td>
                  <ActButton
                    variant="text"
                    color="inherit"
                    off={why}
                    aria-label={`Take over ${what}`}
                    onClick={() => bench.changeJob(take, back)}
                  >
                    Take it over
                  </ActButton>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
