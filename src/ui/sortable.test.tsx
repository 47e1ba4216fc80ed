import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { SortableList, useSortableRow } from './sortable';

/** jsdom lays nothing out: each row stands below the one before by its place. */
const ROW_PX = 40;

function Row({ id }: { readonly id: string }) {
  const { attach, style, handle } = useSortableRow(id, id);
  return (
    <li ref={attach} style={style} data-row={id}>
      {handle}
    </li>
  );
}

function show() {
  const ids = ['first', 'second', 'third'];
  const [onMove, onMoving] = [jest.fn(), jest.fn()];
  jest.spyOn(Element.prototype, 'getBoundingClientRect').mockImplementation(function (this: Element) {
    const at = ids.indexOf((this as HTMLElement).dataset.row ?? '');
    return new DOMRect(0, Math.max(0, at) * ROW_PX, 200, ROW_PX);
  });
  render(
    <SortableList ids={ids} onMove={onMove} onMoving={onMoving}>
      <ul>
        {ids.map((id) => (
          <Row key={id} id={id} />
        ))}
      </ul>
    </SortableList>,
  );
  return { onMove, onMoving };
}
afterEach(() => jest.restoreAllMocks());

const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 50));

it('a row is taken up, moved and put down by keys at its handle', async () => {
  const { onMove, onMoving } = show();
  screen.getByRole('button', { name: 'Move first' }).focus();
  await userEvent.keyboard(' ');
  await settle();
  expect(onMoving).toHaveBeenLastCalledWith(0);
  await userEvent.keyboard('{ArrowDown}');
  await settle();
  await userEvent.keyboard(' ');
  await settle();
  expect(onMove).toHaveBeenCalledWith(0, 1);
  expect(onMoving).toHaveBeenLastCalledWith(-1);
});

it('what is let go with Escape stays where it was', async () => {
  const { onMove, onMoving } = show();
  screen.getByRole('button', { name: 'Move third' }).focus();
  await userEvent.keyboard(' ');
  await settle();
  await userEvent.keyboard('{ArrowUp}{Escape}');
  await settle();
  expect(onMove).not.toHaveBeenCalled();
  expect(onMoving).toHaveBeenLastCalledWith(-1);
});
