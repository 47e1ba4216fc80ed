'use client';

import useMediaQuery from '@mui/material/useMediaQuery';
import { useState } from 'react';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { Tabs } from '../../ui/tabs';
import { BitsPanel } from './bits-panel';
import { RunConditionsPanel } from './run-conditions-panel';
import { ComparePanel } from './compare-panel';
import { ProfileWordPanel } from './profile-word';
import { StatesPanel } from './states-panel';
import { StatusPanel } from './status-panel';
import { TimelinePanel } from './timeline-panel';
import { TrendPanel } from './trend-panel';
import styles from './words.module.css';

const LOOKS = [
  { id: 'states', name: 'States', Body: StatesPanel },
  { id: 'status', name: 'Status', Body: StatusPanel },
  { id: 'why', name: 'Why it does not run', Body: RunConditionsPanel },
  { id: 'compare', name: 'Compare', Body: ComparePanel },
  { id: 'timeline', name: 'Timeline', Body: TimelinePanel },
  { id: 'trend', name: 'Trend', Body: TrendPanel },
  { id: 'bits', name: 'Bits', Body: BitsPanel },
  { id: 'any', name: 'Any word', Body: ProfileWordPanel },
] as const;

type LookId = (typeof LOOKS)[number]['id'];

/** From this width on two looks stand side by side: the state and what it becomes over time, say. */
const WIDE = '(min-width: 1700px)';

/** Looks at what comes back: as a state and the way to another, bit by bit, as what stands in the way, and over time. */
export function Looks({ index }: { readonly index: SheetIndex }) {
  const isWide = useMediaQuery(WIDE);
  const first: LookId = index.sheet.profile?.kind === 'own' || !index.profile ? 'status' : 'states';
  return (
    <div className={isWide ? styles.looks : ''}>
      <Look index={index} label="What comes back" first={first} />
      {isWide && <Look index={index} label="What comes back, second look" first="trend" />}
    </div>
  );
}

function Look({ index, label, first }: { readonly index: SheetIndex; readonly label: string; readonly first: LookId }) {
  const [chosen, setChosen] = useState<LookId>(first);
  const Body = LOOKS.find(({ id }) => id === chosen)?.Body ?? StatusPanel;
  return (
    <Tabs label={label} tabs={LOOKS} chosen={chosen} onChoose={setChosen}>
      <Body index={index} />
    </Tabs>
  );
}
