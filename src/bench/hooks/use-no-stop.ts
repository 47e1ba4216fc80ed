'use client';

import { canStop } from '../../core/drive/can-stop';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { useCurrent } from './use-current';
import { useTyped } from './use-typed';

/**
 * A sheet that does not say yet how its drive is stopped: before the first word that could turn a shaft, its user says so or completes the sheet. The
 * answer holds for this station in this tab.
 */
export function useNoStop(index: SheetIndex | null): {
  /** Nothing here can stop this drive. */
  readonly isSo: boolean;
  /** Why acts that could turn the shaft are off; empty once the user has said that they know. */
  readonly off: string;
  readonly accept: () => void;
} {
  const { key } = useCurrent();
  const [known, setKnown] = useTyped('no stop', key, 'known', '');
  const isSo = index !== null && index.words !== undefined && !canStop(index);
  return {
    isSo,
    off: isSo && known === '' ? 'nothing here can stop this drive: see below' : '',
    accept: () => setKnown('yes'),
  };
}
