'use client';

import { useState } from 'react';
import { useBench } from '../../bench/bench-context';
import { wholeIn } from '../../core/bytes/whole';
import type { JobLine } from '../../core/job/job';
import { ActButton, whyOff } from '../../ui/act-button';
import { TypedField } from '../../ui/fields';
import styles from './job.module.css';

interface LineFinderProps {
  readonly text: string;
  readonly onText: (text: string) => void;
  readonly shown: number;
  readonly found: number;
}

/** Finds a line by a part of its name, where a job has more than a list shows. */
export const LineFinder = ({ text, onText, shown, found }: LineFinderProps) => (
  <TypedField
    label="find a line by its name"
    value={text}
    onChange={onText}
    note={shown < found ? `${shown} of ${found} lines are shown` : ''}
    width={260}
  />
);

/** Chooses a station by its number, where a line has more than a list shows. */
export function StationFinder({ line, disabled }: { readonly line: JobLine; readonly disabled: boolean }) {
  const bench = useBench();
  const [typed, setTyped] = useState('');
  const wanted = line.stations.find(({ station }) => station === wholeIn(typed));
  const choose = (): void => {
    if (!wanted || disabled) return;
    bench.select(line.id, wanted.station);
    setTyped('');
  };
  return (
    <div
      className={styles.more}
      onKeyDown={(event) => {
        if (event.key === 'Enter') choose();
      }}
    >
      <TypedField
        label={`another of ${line.stations.length}`}
        value={typed}
        onChange={setTyped}
        error={typed.trim() === '' || wanted ? '' : 'no station of this line has this number'}
        note={wanted ? wanted.name : ''}
        width={190}
      />
      <ActButton
        variant="outlined"
        color="inherit"
        off={whyOff([disabled, 'no way to it yet'], [!wanted, 'type its number'])}
        onClick={choose}
      >
        Choose it
      </ActButton>
    </div>
  );
}
