import { keepVersions, SCRIPT, type Installer } from './versions';

/** A browser that keeps programs, as far as a page sees it. */
function browser({ controlled }: { readonly controlled: boolean }) {
  const registration = Object.assign(new EventTarget(), {
    installing: null as (EventTarget & { state: string; postMessage: jest.Mock }) | null,
    waiting: null as (EventTarget & { state: string; postMessage: jest.Mock }) | null,
  });
  const changed: (() => void)[] = [];
  const installer = {
    register: jest.fn(() => Promise.resolve(registration)),
    addEventListener: (_: string, heard: () => void) => void changed.push(heard),
    controller: controlled ? {} : null,
  };
  const version = () => Object.assign(new EventTarget(), { state: 'installing', postMessage: jest.fn() });
  return {
    installer: installer as unknown as Installer,
    registration,
    register: installer.register,
    /** A version comes, and is kept. */
    install: () => {
      const own = version();
      registration.installing = own;
      registration.dispatchEvent(new Event('updatefound'));
      [registration.installing, registration.waiting] = [null, own];
      own.dispatchEvent(new Event('statechange'));
      return own;
    },
    tookOver: () => changed.forEach((heard) => heard()),
  };
}

it('the first version of all is kept, and nothing is offered', async () => {
  const own = browser({ controlled: false });
  const offer = jest.fn();
  await keepVersions(own.installer, offer, jest.fn());
  expect(own.register).toHaveBeenCalledWith(SCRIPT);
  own.install();
  expect(offer).not.toHaveBeenCalled();
});

it('a newer one is offered and waits; it is taken by a press, and only then the page is loaded anew', async () => {
  const own = browser({ controlled: true });
  const offer = jest.fn((_: () => void) => undefined);
  const reload = jest.fn();
  await keepVersions(own.installer, offer, reload);
  const newer = own.install();
  expect(offer).toHaveBeenCalledTimes(1);
  expect(newer.postMessage).not.toHaveBeenCalled();
  // Another tab took it: this page goes on as it is.
  own.tookOver();
  expect(reload).not.toHaveBeenCalled();
  const [take] = offer.mock.calls[0]!;
  take();
  expect(newer.postMessage).toHaveBeenCalledTimes(1);
  expect(reload).not.toHaveBeenCalled();
  own.tookOver();
  expect(reload).toHaveBeenCalledTimes(1);
});

it('what another tab took already needs the page to be loaded anew, and nothing else', async () => {
  const own = browser({ controlled: true });
  const offer = jest.fn((_: () => void) => undefined);
  const reload = jest.fn();
  await keepVersions(own.installer, offer, reload);
  const newer = own.install();
  own.registration.waiting = null;
  own.tookOver();
  offer.mock.calls[0]![0]();
  expect(newer.postMessage).not.toHaveBeenCalled();
  expect(reload).toHaveBeenCalledTimes(1);
});

it('one that waits already is offered at once', async () => {
  const own = browser({ controlled: true });
  own.install();
  const offer = jest.fn();
  await keepVersions(own.installer, offer, jest.fn());
  expect(offer).toHaveBeenCalledTimes(1);
});
