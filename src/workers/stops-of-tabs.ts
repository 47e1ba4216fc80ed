import type { StopReport } from '../messages/line';
import type { TabChannel } from './tab-channel';

/** A tab that does not hold the line gives the holder this long to take its Stop. */
const ANSWER_MS = 300;

/** What Stops between tabs need of the host. */
export interface StopsOfTabsPorts {
  readonly channel: TabChannel;
  readonly newId: () => string;
  readonly later: (action: () => void, ms: number) => void;
  /** Tells this tab's page how a Stop goes. */
  readonly report: (report: StopReport) => void;
  /** Stops a line that this tab holds; false where it does not. */
  readonly stopHere: (line: string, station: number) => boolean;
}

/** Stop from a tab that only looks on goes to the tab that has the line; how it went comes back. */
export class StopsOfTabs {
  readonly #ports: StopsOfTabsPorts;
  /** Stops that this tab asked another one for, and whether it has taken them. */
  readonly #asked = new Map<string, { taken: boolean }>();
  /** Stops that another tab asked for, with their line, to report back to it. */
  readonly #servedFor = new Map<string, string>();

  constructor(ports: StopsOfTabsPorts) {
    this.#ports = ports;
    ports.channel.listen((message) => {
      switch (message.kind) {
        case 'stop':
          return this.#serve(message.id, message.line, message.station);
        case 'stop-taken': {
          const asked = this.#asked.get(message.id);
          if (asked) asked.taken = true;
          return;
        }
        case 'stop-report':
          if (this.#asked.has(message.id)) ports.report(message.report);
      }
    });
  }

  /** Another tab has the line: it is asked to stop, and silence is told as no answer. */
  ask(line: string, station: number): void {
    const id = this.#ports.newId();
    this.#asked.set(id, { taken: false });
    this.#ports.channel.post({ kind: 'stop', id, line, station });
    this.#ports.later(() => {
      if (this.#asked.get(id)?.taken) return;
      this.#asked.delete(id);
      this.#ports.report({
        line,
        cause: 'Stop',
        over: true,
        outcomes: [{ station, outcome: 'no-answer', why: 'the tab that has this line did not answer', atUs: null }],
      });
    }, ANSWER_MS);
  }

  /** A Stop of this tab's lines went on: tabs that asked for it hear of it. */
  happened(report: StopReport): void {
    for (const [id, line] of this.#servedFor) {
      if (line !== report.line) continue;
      this.#ports.channel.post({ kind: 'stop-report', id, report });
      if (report.over) this.#servedFor.delete(id);
    }
  }

  #serve(id: string, line: string, station: number): void {
    this.#servedFor.set(id, line);
    if (this.#ports.stopHere(line, station)) this.#ports.channel.post({ kind: 'stop-taken', id });
    else this.#servedFor.delete(id);
  }
}
