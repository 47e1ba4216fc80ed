import type { SheetIndex } from '../core/sheet/index-sheet';
import type { StationIdentity } from './rtu-services';

/** A stand-in never passes for a real drive: it says what it is, with the name and firmware of its sheet. */
export const identityOf = ({ sheet, byRole }: SheetIndex): StationIdentity => ({
  vendor: 'stand-in',
  product: sheet.name,
  revision: String(byRole.get('firmware')?.default ?? sheet.revision),
});
