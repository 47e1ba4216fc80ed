'use client';

import MuiTab from '@mui/material/Tab';
import MuiTabs from '@mui/material/Tabs';
import { useId, type ReactNode } from 'react';
import { Later } from './later';

interface TabsProps<Id extends string> {
  readonly label: string;
  readonly tabs: readonly { readonly id: Id; readonly name: string }[];
  readonly chosen: Id;
  readonly onChoose: (id: Id) => void;
  readonly children: ReactNode;
}

/** Looks at one thing, of which one is shown; arrow keys walk through them, and a narrow screen scrolls them. */
export function Tabs<Id extends string>({ label, tabs, chosen, onChoose, children }: TabsProps<Id>) {
  const own = useId();
  return (
    <div>
      <MuiTabs
        aria-label={label}
        value={chosen}
        onChange={(_, id: Id) => onChoose(id)}
        variant="scrollable"
        scrollButtons="auto"
        allowScrollButtonsMobile
        selectionFollowsFocus
      >
        {tabs.map(({ id, name }) => (
          <MuiTab
            key={id}
            id={`${own} ${id}`.replaceAll(' ', '-')}
            value={id}
            label={name}
            aria-controls={`${own}-panel`}
            disableRipple
          />
        ))}
      </MuiTabs>
      <div id={`${own}-panel`} role="tabpanel" aria-labelledby={`${own}-${chosen}`}>
        {/* The row of tabs measures itself, which costs less while there is nothing below it. */}
        <Later key={chosen}>{children}</Later>
      </div>
    </div>
  );
}
