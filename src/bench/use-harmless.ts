'use client';

import { firstRead } from '../core/dialect/write';
import { encodeUss } from '../core/uss/encode';
import { useCurrent } from './use-current';

/** A pattern in which every bit changes to its neighbour. */
const MIRRORED = [0x5555, 0xaaaa];
const NOTHING = new Uint8Array(0);

/**
 * What any drive of the current line answers without doing anything: a read of one register (a refusal is an answer too), a mirror telegram, or
 * the first read of its dialect. Empty where the line has no requests and answers.
 */
export function useHarmless(): (unit?: number) => Uint8Array {
  const { station, index, framing, protocol } = useCurrent();
  return (unit = station?.station ?? 1) => {
    switch (protocol?.family) {
      case 'modbus': {
        const address = index?.byRole.get('status-word')?.address ?? 0;
        const built = framing.encode({ unit, fc: 3, address, quantity: 1 }, 'request');
        return built.ok ? built.value : NOTHING;
      }
      case 'uss': {
        const built = encodeUss({ address: unit, mirror: true, pzd: MIRRORED });
        return built.ok ? built.value : NOTHING;
      }
      case 'ascii': {
        const dialect = index?.sheet.dialect;
        return (dialect && firstRead(dialect, unit)) ?? NOTHING;
      }
      case undefined:
        return NOTHING;
    }
  };
}
