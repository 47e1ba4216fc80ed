'use client';

import Button from '@mui/material/Button';
import { goTo } from '../../bench/hooks/go-to';
import { useNoStop } from '../../bench/hooks/use-no-stop';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { Panel, Warning } from '../../ui/panel';
import styles from './words.module.css';

/** What must be said before a word that could turn a shaft goes to a drive that nothing here can stop. */
export function NoStopPanel({ index, name }: { readonly index: SheetIndex; readonly name: string }) {
  const { isSo, off, accept } = useNoStop(index);
  if (!isSo) return null;
  return (
    <Panel title="Stop cannot stop this drive" aside={`sheet ${index.sheet.name} has no stop words yet`}>
      <Warning>Have another way to stop {name} at hand: its own stop key, its enable input, its supply.</Warning>
      <div className={styles.ready}>
        <Button variant="outlined" onClick={() => goTo('/sheets')}>
          Give the sheet its stop words
        </Button>
        {off === '' ? (
          <span>You said that you can stop it another way.</span>
        ) : (
          <Button variant="outlined" color="error" onClick={accept}>
            I can stop it another way
          </Button>
        )}
      </div>
    </Panel>
  );
}
