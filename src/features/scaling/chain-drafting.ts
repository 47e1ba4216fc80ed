'use client';

import { useBench } from '../../bench/bench-context';
import { useCurrent } from '../../bench/hooks/use-current';
import type { ScalingChain } from '../../core/scaling/chain';
import { draftOfChain } from '../../core/scaling/chain-draft';

/** What the form says while the chain's editor is open. */
export const OPEN = 'open';

/** Puts a chain that was found elsewhere into the editor, where it is looked at before it is kept. */
export function useTakeChain(): (chain: ScalingChain) => void {
  const bench = useBench();
  const { key } = useCurrent();
  return (chain) => {
    const { setChain, setTyped } = bench.drafts.getState();
    setChain(key, draftOfChain(chain));
    setTyped('scaling', '', 'editor', OPEN);
    setTyped('scaling', '', 'part', 'chain');
  };
}
