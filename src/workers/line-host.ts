import { trouble } from '../core/line/trouble';
import type { Procedure } from '../core/procedure/procedure';
import type { RunState } from '../core/procedure/run';
import { seededRandom } from '../core/random/random';
import { failed } from '../core/result';
import { indexSheet } from '../core/sheet/index-sheet';
import type { Outcome, TraceEntry } from '../core/trace/entry';
import type { EntryDraft } from '../link/exchanger';
import type { BridgeClient } from '../link/bridge-client';
import { IpSweep, type IpSweepState } from '../link/ip-sweep';
import { LineMaster } from '../link/line-master';
import type { LineListener, LineOwner } from '../link/line-owner';
import type {
  FinishedExchange,
  LineBatch,
  LineCommand,
  LinePlan,
  LineState,
  RunReport,
  StopReport,
} from '../link/messages';
import type { LinkPort } from '../link/port';
import { RawLine } from '../link/raw-line';
import { learnedFrom } from '../link/learned';
import type { ExchangeResult } from '../link/request';
import { SerialPort, type BrowserSerialPort } from '../link/serial-port';
import { StandinPort } from '../link/standin-port';
import { speechOf } from '../link/speech';
import { TcpPort } from '../link/tcp-port';
import type { Nonvolatile } from '../standin/parameter-store';
import { YardLine } from '../standin/yard';
import type { LiveClock } from '../core/time/live-clock';
import { HostedLine } from './hosted-line';
import type { LineLocks, TabChannel } from './tab-channel';

/** A tab that does not hold the line gives the holder this long to take its Stop. */
const STOP_ANSWER_MS = 300;
/** While a run word is kept alive the page may be silent for so long; then the drives are stopped. */
const PAGE_SILENT_MS = 1_000;
/** A held key that is not said again for so long counts as let go. */
const HELD_MS = 300;

/** What the host needs of its surroundings; a worker has the browser's, a test its own. */
export interface HostPorts {
  readonly clock: LiveClock;
  readonly locks: LineLocks;
  readonly channel: TabChannel;
  readonly later: (action: () => void, ms: number) => void;
  /** Real time, whatever the line clock does. */
  readonly nowMs: () => number;
  readonly newId: () => string;
  readonly keepTrace: (entries: readonly TraceEntry[]) => void;
  readonly loadKept: (line: string, station: number) => Promise<Nonvolatile | null>;
  readonly saveKept: (line: string, station: number, values: Nonvolatile) => void;
  /** Keeps where a procedure is, so that a reload can tell where it ended. */
  readonly keepRun: (line: string, procedure: Procedure, run: RunState) => void;
  readonly bridge: BridgeClient;
  /** The serial ports that this page may use, in the browser's order; null where the browser has none to give. */
  readonly serialPorts: (() => Promise<readonly BrowserSerialPort[]>) | null;
}

/** Commands that concern one line that is known. */
type CommandOfLine = Exclude<Extract<LineCommand, { readonly line: string }>, { readonly kind: 'plan' }>;

/** A key that is held down at a drive. */
interface Hold {
  readonly line: string;
  readonly station: number;
  readonly release: readonly Uint8Array[];
  /** When the page said last that it is held. */
  readonly saidMs: number;
}

type Gathered = Pick<LineBatch, 'entries' | 'exchanges' | 'lines' | 'stops' | 'runs'>;

/** What a press of Stop is called as the cause. */
const STOP = 'Stop';

const holdKey = (line: string, station: number): string => `${line} ${station}`;

/** All lines of one tab: builds the yard, obeys the page's commands and gathers what happened for the next batch. */
export class LineHost {
  readonly #ports: HostPorts;
  readonly #lines = new Map<string, HostedLine>();
  #session = '';
  #sequence = 0;
  #entries: TraceEntry[] = [];
  #exchanges: FinishedExchange[] = [];
  #stops: StopReport[] = [];
  #runs = new Map<string, RunReport>();
  #procedures = new Map<string, Procedure>();
  #changed = new Set<string>();
  #heardPageMs: number;
  /** Keys that are held, by line and station, with the time when that was said last. */
  #held = new Map<string, Hold>();
  /** Requests that end a hold, by ticket: one that is not confirmed is followed by Stop. */
  #releases = new Map<number, Pick<Hold, 'line' | 'station'>>();
  #nextRelease = -1;
  /** Place of the chosen serial port in the browser's list, by line. */
  #serialPlaces = new Map<string, number>();
  #seed = 0;
  #ipSweep: IpSweep | null = null;
  /** Stops that this tab asked another one for, until it answers. */
  #asked = new Map<string, { readonly line: string; readonly station: number; taken: boolean }>();
  /** Stops that another tab asked for, to report back to it. */
  #servedFor = new Map<string, string>();

  constructor(ports: HostPorts) {
    this.#ports = ports;
    this.#heardPageMs = ports.nowMs();
    ports.clock.onJump({
      asleep: (seconds) => {
        for (const { owner } of this.#lines.values()) owner.fellAsleep(seconds);
      },
      awake: () => {
        // The page slept as well; it is asked anew from now on.
        this.#heardPageMs = ports.nowMs();
        for (const { owner } of this.#lines.values()) owner.awoke();
      },
    });
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
    const gathered: Gathered = {
      entries: this.#entries,
      exchanges: this.#exchanges,
      stops: this.#stops,
      runs: [...this.#runs.values()],
      lines,
    };
    this.#runs = new Map();
    this.#entries = [];
    this.#exchanges = [];
    this.#stops = [];
    this.#changed = new Set();
    return gathered;
  }

  /** The page's thread answered. */
  heardPage(): void {
    this.#heardPageMs = this.#ports.nowMs();
  }

  /** Looks whether the page that keeps shafts turning, or holds a key, is still there; to be called some twenty times a second. */
  watchPage(): void {
    const nowMs = this.#ports.nowMs();
    const silentMs = nowMs - this.#heardPageMs;
    for (const [key, { line, station, saidMs }] of this.#held)
      if (nowMs - saidMs > HELD_MS) {
        this.#held.delete(key);
        this.#stopFor(line, station, 'the key that was held was not heard of any more');
      }
    if (silentMs <= PAGE_SILENT_MS) return;
    for (const [line, { owner }] of this.#lines) {
      const turning = owner.snapshot().keepAlives.find(({ untilUs }) => untilUs === null);
      if (turning)
        this.#stopFor(line, turning.station, `the page did not answer for ${(silentMs / 1000).toFixed(1)} s`);
    }
  }

  #stopFor(line: string, station: number, cause: string): void {
    this.#ports.clock.catchUp();
    this.#lines.get(line)?.owner.stop(station, cause);
    this.#ports.clock.catchUp();
  }

  turning(): LineBatch['turning'] {
    return [...this.#lines].flatMap(([line, { yard }]) =>
      [...(yard?.drives ?? [])].filter(([, drive]) => drive.isTurning()).map(([station]) => ({ line, station })),
    );
  }

  /** A real link is open, so the yard's time must not run faster than life. */
  realTime(): boolean {
    return [...this.#lines.values()].some((line) => line.plan.far.kind !== 'yard' && line.isHeld());
  }

  ipSweep(): IpSweepState | null {
    return this.#ipSweep?.state() ?? null;
  }

  async #carryOut(command: LineCommand): Promise<void> {
    switch (command.kind) {
      case 'begin':
        return this.#begin(command);
      case 'plan':
        return this.#plan(command.plan);
      case 'job-lines':
        return;
      case 'yard-speed':
        return this.#ports.clock.setSpeed(this.realTime() ? 1 : command.factor);
      case 'ip-sweep':
        this.#ipSweep?.end();
        this.#ipSweep = new IpSweep(this.#ports.bridge, command.plan, () => undefined);
        return;
      case 'end-ip-sweep':
        return this.#ipSweep?.end();
      default: {
        const line = this.#lines.get(command.line);
        return line ? this.#onLine(line, command) : this.#noSuchLine(command);
      }
    }
  }

  async #onLine(line: HostedLine, command: CommandOfLine): Promise<void> {
    switch (command.kind) {
      case 'unplan':
        await line.close();
        this.#lines.delete(line.plan.id);
        return;
      case 'open':
        if (line.plan.far.kind !== 'yard') this.#ports.clock.setSpeed(1);
        return line.open();
      case 'close':
        return line.close();
      case 'send':
        return line.owner.send(command.station, command.bytes, command.cause, command.ticket, command.options);
      case 'poll':
        return line.poll(command.items);
      case 'seen-standing':
        return line.owner.seenStanding(command.station);
      case 'procedure':
        this.#procedures.set(command.id, command.procedure);
        return line.owner.startProcedure(command.procedure, command.id);
      case 'procedure-told':
        return line.owner.tellProcedure(command.id, command.told);
      case 'hold':
        return this.#hold(line, command);
      case 'held': {
        const key = holdKey(command.line, command.station);
        const hold = this.#held.get(key);
        if (hold) this.#held.set(key, { ...hold, saidMs: this.#ports.nowMs() });
        return;
      }
      case 'let-go':
        return this.#letGo(line, command.station);
      case 'stop':
        return this.#stopEverywhere(line, command.station);
      case 'reconfigure':
        return line.owner.reconfigure(command.settings);
      case 'echo':
        return line.owner.setEcho(command.on);
      case 'break':
        return line.owner.sendBreak(command.ms);
      case 'signals':
        return line.owner.setSignals(command.signals);
      case 'sweep':
        return line.owner.startSweep(command.plan);
      case 'end-sweep':
        return line.owner.endSweep();
      case 'choose-port':
        this.#serialPlaces.set(command.line, command.place);
        return;
      case 'disturb':
        return line.yard?.disturb(command.disturbance);
      case 'hands':
        line.yard?.drives.get(command.station)?.setHands(command.hands);
        return this.#yardEvent(
          line,
          command.station,
          `hand at the drive: ${command.hands.selector}${command.hands.liveFault === 0 ? '' : `, fault ${command.hands.liveFault}`}`,
        );
      case 'power': {
        const drive = line.yard?.drives.get(command.station);
        if (command.turn === 'off') drive?.powerOff();
        else drive?.powerCycle();
        return this.#yardEvent(
          line,
          command.station,
          `hand at the drive: power ${command.turn === 'off' ? 'off' : 'off and on'}`,
        );
      }
    }
  }

  /** A line that is not built, or not yet: Stop is told the truth all the same. */
  #noSuchLine(command: CommandOfLine): void {
    if (command.kind !== 'stop') return;
    const outcome = { station: command.station, outcome: 'not-sent', why: 'the line is closed', atUs: null } as const;
    this.#stops.push({ line: command.line, cause: STOP, outcomes: [outcome], over: true });
  }

  async #begin({ session, seed, lines }: Extract<LineCommand, { kind: 'begin' }>): Promise<void> {
    this.#session = session;
    this.#seed = seed;
    for (const plan of lines) await this.#plan(plan);
  }

  /** Builds a line, or builds it anew after a change; simulated drives that did not change live on. */
  async #plan(plan: LinePlan): Promise<void> {
    const old = this.#lines.get(plan.id);
    if (old) await old.close();
    const sameYard =
      old?.yard && plan.far.kind === 'yard' && JSON.stringify(old.plan.stations) === JSON.stringify(plan.stations);
    const yard = sameYard ? old.yard : plan.far.kind === 'yard' ? await this.#buildYard(plan) : null;
    const line = new HostedLine(plan, yard, this.#ownerOf(plan, this.#portOf(plan, yard)), {
      locks: this.#ports.locks,
      later: this.#ports.later,
      catchUp: () => this.#ports.clock.catchUp(),
      changed: () => this.#changed.add(plan.id),
      failedToOpen: (why) => this.#lineEvent(plan.id, 0, 'trouble', why.text),
    });
    line.owner.setEcho(plan.echo);
    this.#lines.set(plan.id, line);
    this.#changed.add(plan.id);
  }

  async #buildYard({ id, stations, settings }: LinePlan): Promise<YardLine | null> {
    if (!settings) return null;
    const { clock, loadKept, saveKept } = this.#ports;
    const kept = await Promise.all(stations.map(({ station }) => loadKept(id, station)));
    const drives = stations.flatMap(({ station, sheet, factory }, i) =>
      sheet ? [{ station, index: indexSheet(sheet), kept: { ...factory, ...kept[i] } }] : [],
    );
    return new YardLine(clock, seededRandom(this.#seed), settings, drives, (station, values) =>
      saveKept(id, station, values),
    );
  }

  #portOf({ id, far, settings }: LinePlan, yard: YardLine | null): LinkPort | null {
    const { clock, bridge, serialPorts } = this.#ports;
    switch (far.kind) {
      case 'yard':
        return yard && settings ? new StandinPort(yard.bus, clock, settings) : null;
      case 'tcp':
        return new TcpPort(bridge, clock, far.host, far.port, settings);
      case 'serial-port':
        return settings && serialPorts
          ? new SerialPort(async () => (await serialPorts())[this.#serialPlaces.get(id) ?? -1] ?? null, clock, settings)
          : null;
    }
  }

  #ownerOf(plan: LinePlan, port: LinkPort | null): LineOwner {
    const { clock } = this.#ports;
    const { id } = plan;
    const stations = plan.stations.map(({ station, sheet }) => ({ station, index: sheet && indexSheet(sheet) }));
    const speech = speechOf(
      plan.protocol,
      stations.map(({ index }) => index),
    );
    const places = new Map(
      stations.map(({ station, index }) => [station, (index && speech?.protocol.placesOf(index)) ?? null]),
    );
    const listener: LineListener = {
      entry: (entry) => this.#record(id, entry),
      exchange: (result) => {
        this.#exchanged(result);
        this.#exchanges.push({
          line: id,
          result,
          learned: learnedFrom(result, places.get(result.request.station) ?? null),
        });
      },
      changed: () => this.#changed.add(id),
      stop: (outcomes, over, cause) => this.#stopHappened({ line: id, outcomes, over, cause }),
      procedure: (run) => this.#runHappened(id, run),
      closed: (why) => this.#lines.get(id)?.went(why),
    };
    const way = port ?? new NoPort();
    if (!speech) return new RawLine(clock, way, listener);
    const profiles = stations.map(({ station, index }) => speech.controlOf(station, index));
    return new LineMaster(clock, way, speech, profiles, listener);
  }

  #record(line: string, draft: EntryDraft): void {
    const entry: TraceEntry = { ...draft, line, session: this.#session, sequence: this.#sequence++ };
    this.#entries.push(entry);
    this.#ports.keepTrace([entry]);
  }

  #yardEvent({ plan }: HostedLine, station: number, cause: string): void {
    this.#lineEvent(plan.id, station, 'yard', cause);
  }

  #lineEvent(line: string, station: number, outcome: Outcome, cause: string): void {
    this.#record(line, {
      station,
      atUs: this.#ports.clock.now(),
      direction: 'event',
      bytes: new Uint8Array(0),
      lineFaults: [],
      exchange: 0,
      outcome,
      cause,
    });
  }

  #runHappened(line: string, run: RunState): void {
    this.#runs.set(run.id, { line, run });
    const procedure = this.#procedures.get(run.id);
    if (procedure) this.#ports.keepRun(line, procedure, run);
    if (run.phase === 'over') this.#procedures.delete(run.id);
  }

  #hold({ owner }: HostedLine, { line, station, press, release }: Extract<LineCommand, { kind: 'hold' }>): void {
    this.#held.set(holdKey(line, station), { line, station, release, saidMs: this.#ports.nowMs() });
    for (const bytes of press) owner.send(station, bytes, 'jog', 0);
  }

  #letGo({ plan, owner }: HostedLine, station: number): void {
    const hold = this.#held.get(holdKey(plan.id, station));
    if (!hold) return;
    this.#held.delete(holdKey(plan.id, station));
    for (const bytes of hold.release) {
      const ticket = this.#nextRelease--;
      this.#releases.set(ticket, hold);
      owner.send(station, bytes, 'jog', ticket);
    }
  }

  /** What ends a hold must have been taken: else the drive is stopped by all means that there are. */
  #exchanged(result: ExchangeResult): void {
    const release = this.#releases.get(result.request.ticket);
    if (!release) return;
    this.#releases.delete(result.request.ticket);
    const { line, station } = release;
    if (result.outcome !== 'answered' && result.outcome !== 'closed')
      this.#lines.get(line)?.owner.stop(station, 'the end of the jog was not confirmed');
  }

  #stateOf(id: string): LineState | null {
    const line = this.#lines.get(id);
    return line ? { line: id, ...line.owner.snapshot(), life: line.life } : null;
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
    if (!line?.isHeld()) return;
    this.#ports.channel.post({ kind: 'stop-taken', id });
    this.#servedFor.set(id, lineId);
    this.#ports.clock.catchUp();
    line.owner.stop(station);
    this.#ports.clock.catchUp();
  }

  /** The line that is looked at comes first; then every other one on which this bench set a drive in motion. */
  #stopEverywhere(current: HostedLine, station: number): void {
    if (current.life.kind === 'elsewhere') this.#askOther(current, station);
    else current.owner.stop(station);
    for (const line of this.#lines.values()) {
      const [first] = line.owner.snapshot().driven;
      if (line !== current && first !== undefined) line.owner.stop(first);
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
        cause: STOP,
        over: true,
        outcomes: [{ station, outcome: 'no-answer', why: 'the tab that has this line did not answer', atUs: null }],
      });
    }, STOP_ANSWER_MS);
  }
}

/** Stands where this browser or this plan has no way to the other end; opening it says so. */
class NoPort implements LinkPort {
  pace = () => ({ silenceUs: 0, gapUs: 0, firstByteUs: 0, allowanceUs: 0 });
  open = () =>
    Promise.resolve(
      failed(
        trouble(
          'no-access',
          'this browser gives no access to serial ports; one that has Web Serial does, on a computer',
        ),
      ),
    );
  close = () => Promise.resolve();
  settings = () => null;
  reconfigure = () => undefined;
  write = () => 0;
  sendBreak = () => null;
  setSignals = () => undefined;
}
