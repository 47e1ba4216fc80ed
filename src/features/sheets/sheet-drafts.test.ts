import { emptySheet } from '../../core/sheet/empty-sheet';
import { editSheet, keptDraft, openDraft, sheetDrafts, undoSheet } from './sheet-drafts';

const present = () => sheetDrafts.getState().drafts.get('mine')?.history.present;

it('what was kept is the draft, with its way back; what was typed meanwhile is not lost', () => {
  openDraft({ ...emptySheet('mine', 'Mine') }, null);
  editSheet((sheet) => ({ ...sheet, name: 'Mine, typed' }));
  const given = present()!;
  keptDraft({ ...given, revision: 1 }, given);
  expect(present()).toMatchObject({ name: 'Mine, typed', revision: 1 });
  undoSheet();
  expect(present()?.name).toBe('Mine');

  const again = present()!;
  editSheet((sheet) => ({ ...sheet, name: 'typed while it was kept' }));
  keptDraft({ ...again, revision: 2 }, again);
  expect(present()?.name).toBe('typed while it was kept');
  expect(sheetDrafts.getState().drafts.get('mine')?.kept?.revision).toBe(2);
});
