import { uuidV7, type RecordId } from '../core/id';

/** A fresh id of a record, from this computer's clock and randomness. */
export const newId = <Kind extends string>(): RecordId<Kind> =>
  uuidV7<Kind>(Date.now(), crypto.getRandomValues(new Uint8Array(10)));
