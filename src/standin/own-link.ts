import type { SerialSettings } from '../core/line/settings';
import type { Sheet } from '../core/sheet/sheet';
import type { ParameterStore } from './parameter-store';
import type { LinkEnd } from './serial-station';

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

/** The link after a break on the line: one that is long enough returns it to its factory settings at once, where the sheet says so. */
export function afterBreak({ link }: Sheet, own: LinkEnd, us: number): LinkEnd {
  const isLong = link?.breakToDefaultMs !== undefined && us >= link.breakToDefaultMs * 1000;
  return isLong && link.serial ? { ...own, settings: link.serial } : own;
}
