import type { TroubleKind } from '../core/line/trouble';
import type { BridgeClient } from './bridge-client';

export interface IpSweepPlan {
  readonly hosts: readonly string[];
  readonly port: number;
  /** The first host to try; more than 0 takes a sweep up again. */
  readonly from: number;
}

export interface IpFinding {
  readonly host: string;
  readonly port: number;
  /** `open`: something took the connection. `refused`: a device is there, with nothing at that port. */
  readonly kind: 'open' | 'refused';
}

export interface IpSweepState {
  readonly running: boolean;
  readonly done: number;
  readonly total: number;
  readonly found: readonly IpFinding[];
  /** Why it ended before its time; empty when it did not. */
  readonly trouble: string;
}

/** So many connections are tried at once; the local server allows eight a tab. */
const AT_ONCE = 4;
/** These say nothing about one host but that no host can be tried. */
const FATAL: ReadonlySet<TroubleKind> = new Set(['server-gone', 'limit']);

/** Tries one TCP port on many hosts. It connects and closes; it sends nothing. */
export class IpSweep {
  readonly #bridge: BridgeClient;
  readonly #plan: IpSweepPlan;
  readonly #onChange: () => void;
  readonly #trying = new Set<string>();
  #next: number;
  #done: number;
  #running = true;
  #trouble = '';
  #found: IpFinding[] = [];

  constructor(bridge: BridgeClient, plan: IpSweepPlan, onChange: () => void) {
    this.#bridge = bridge;
    this.#plan = plan;
    this.#next = this.#done = plan.from;
    this.#onChange = onChange;
    for (let i = 0; i < AT_ONCE; i++) this.#tryNext();
  }

  state(): IpSweepState {
    return {
      running: this.#running,
      done: this.#done,
      total: this.#plan.hosts.length,
      found: this.#found,
      trouble: this.#trouble,
    };
  }

  end(): void {
    this.#running = false;
    for (const socket of this.#trying) this.#bridge.close(socket);
    this.#trying.clear();
    this.#onChange();
  }

  #tryNext(): void {
    const host = this.#plan.hosts[this.#next];
    if (host === undefined || !this.#running) return;
    this.#next++;
    const { port } = this.#plan;
    const socket = this.#bridge.open(host, port, {
      opened: () => {
        this.#bridge.close(socket);
        this.#tried(socket, { host, port, kind: 'open' });
      },
      bytes: () => undefined,
      ended: ({ kind, text }) => {
        if (FATAL.has(kind)) this.#trouble = text;
        this.#tried(socket, kind === 'refused' ? { host, port, kind: 'refused' } : null);
      },
    });
    this.#trying.add(socket);
  }

  #tried(socket: string, finding: IpFinding | null): void {
    if (!this.#trying.delete(socket)) return;
    if (finding) this.#found = [...this.#found, finding];
    this.#done++;
    if (this.#trouble !== '') return this.end();
    if (this.#done >= this.#plan.hosts.length) this.#running = false;
    this.#tryNext();
    this.#onChange();
  }
}
