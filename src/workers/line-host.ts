import { seededRandom } from '../core/random/random';
import { indexSheet } from '../core/sheet/index-sheet';
import type { TraceEntry } from '../core/trace/entry';
import type { EntryDraft } from '../link/exchanger';
import { LineMaster } from '../link/line-master';
import type { Holder, LineBatch, LineCommand, LinePlan, LineState, StopReport } from '../link/messages';
import type { ExchangeResult } from '../link/request';
import { StandinPort } from '../link/standin-port';
import { StationProfile } from '../link/station-profile';
import type { Nonvolatile } from '../standin/parameter-store';
import { YardLine } from '../standin/yard';
import type { LiveClock } from './live-clock';
import type { LineLocks, TabChannel } from './tab-channel';

/** A tab that does not hold the line gives the holder this long to take its Stop. */
const STOP_ANSWER_MS = 300;

/** What the host needs of its surroundings; a worker has the browser's, a test its own. */
export interface HostPorts {
  readonly clock: LiveClock;
  readonly locks: LineLocks;
  readonly channel: TabChannel;
  readonly later: (action: () => void, ms: number) => void;
  readonly newId: () => string;
  readonly keepTrace: (entries: readonly TraceEntry[]) => void;
  readonly loadKept: (line: string, station: number) => Promise<Nonvolatile | null>;
  readonly saveKept: (line: string, station: number, values: Nonvolatile) => void;
}

interface HostedLine {
  readonly plan: LinePlan;
  readonly yard: YardLine;
  readonly master: LineMaster;
  holder: Holder;
  trouble: string;
  release: (() => void) | null;
}

type Gathered = Pick<LineBatch, 'entries' | 'exchanges' | 'lines' | 'stops'>;

/** All lines of one tab: builds the yard, obeys the page's commands and gathers what happened for the next batch. */
export class LineHost {
  readonly #ports: HostPorts;
  readonly #lines = new Map<string, HostedLine>();
  #session = '';
  #sequence = 0;
  #entries: TraceEntry[] = [];
  #exchanges: { line: string; result: ExchangeResult }[] = [];
  #stops: StopReport[] = [];
  #changed = new Set<string>();
  /** Stops that this tab asked another one for, until it answers. */
  #asked = new Map<string, { readonly line: string; readonly station: number; taken: boolean }>();
  /** Stops that another tab asked for, to report back to it. */
  #servedFor = new Map<string, string>();

  constructor(ports: HostPorts) {
    this.#ports = ports;
    ports.channel.listen((message) => {
      switch (message.kind) {
        case 'stop':
          return this.#stopForOther(message.id, message.line, message.station);
        case 'stop-taken': {
          const asked = this.#asked.get(message.id);
          if (asked) asked.taken = true;
          return;
        }
        case 'stop-report':
          if (this.#asked.has(message.id)) this.#stops.push(message.report);
      }
    });
  }

  async obey(command: LineCommand): Promise<void> {
    this.#ports.clock.catchUp();
    await this.#carryOut(command);
    this.#ports.clock.catchUp();
  }

  /** Takes what has gathered since the last call. */
  gather(): Gathered {
    const lines = [...this.#changed].flatMap((id) => this.#stateOf(id) ?? []);
    const gathered: Gathered = { entries: this.#entries, exchanges: this.#exchanges, stops: this.#stops, lines };
    this.#entries = [];
    this.#exchanges = [];
    this.#stops = [];
    this.#changed = new Set();
    return gathered;
  }

  turning(): LineBatch['turning'] {
    return [...this.#lines].flatMap(([line, { yard }]) =>
      [...yard.drives].filter(([, drive]) => drive.isTurning()).map(([station]) => ({ line, station })),
    );
  }

  async #carryOut(command: LineCommand): Promise<void> {
    if (command.kind === 'begin') return this.#begin(command);
    if (command.kind === 'yard-speed') return this.#ports.clock.setSpeed(command.factor);
    const line = this.#lines.get(command.line);
    if (!line) return this.#noSuchLine(command);
    switch (command.kind) {
      case 'open':
        return this.#open(line);
      case 'close':
        return this.#close(line);
      case 'send':
        return line.master.send(command.station, command.bytes, command.cause, command.ticket);
      case 'poll':
        return line.master.setPoll(command.items);
      case 'stop':
        return this.#stopEverywhere(line, command.station);
      case 'disturb':
        line.yard.bus.disturbance = command.disturbance;
        return;
      case 'hands':
        line.yard.drives.get(command.station)?.setHands(command.hands);
        return this.#yardEvent(
          line,
          command.station,
          `hand at the drive: ${command.hands.selector}${command.hands.liveFault === 0 ? '' : `, fault ${command.hands.liveFault}`}`,
        );
      case 'power-cycle':
        line.yard.drives.get(command.station)?.powerCycle();
        return this.#yardEvent(line, command.station, 'hand at the drive: power off and on');
    }
  }

  /** A line that is not built, or not yet: Stop is told the truth all the same. */
  #noSuchLine(command: LineCommand): void {
    if (command.kind !== 'stop') return;
    const outcome = { station: command.station, outcome: 'not-sent', why: 'the line is closed' } as const;
    this.#stops.push({ line: command.line, outcomes: [outcome], over: true });
  }

  async #begin({ session, seed, yard }: Extract<LineCommand, { kind: 'begin' }>): Promise<void> {
    this.#session = session;
    for (const plan of yard) {
      const kept = await Promise.all(plan.stations.map(({ station }) => this.#ports.loadKept(plan.id, station)));
      this.#lines.set(plan.id, this.#build(plan, kept, seed));
      this.#changed.add(plan.id);
    }
  }

  #build(plan: LinePlan, kept: readonly (Nonvolatile | null)[], seed: number): HostedLine {
    const { clock, saveKept } = this.#ports;
    const drives = plan.stations.flatMap(({ station, sheet, factory }, i) =>
      sheet ? [{ station, index: indexSheet(sheet), kept: { ...factory, ...kept[i] } }] : [],
    );
    const yard = new YardLine(clock, seededRandom(seed), plan.settings, drives, (station, values) =>
      saveKept(plan.id, station, values),
    );
    const profiles = plan.stations.map(({ station, sheet }) => new StationProfile(station, sheet && indexSheet(sheet)));
    const master = new LineMaster(clock, new StandinPort(yard.bus, clock, plan.settings), plan.settings, profiles, {
      entry: (entry) => this.#record(plan.id, entry),
      exchange: (result) => this.#exchanges.push({ line: plan.id, result }),
      changed: () => this.#changed.add(plan.id),
      stop: (outcomes, over) => this.#stopHappened({ line: plan.id, outcomes, over }),
      closed: (reason) => this.#went(plan.id, reason),
    });
    return { plan, yard, master, holder: 'nobody', trouble: '', release: null };
  }

  #record(line: string, draft: EntryDraft): void {
    const entry: TraceEntry = { ...draft, line, session: this.#session, sequence: this.#sequence++ };
    this.#entries.push(entry);
    this.#ports.keepTrace([entry]);
  }

  #yardEvent({ plan }: HostedLine, station: number, cause: string): void {
    const atUs = this.#ports.clock.now();
    this.#record(plan.id, {
      station,
      atUs,
      direction: 'event',
      bytes: new Uint8Array(0),
      lineFaults: [],
      exchange: 0,
      outcome: 'yard',
      cause,
    });
  }

  #stateOf(id: string): LineState | null {
    const line = this.#lines.get(id);
    return line ? { line: id, holder: line.holder, trouble: line.trouble, ...line.master.snapshot() } : null;
  }

  async #open(line: HostedLine): Promise<void> {
    if (line.holder === 'this-tab') return;
    const { id } = line.plan;
    line.release = await this.#ports.locks.take(id);
    line.holder = line.release ? 'this-tab' : 'another-tab';
    line.trouble = line.release ? '' : 'another tab of this browser has this line; it can only be looked at here';
    this.#changed.add(id);
    if (!line.release) return;
    const error = await line.master.open();
    if (error !== null) {
      this.#letGo(line);
      line.trouble = error;
    }
  }

  async #close(line: HostedLine): Promise<void> {
    await line.master.close();
    this.#letGo(line);
    line.trouble = '';
  }

  #went(id: string, reason: string): void {
    const line = this.#lines.get(id);
    if (!line) return;
    this.#letGo(line);
    line.trouble = reason;
  }

  #letGo(line: HostedLine): void {
    line.release?.();
    line.release = null;
    line.holder = 'nobody';
    this.#changed.add(line.plan.id);
  }

  #stopHappened(report: StopReport): void {
    this.#stops.push(report);
    for (const [id, line] of this.#servedFor) {
      if (line !== report.line) continue;
      this.#ports.channel.post({ kind: 'stop-report', id, report });
      if (report.over) this.#servedFor.delete(id);
    }
  }

  #stopForOther(id: string, lineId: string, station: number): void {
    const line = this.#lines.get(lineId);
    if (line?.holder !== 'this-tab') return;
    this.#ports.channel.post({ kind: 'stop-taken', id });
    this.#servedFor.set(id, lineId);
    this.#ports.clock.catchUp();
    line.master.stop(station);
    this.#ports.clock.catchUp();
  }

  /** The line that is looked at comes first; then every other one on which this bench set a drive in motion. */
  #stopEverywhere(current: HostedLine, station: number): void {
    if (current.holder === 'another-tab') this.#askOther(current, station);
    else current.master.stop(station);
    for (const line of this.#lines.values()) {
      const [first] = line.master.snapshot().driven;
      if (line !== current && first !== undefined) line.master.stop(first);
    }
  }

  /** Another tab has the line: it is asked to stop, and silence is told as no answer. */
  #askOther({ plan }: HostedLine, station: number): void {
    const id = this.#ports.newId();
    this.#asked.set(id, { line: plan.id, station, taken: false });
    this.#ports.channel.post({ kind: 'stop', id, line: plan.id, station });
    this.#ports.later(() => {
      if (this.#asked.get(id)?.taken) return;
      this.#asked.delete(id);
      this.#stops.push({
        line: plan.id,
        over: true,
        outcomes: [{ station, outcome: 'no-answer', why: 'the tab that has this line did not answer' }],
      });
    }, STOP_ANSWER_MS);
  }
}
