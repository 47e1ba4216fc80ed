'use client';

import Button, { type ButtonProps } from '@mui/material/Button';
import { useKeys } from './use-keys';

interface UndoButtonsProps {
  readonly canUndo: boolean;
  readonly canRedo: boolean;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly variant?: NonNullable<ButtonProps['variant']>;
}

/** A step back and a step forward again, by keys too. */
export function UndoButtons({ canUndo, canRedo, undo, redo, variant = 'text' }: UndoButtonsProps) {
  useKeys({ 'Ctrl+z': undo, 'Ctrl+y': redo });
  return (
    <>
      <Button variant={variant} color="inherit" disabled={!canUndo} onClick={undo}>
        Undo
      </Button>
      <Button variant={variant} color="inherit" disabled={!canRedo} onClick={redo}>
        Redo
      </Button>
    </>
  );
}
