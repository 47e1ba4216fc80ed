import type { JobLine } from '../core/job/job';
import { earlierAfter, type EarlierLines } from '../core/job/line-history';
import { trouble } from '../core/line/trouble';
import type { Procedure } from '../core/procedure/procedure';
import type { RunState } from '../core/procedure/run-state';
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
} from '../messages/line';
import type { LinkPort } from '../link/port';
import { RawLine } from '../link/raw-line';
import { learnedFrom } from '../link/learned';
import { SerialPort, type BrowserSerialPort } from '../link/serial-port';
import { StandinPort } from '../link/standin-port';
import { lineKindOf } from '../link/line-kind';
import { TcpPort } from '../link/tcp-port';
import type { Nonvolatile } from '../standin/parameter-store';
import { YardLine } from '../standin/yard';
import type { LiveClock } from '../core/time/live-clock';
import { HeldKeys } from './held-keys';
import { HostedLine } from './hosted-line';
import { StopsOfTabs } from './stops-of-tabs';
import type { LineLocks, TabChannel } from './tab-channel';

/** While a run word is kept alive the page may be silent for so long; then the drives are stopped. */
const PAGE_SILENT_MS = 1_000;
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
  /** What the stand-ins of a line kept without power, by station. */
  readonly loadKept: (line: string) => Promise<ReadonlyMap<number, Nonvolatile>>;
  readonly saveKept: (line: string, station: number, values: Nonvolatile) => void;
  /** Keeps where a procedure is, so that a reload can tell where it ended. */
  readonly keepRun: (line: string, procedure: Procedure, run: RunState) => void;
  readonly bridge: BridgeClient;
  /** The serial ports that this page may use, in the browser's order; null where the browser has none to give. */
  readonly serialPorts: (() => Promise<readonly BrowserSerialPort[]>) | null;
}

/** Commands that concern one line that is known. */
type CommandOfLine = Exclude<Extract<LineCommand, { readonly line: string }>, { readonly kind: 'plan' }>;

type Gathered = Pick<LineBatch, 'entries' | 'exchanges' | 'lines' | 'stops' | 'runs' | 'earlier'>;

/** What a press of Stop is called as the cause. */
const STOP = 'Stop';

/** Which kind of drive a sheet describes: a copy of one's own describes the same drive as the sheet that it came from. */
const kindOf = (sheet: LinePlan['stations'][number]['sheet']): string => sheet?.base?.slug ?? sheet?.slug ?? '';

/** Whether the same drives stand there: a sheet is what is known of a drive, and another one of the same kind power-cycles nobody. */
const sameStations = (a: LinePlan, b: LinePlan): boolean =>
  a.stations.length === b.stations.length &&
  a.stations.every((station, i) => {
    const other = b.stations[i];
    return (
      station.station === other?.station &&
      kindOf(station.standin ?? station.sheet) === kindOf(other.standin ?? other.sheet) &&
      JSON.stringify(station.factory) === JSON.stringify(other.factory)
    );
  });

/** All lines of one tab: builds the yard, obeys the page's commands and gathers what happened for the next batch. */
export class LineHost {
  readonly #ports: HostPorts;
  readonly #lines = new Map<string, HostedLine>();
  #session = '';
  #sequence = 0;
  /** The job's lines as entries are read by them now, and before changes. */
  #jobLines: readonly JobLine[] = [];
  #earlier: readonly EarlierLines[] = [];
  #toldEarlier: readonly EarlierLines[] = [];
  #entries: TraceEntry[] = [];
  #exchanges: FinishedExchange[] = [];
  #stops: StopReport[] = [];
  #runs = new Map<string, RunReport>();
  #procedures = new Map<string, Procedure>();
  #changed = new Set<string>();
  #heardPageMs: number;
  readonly #keys: HeldKeys;
  readonly #tabs: StopsOfTabs;
  /** Place of the chosen serial port in the browser's list, by line. */
  #serialPlaces = new Map<string, number>();
  #seed = 0;
  #ipSweep: IpSweep | null = null;

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
    this.#keys = new HeldKeys({
      nowMs: ports.nowMs,
      send: (line, station, bytes, ticket) => this.#lines.get(line)?.owner.send(station, bytes, 'jog', ticket),
      stop: (line, station, cause) => this.#stopFor(line, station, cause),
    });
    this.#tabs = new StopsOfTabs({
      channel: ports.channel,
      newId: ports.newId,
      later: ports.later,
      report: (report) => this.#stops.push(report),
      stopHere: (line, station) => {
        const isHere = this.#lines.get(line)?.isHeld() === true;
        if (isHere) this.#stopFor(line, station, STOP);
        return isHere;
      },
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
      earlier: this.#earlier === this.#toldEarlier ? null : this.#earlier,
    };
    this.#toldEarlier = this.#earlier;
    this.#runs = new Map();
    this.#entries = [];
    this.#exchanges = [];
    this.#stops = [];
    this.#changed = new Set();
    return gathered;
  }

  /** How lines were before they were changed in this session. */
  earlier(): readonly EarlierLines[] {
    return this.#earlier;
  }

  /** The page's thread answered. */
  heardPage(): void {
    this.#heardPageMs = this.#ports.nowMs();
  }

  /** Looks whether the page that keeps shafts turning, or holds a key, is still there; to be called some twenty times a second. */
  watchPage(): void {
    const nowMs = this.#ports.nowMs();
    const silentMs = nowMs - this.#heardPageMs;
    this.#keys.expire();
    if (silentMs <= PAGE_SILENT_MS) return;
    for (const [line, { owner, plan }] of this.#lines) {
      const { keepAlives, cycled, ordered } = owner.snapshot();
      // What a text sets in motion is seen by nobody here.
      const blind = plan.protocol === 'raw' ? ordered : null;
      const turning = keepAlives.find(({ untilUs }) => untilUs === null)?.station ?? cycled ?? blind;
      if (turning !== null)
        this.#stopFor(line, turning, `the page did not answer for ${(silentMs / 1000).toFixed(1)} s`);
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
        this.#earlier = earlierAfter(this.#earlier, this.#sequence, this.#jobLines, command.lines);
        this.#jobLines = command.lines;
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
        return this.#keys.press(command);
      case 'held':
        return this.#keys.saidAgain(command.line, command.station);
      case 'let-go':
        return this.#keys.letGo(command.line, command.station);
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

  async #begin({ session, seed, lines, jobLines }: Extract<LineCommand, { kind: 'begin' }>): Promise<void> {
    this.#session = session;
    this.#jobLines = jobLines;
    this.#seed = seed;
    for (const plan of lines) await this.#plan(plan);
  }

  /** Builds a line, or builds it anew after a change; simulated drives that did not change live on. */
  async #plan(plan: LinePlan): Promise<void> {
    const old = this.#lines.get(plan.id);
    if (old) await old.close();
    const sameYard = old?.yard && plan.far.kind === 'yard' && sameStations(old.plan, plan);
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
    const kept = await loadKept(id);
    const drives = stations.flatMap(({ station, sheet: known, standin, factory }) => {
      const sheet = standin ?? known;
      return sheet ? [{ station, index: indexSheet(sheet), kept: { ...factory, ...kept.get(station) } }] : [];
    });
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
    const lineKind = lineKindOf(
      plan.protocol,
      stations.map(({ index }) => index),
    );
    const places = new Map(
      stations.map(({ station, index }) => [station, (index && lineKind?.protocol.placesOf(index)) ?? null]),
    );
    const listener: LineListener = {
      entry: (entry) => this.#record(id, entry),
      exchange: (result) => {
        this.#keys.exchanged(result);
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
    if (!lineKind) return new RawLine(clock, way, listener);
    const profiles = stations.map(({ station, index }) => lineKind.controlOf(station, index));
    return new LineMaster(
      clock,
      way,
      lineKind,
      profiles,
      listener,
      plan.timeoutMs === null ? null : plan.timeoutMs * 1000,
    );
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

  #stateOf(id: string): LineState | null {
    const line = this.#lines.get(id);
    return line ? { line: id, ...line.owner.snapshot(), life: line.life } : null;
  }

  #stopHappened(report: StopReport): void {
    this.#stops.push(report);
    this.#tabs.happened(report);
  }

  /** The line that is looked at comes first; then every other one on which this bench set a drive in motion, or is about to. */
  #stopEverywhere(current: HostedLine, station: number): void {
    if (current.life.kind === 'elsewhere') this.#tabs.ask(current.plan.id, station);
    else current.owner.stop(station);
    for (const line of this.#lines.values()) {
      const { driven, ordered } = line.owner.snapshot();
      const first = driven[0] ?? ordered;
      if (line !== current && first !== null) line.owner.stop(first);
    }
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
