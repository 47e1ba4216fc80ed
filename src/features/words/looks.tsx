'use client';

import { useState } from 'react';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { Tabs } from '../../ui/tabs';
import { BlockersPanel } from './blockers-panel';
import { StatusPanel } from './status-panel';
import { TrendPanel } from './trend-panel';

const LOOKS = [
  { id: 'status', name: 'Status', Body: StatusPanel },
  { id: 'why', name: 'Why it does not run', Body: BlockersPanel },
  { id: 'trend', name: 'Trend', Body: TrendPanel },
] as const;

/** Three looks at what comes back: bit by bit, as what stands in the way, and over time. */
export function Looks({ index }: { readonly index: SheetIndex }) {
  const [chosen, setChosen] = useState<(typeof LOOKS)[number]['id']>('status');
  const Body = LOOKS.find(({ id }) => id === chosen)?.Body ?? StatusPanel;
  return (
    <Tabs label="What comes back" tabs={LOOKS} chosen={chosen} onChoose={setChosen}>
      <Body index={index} />
    </Tabs>
  );
}
