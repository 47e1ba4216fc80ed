import { trouble, type Trouble, type TroubleKind } from '../core/line/trouble';
import { CLOSED, type LineLife } from '../link/line-life';
import type { LineOwner } from '../link/line-owner';
import type { LinePlan } from '../messages/line';
import type { PollItem } from '../link/poll-source';
import type { YardLine } from '../standin/yard';
import type { LineLocks } from './tab-channel';

/** A lost connection is tried again after these times, and then ever again after the last. */
const RETRY_MS = [1_000, 2_000, 4_000, 8_000, 15_000] as const;
/** An open or a close that hangs holds up the next one for so long. */
const PATIENCE_MS = 8_000;
/** A connection that went away like this may come back by itself. */
const COMES_BACK: ReadonlySet<TroubleKind> = new Set([
  'closed-by-far',
  'reset',
  'refused',
  'unreachable',
  'no-answer',
  'server-gone',
]);

/** What a hosted line needs of its host. */
export interface HostedPorts {
  readonly locks: LineLocks;
  readonly later: (action: () => void, ms: number) => void;
  /** Brings the line clock up to the present before something happens. */
  readonly catchUp: () => void;
  readonly changed: () => void;
  readonly failedToOpen: (why: Trouble) => void;
}

/**
 * A line from closed to open and back. One of five states holds at a time; whatever takes its time carries the number of the change that began
 * it, and does nothing any more when another change came in between but to free what it had got.
 */
export class HostedLine {
  readonly plan: LinePlan;
  /** Only where the far end is simulated in this page. */
  readonly yard: YardLine | null;
  readonly owner: LineOwner;
  readonly #ports: HostedPorts;
  #life: LineLife = CLOSED;
  #generation = 0;
  #release: (() => void) | null = null;
  #work: Promise<void> = Promise.resolve();
  /** Reading that goes on when a lost connection is back. */
  #polled: readonly PollItem[] = [];

  constructor(plan: LinePlan, yard: YardLine | null, owner: LineOwner, ports: HostedPorts) {
    this.plan = plan;
    this.yard = yard;
    this.owner = owner;
    this.#ports = ports;
  }

  get life(): LineLife {
    return this.#life;
  }

  /** This tab has the line, or is about to. */
  isHeld(): boolean {
    return this.#life.kind === 'opening' || this.#life.kind === 'open' || this.#life.kind === 'lost';
  }

  poll(items: readonly PollItem[]): void {
    this.#polled = items;
    this.owner.setPoll(items);
  }

  open(): Promise<void> {
    if (this.isHeld()) return Promise.resolve();
    const generation = this.#become({ kind: 'opening' });
    return this.#after(() => this.#openNow(generation));
  }

  async #openNow(generation: number): Promise<void> {
    if (generation !== this.#generation) return;
    const release = await this.#ports.locks.take(this.plan.id);
    if (generation !== this.#generation) return release?.();
    if (!release)
      return void this.#become({
        kind: 'elsewhere',
        trouble: trouble('held', 'another tab of this browser has this line; it can only be looked at here'),
      });
    this.#release = release;
    const why = await this.owner.open();
    // Closed meanwhile: the close that waits behind this frees what was got.
    if (generation !== this.#generation) return;
    if (!why) return void this.#become({ kind: 'open' });
    this.#letGo({ kind: 'closed', trouble: why });
    this.#ports.failedToOpen(why);
  }

  close(): Promise<void> {
    const generation = this.#become({ kind: 'closing' });
    this.#polled = [];
    // At once, which also ends an open that takes its time; and once more behind it, should it have come through.
    const now = this.owner.close();
    return this.#after(async () => {
      await now;
      await this.owner.close();
      this.#unlock();
      // Opened again meanwhile: that waits behind this, and takes the lock anew.
      if (generation === this.#generation) this.#become(CLOSED);
    });
  }

  /** One after the other; what hangs does not hold up the next for ever. */
  #after(job: () => Promise<void>): Promise<void> {
    const patience = new Promise<void>((resolve) => this.#ports.later(resolve, PATIENCE_MS));
    this.#work = Promise.race([this.#work, patience]).then(job);
    return this.#work;
  }

  /** The line went away by itself. A connection over the network is tried again; reading goes on then, and nothing else. */
  went(why: Trouble): void {
    if (!this.isHeld()) return;
    if (this.plan.far.kind === 'tcp' && COMES_BACK.has(why.kind)) this.#retryLater(why, 0);
    else this.#letGo({ kind: 'closed', trouble: why });
  }

  #retryLater(why: Trouble, retries: number): void {
    const generation = this.#become({ kind: 'lost', trouble: why, retries });
    const ms = RETRY_MS[Math.min(retries, RETRY_MS.length - 1)] ?? 0;
    this.#ports.later(() => void this.#retry(generation, retries), ms);
  }

  async #retry(generation: number, retries: number): Promise<void> {
    if (generation !== this.#generation) return;
    this.#ports.catchUp();
    const why = await this.owner.open();
    // Closed meanwhile; that close ended this connection too.
    if (generation !== this.#generation) return why ? undefined : this.owner.close();
    if (why) return this.#retryLater(why, retries + 1);
    this.#become({ kind: 'open' });
    this.owner.setPoll(this.#polled);
  }

  #letGo(life: LineLife): void {
    this.#unlock();
    this.#become(life);
  }

  #unlock(): void {
    this.#release?.();
    this.#release = null;
  }

  #become(life: LineLife): number {
    this.#life = life;
    this.#ports.changed();
    return ++this.#generation;
  }
}
