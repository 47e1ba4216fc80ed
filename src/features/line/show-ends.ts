import type { Bench } from '../../bench/bench';
import type { SerialSettings } from '../../core/line/settings';

/** Puts settings that were found into the form of this end, so that it shows what the end has now. */
export function showEnds(bench: Bench, line: string, { rate, dataBits, parity, stopBits }: SerialSettings): void {
  const { setTyped } = bench.drafts.getState();
  setTyped('ends', line, 'rate', `${rate}`);
  setTyped('ends', line, 'data', `${dataBits}`);
  setTyped('ends', line, 'parity', parity);
  setTyped('ends', line, 'stop', `${stopBits}`);
}
