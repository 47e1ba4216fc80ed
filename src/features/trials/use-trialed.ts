import { useCurrent } from '../../bench/hooks/use-current';
import { NO_PLACES } from '../../core/places/no-places';
import { PLAIN_TEXT } from '../../core/sheet/plain-text';

/** The drive that is looked at, as a trial takes it: one behind plain text has no sheet and no places, and is spoken to all the same. */
export function useTrialed() {
  const current = useCurrent();
  const isText = current.line?.protocol === 'raw-tcp';
  return isText
    ? { ...current, isText, index: PLAIN_TEXT, places: NO_PLACES }
    : { ...current, isText, index: current.index, places: current.places };
}
