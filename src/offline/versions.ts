import { TAKE_OVER } from './take-over';

/** The part of the browser that keeps programs; only what is used of it. */
export interface Installer {
  readonly register: (script: string) => Promise<Registration>;
  readonly addEventListener: (kind: 'controllerchange', heard: () => void) => void;
  /** The version that looks after this page; null for a page that came from the server. */
  readonly controller: object | null;
}

interface Registration extends Pick<EventTarget, 'addEventListener'> {
  readonly installing: Waiting | null;
  readonly waiting: Waiting | null;
}

interface Waiting extends Pick<EventTarget, 'addEventListener'> {
  readonly state: ServiceWorkerState;
  readonly postMessage: (message: string) => void;
}

/** Where the built worker is. */
export const SCRIPT = '/service-worker.js';

/**
 * Keeps the program in the browser, so that it starts with no server. `offer` is called when a newer version is kept beside the one that runs: what it
 * gets takes the newer one and calls `reload` once that has taken over. Nothing is taken by itself.
 */
export async function keepVersions(
  installer: Installer,
  offer: (take: () => void) => void,
  reload: () => void,
): Promise<void> {
  const registration = await installer.register(SCRIPT);
  let isTaken = false;
  installer.addEventListener('controllerchange', () => isTaken && reload());
  const take = (): void => {
    isTaken = true;
    // Another tab may have taken it already: then it is here, and only this page is of the older one.
    if (registration.waiting) registration.waiting.postMessage(TAKE_OVER);
    else reload();
  };
  const look = (): void => {
    // The first one of all has nobody before it, and waits for nobody.
    if (registration.waiting && installer.controller) offer(take);
  };
  const follow = (): void => registration.installing?.addEventListener('statechange', look);
  registration.addEventListener('updatefound', follow);
  follow();
  look();
}
