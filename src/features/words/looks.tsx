'use client';

import { useState } from 'react';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { Tabs } from '../../ui/tabs';
import { BitsPanel } from './bits-panel';
import { RunConditionsPanel } from './run-conditions-panel';
import { ComparePanel } from './compare-panel';
import { StatesPanel } from './states-panel';
import { StatusPanel } from './status-panel';
import { TimelinePanel } from './timeline-panel';
import { TrendPanel } from './trend-panel';

const LOOKS = [
  { id: 'states', name: 'States', Body: StatesPanel },
  { id: 'status', name: 'Status', Body: StatusPanel },
  { id: 'why', name: 'Why it does not run', Body: RunConditionsPanel },
  { id: 'compare', name: 'Compare', Body: ComparePanel },
  { id: 'timeline', name: 'Timeline', Body: TimelinePanel },
  { id: 'trend', name: 'Trend', Body: TrendPanel },
  { id: 'bits', name: 'Bits', Body: BitsPanel },
] as const;

/** Looks at what comes back: as a state and the way to another, bit by bit, as what stands in the way, and over time. */
export function Looks({ index }: { readonly index: SheetIndex }) {
  const [chosen, setChosen] = useState<(typeof LOOKS)[number]['id']>(
    index.sheet.profile?.kind === 'own' || !index.profile ? 'status' : 'states',
  );
  const Body = LOOKS.find(({ id }) => id === chosen)?.Body ?? StatusPanel;
  return (
    <Tabs label="What comes back" tabs={LOOKS} chosen={chosen} onChoose={setChosen}>
      <Body index={index} />
    </Tabs>
  );
}
