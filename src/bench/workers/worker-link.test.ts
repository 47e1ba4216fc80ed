import { batchOf } from '../../../tests/harness/batch';
import type { LineBatch, LineNews } from '../../messages/line';
import { startLineWorker } from './worker-link';

const batch = (number: number): LineBatch => batchOf({ number });

/** Stands where the browser would start a worker: what the page posts to it, and what the worker says. */
class StandingWorker {
  readonly posted: unknown[] = [];
  #hear: (event: { data: LineNews }) => void = () => undefined;

  addEventListener(_type: string, hear: (event: { data: LineNews }) => void): void {
    this.#hear = hear;
  }

  postMessage(message: unknown): void {
    this.posted.push(message);
  }

  say(data: LineNews): void {
    this.#hear({ data });
  }
}

/** A channel whose messages are tasks, as in a browser, and whose errors the page reports; Node's own would keep the test from ending. */
class StandingChannel {
  readonly port1: { onmessage: () => void } = { onmessage: () => undefined };
  readonly port2 = {
    postMessage: () => {
      setImmediate(() => {
        try {
          this.port1.onmessage();
        } catch (error) {
          reported.push(error);
        }
      });
    },
  };
}

let worker: StandingWorker;
let reported: unknown[] = [];
const page = { hidden: true };

beforeEach(() => {
  page.hidden = true;
  reported = [];
  Object.assign(globalThis, {
    document: page,
    MessageChannel: StandingChannel,
    Worker: class {
      constructor() {
        worker = new StandingWorker();
        return worker;
      }
    },
  });
});

/** Runs until the worker has heard that a batch was drawn. */
async function drawn(number: number): Promise<void> {
  while (!worker.posted.some((said) => JSON.stringify(said) === JSON.stringify({ kind: 'drawn', number })))
    await new Promise((resolve) => setTimeout(resolve, 1));
}

it('takes a batch in a task and shows it in another; whatever was asked for before them has its turn between', async () => {
  const tasks: string[] = [];
  startLineWorker(({ number }) => {
    tasks.push(`worked out ${number}`);
    setImmediate(() => tasks.push('a key'));
    return () => tasks.push(`shown ${number}`);
  });
  worker.say(batch(0));
  expect(tasks).toEqual([]);
  await drawn(0);
  expect(tasks).toEqual(['worked out 0', 'a key', 'shown 0']);
});

it('shows batches in their order, also where a second comes before the first is shown, and says of each that it is drawn', async () => {
  const shown: number[] = [];
  const link = startLineWorker(
    ({ number }) =>
      () =>
        void shown.push(number),
  );
  worker.say(batch(1));
  worker.say(batch(2));
  // While the page has one in hand its worker waits, and is not silent for that.
  expect(link.lastHeardMs()).toBe(Infinity);
  await drawn(2);
  expect(shown).toEqual([1, 2]);
  expect(worker.posted).toEqual([
    { kind: 'drawn', number: 1 },
    { kind: 'drawn', number: 2 },
  ]);
  expect(link.lastHeardMs()).toBeLessThanOrEqual(performance.now());
});

it('answers a ping at once, whatever waits to be shown', () => {
  startLineWorker(() => () => undefined);
  worker.say(batch(0));
  worker.say({ kind: 'ping' });
  expect(worker.posted).toEqual([{ kind: 'here' }]);
});

it('goes on where a batch could not be taken: the next one is', async () => {
  const shown: number[] = [];
  startLineWorker(({ number }) => {
    if (number === 0) throw new Error('cannot be taken');
    return () => void shown.push(number);
  });
  worker.say(batch(0));
  worker.say(batch(1));
  await drawn(1);
  expect(shown).toEqual([1]);
  expect(reported).toEqual([new Error('cannot be taken')]);
});

it('a page in sight says that it has drawn after as long a rest as the batch took it', async () => {
  page.hidden = false;
  let tookMs = 0;
  let restedMs = 0;
  startLineWorker(() => {
    const beganMs = performance.now();
    while (performance.now() - beganMs < 30);
    return () => {
      tookMs = performance.now() - beganMs;
      restedMs = performance.now();
    };
  });
  worker.say(batch(0));
  await drawn(0);
  expect(performance.now() - restedMs).toBeGreaterThanOrEqual(tookMs - 2);
});
