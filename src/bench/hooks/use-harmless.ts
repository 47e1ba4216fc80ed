'use client';

import { useCurrent } from './use-current';

const NOTHING = new Uint8Array(0);

/** What any drive of the current line answers without doing anything; empty where the line has no requests and answers. */
export function useHarmless(): (unit?: number) => Uint8Array {
  const { station, index, protocol } = useCurrent();
  return (unit = station?.station ?? 1) => protocol?.harmless(unit, index) ?? NOTHING;
}
