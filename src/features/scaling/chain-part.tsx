'use client';

import Button from '@mui/material/Button';
import { useTyped } from '../../bench/hooks/use-typed';
import { ChainBoxes } from './chain-boxes';
import { OPEN } from './chain-drafting';
import { ChainEditor } from './chain-editor';
import type { PartProps } from './parts';
import styles from './scaling.module.css';

/** The sheet's chain with its sums, and below it, when wanted, the same to change. */
export function ChainPart(props: PartProps) {
  const { scale, wanted, scaled, place } = props;
  const [editor, setEditor] = useTyped('scaling', '', 'editor', '');
  const isOpen = editor === OPEN;
  const toggle = (): void => setEditor(isOpen ? '' : OPEN);
  return (
    <div className={styles.stack}>
      <ChainBoxes chain={scale.chain} wanted={wanted} scaled={scaled} number={place.number} />
      <div>
        <Button variant="outlined" color="inherit" onClick={toggle} aria-expanded={isOpen}>
          {isOpen ? 'Put the changes away' : 'Change the chain'}
        </Button>
      </div>
      {isOpen && <ChainEditor {...props} />}
    </div>
  );
}
