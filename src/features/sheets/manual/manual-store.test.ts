import { frameTable, goOnThrough, leafTo, manualStore, setColumns, showManual } from './manual-store';
import type { Manual } from './pdf-document';

const manualOf = (name: string, pages: number): Manual & { closed: number } => {
  const manual = {
    name,
    digest: '',
    file: new Blob([]),
    pages,
    size: () => Promise.resolve({ width: 600, height: 800 }),
    text: () => Promise.resolve([]),
    draw: () => ({ done: Promise.resolve(), cancel: () => undefined }),
    closed: 0,
    close: () => {
      manual.closed++;
    },
  };
  return manual;
};
const FRAME = { x: 1, y: 2, width: 3, height: 4 };

it('closes the manual that was open, and begins the next at its first page', () => {
  const [first, second] = [manualOf('a.pdf', 9), manualOf('b.pdf', 3)];
  showManual(first);
  leafTo(5);
  showManual(second);
  expect([first.closed, second.closed]).toEqual([1, 0]);
  expect(manualStore.getState()).toMatchObject({ manual: second, page: 1, through: 1, frame: null });
});

it('leafs within the manual, and a frame of another page is none here', () => {
  showManual(manualOf('c.pdf', 4));
  frameTable(FRAME);
  goOnThrough(3);
  setColumns([1, 2]);
  leafTo(1);
  expect(manualStore.getState()).toMatchObject({ page: 1, through: 3, frame: FRAME, columns: [1, 2] });
  leafTo(9);
  expect(manualStore.getState()).toMatchObject({ page: 4, through: 4, frame: null, columns: null });
  leafTo(-3);
  expect(manualStore.getState().page).toBe(1);
});
