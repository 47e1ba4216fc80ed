'use client';

import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { Fragment } from 'react';
import { KEY_TABLE } from './key-table';
import styles from './palette.module.css';

/** Every key of the program. */
export function KeyMapDialog({ onClose }: { readonly onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="key-map-title">
      <DialogTitle id="key-map-title">Keys</DialogTitle>
      <DialogContent>
        {KEY_TABLE.map(({ where, rows }) => (
          <Fragment key={where}>
            <strong>{where}</strong>
            <dl className={styles.keys}>
              {rows.map(([keys, what]) => (
                <Fragment key={keys}>
                  <dt>
                    <kbd>{keys}</kbd>
                  </dt>
                  <dd>{what}</dd>
                </Fragment>
              ))}
            </dl>
          </Fragment>
        ))}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" variant="outlined" onClick={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
