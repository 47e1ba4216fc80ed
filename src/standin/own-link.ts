import type { SerialSettings } from '../core/line/settings';
import type { ParameterStore } from './parameter-store';
import type { LinkEnd } from './rtu-station';

/** The drive's end of the line from its own settings; what it has no setting for stays as it was. */
export function linkOf(store: ParameterStore, fallback: LinkEnd): LinkEnd {
  const rate = parseInt(store.choiceName('bit-rate') ?? '', 10) || fallback.settings.rate;
  const form = /^([78])([NEO])([12])$/.exec(store.choiceName('character-form') ?? '');
  const settings = form
    ? ({
        rate,
        dataBits: form[1] === '7' ? 7 : 8,
        parity: form[2] as SerialSettings['parity'],
        stopBits: form[3] === '2' ? 2 : 1,
      } as const)
    : { ...fallback.settings, rate };
  return { station: store.number('station', fallback.station), settings };
}
