'use client';

import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import type { ScalingChain } from '../../core/scaling/chain';
import { draftOfChain } from '../../core/scaling/chain-draft';

/** Where drafts hold which part is shown below the scales, and whether the chain's editor is open. */
export const PART = 'scaling part';
export const EDITOR = 'scaling chain editor';
export const OPEN = 'open';

/** Puts a chain that was found elsewhere into the editor, where it is looked at before it is kept. */
export function useTakeChain(): (chain: ScalingChain) => void {
  const bench = useBench();
  const { key } = useCurrent();
  return (chain) => {
    const { setChain, setTyped } = bench.drafts.getState();
    setChain(key, draftOfChain(chain));
    setTyped(EDITOR, OPEN);
    setTyped(PART, 'chain');
  };
}
