'use client';

import Button from '@mui/material/Button';

interface WatchButtonsProps {
  readonly watching: boolean;
  readonly onReadOnce: () => void;
  readonly onToggle: () => void;
}

/** Two ways to read and none to move. */
export function WatchButtons({ watching, onReadOnce, onToggle }: WatchButtonsProps) {
  return (
    <>
      <Button variant="outlined" color="inherit" onClick={onReadOnce}>
        Read once
      </Button>
      <Button variant="outlined" color="inherit" onClick={onToggle} aria-pressed={watching}>
        {watching ? 'End the watch' : 'Watch'}
      </Button>
    </>
  );
}
