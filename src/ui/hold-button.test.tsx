import { fireEvent, render, screen } from '@testing-library/react';
import { HoldButton } from './hold-button';

/** The test page knows no pointer events of its own: a mouse event of that name carries the button. */
const press = (element: HTMLElement, button: number): void =>
  void fireEvent(element, new MouseEvent('pointerdown', { bubbles: true, button }));

const setup = () => {
  const [hold, release] = [jest.fn(), jest.fn()];
  Element.prototype.setPointerCapture = jest.fn();
  const page = (disabled = false) => (
    <HoldButton disabled={disabled} onHold={hold} onRelease={release}>
      jog
    </HoldButton>
  );
  const view = render(page());
  return {
    hold,
    release,
    button: screen.getByRole('button'),
    disable: () => view.rerender(page(true)),
    leave: view.unmount,
  };
};

it.each<[string, (parts: ReturnType<typeof setup>) => void]>([
  ['the pointer is let go', ({ button }) => fireEvent.pointerUp(button)],
  ['the pointer is taken away', ({ button }) => fireEvent.pointerCancel(button)],
  ['its capture is lost', ({ button }) => fireEvent.lostPointerCapture(button)],
  ['the button loses its focus', ({ button }) => fireEvent.blur(button)],
  ['the window loses its focus', () => fireEvent.blur(window)],
  ['the page goes away', () => fireEvent(window, new Event('pagehide'))],
  ['the line closes', ({ disable }) => disable()],
  ['the view is left', ({ leave }) => leave()],
])('a hold ends once when %s', (_, end) => {
  const parts = setup();
  press(parts.button, 0);
  expect([parts.hold.mock.calls.length, parts.release.mock.calls.length]).toEqual([1, 0]);
  end(parts);
  end(parts);
  expect([parts.hold.mock.calls.length, parts.release.mock.calls.length]).toEqual([1, 1]);
});

it('a key that repeats holds once, and ends as it is let go', () => {
  const { button, hold, release } = setup();
  fireEvent.keyDown(button, { key: ' ' });
  fireEvent.keyDown(button, { key: ' ', repeat: true });
  expect(hold).toHaveBeenCalledTimes(1);
  fireEvent.keyUp(button, { key: ' ' });
  expect(release).toHaveBeenCalledTimes(1);
});

it('another button of the pointer, or another key, does nothing', () => {
  const { button, hold, release } = setup();
  press(button, 2);
  fireEvent.keyDown(button, { key: 'a' });
  fireEvent.pointerUp(button);
  expect([hold.mock.calls.length, release.mock.calls.length]).toEqual([0, 0]);
});
