import { settingsText, type SerialSettings } from '../core/line/settings';
import type { Trouble } from '../core/line/trouble';
import type { PlaceLink } from '../core/places/place-link';
import type { Procedure } from '../core/procedure/procedure';
import type { ExchangeReport } from '../core/procedure/run';
import type { Clock, Due } from '../core/time/clock';
import type { Outcome } from '../core/trace/entry';
import { roleActive } from '../core/words/read';
import { Exchanger } from './exchanger';
import { KeepAliveSource } from './keep-alive-source';
import { patternIn } from '../core/drive/seen';
import { learnedFrom } from './learned';
import { PollSource, type PollItem } from './poll-source';
import type { KeepAliveEnd, LineListener, LineOwner, LineSnapshot, ProcedureTold, SendOptions } from './line-owner';
import type { LinkPort, PortSignals } from './port';
import { ProcedureRun } from './procedure-run';
import { isCertain, isHeard, type ExchangeResult, type LineRequest } from './request';
import type { Gate, Source } from './source';
import type { LineKind } from './line-kind';
import { DEFAULT_TIMEOUT_US, type StationControl } from './station-control';
import { StopRun, type StationStop } from './stop-run';
import { SweepRun, type SweepPlan } from './sweep-run';
import { UserSource } from './user-source';

/** A press of Stop waits this long for a reply that has not begun. */
const STOP_GRACE_US = 30_000;
/** A task that is answered but not done yet is repeated this often (USS: until the answer to it comes). */
const REPEATS_MOST = 12;
/** Priorities behind which a person stands: what they send may set a shaft in motion. */
const DELIBERATE: ReadonlySet<LineRequest['priority']> = new Set(['user', 'procedure']);

/** A request that is sent again as it is, until its task is done. */
interface Repeat {
  readonly source: Source;
  readonly request: LineRequest;
  readonly left: number;
}

/**
 * The owner of one line: decides who may send next (Stop, user, procedure, keep-alive by deadline, poll), remembers which drives it set in
 * motion, keeps their watchdogs calm and stops them. Opening sends nothing, and nothing that was due while the page slept is made up for.
 */
export class LineMaster implements LineOwner {
  readonly #clock: Clock;
  readonly #port: LinkPort;
  readonly #listener: LineListener;
  readonly #kind: LineKind;
  readonly #controls: ReadonlyMap<number, StationControl>;
  readonly #places: ReadonlyMap<number, PlaceLink>;
  readonly #exchanger: Exchanger;
  readonly #user = new UserSource();
  readonly #poll = new PollSource();
  readonly #keepAlive = new KeepAliveSource((station, why) => this.#keepAliveEnded(station, why));
  #stopRun: StopRun | null = null;
  /** What asked for the last Stop. */
  #stopCause = 'Stop';
  /** What was recorded of it last: the same is not recorded twice. */
  #noted = '';
  #procedure: ProcedureRun | null = null;
  #repeat: Repeat | null = null;
  #driven: readonly number[] = [];
  #ended: readonly KeepAliveEnd[] = [];
  #sweep: SweepRun | null = null;
  #signals: PortSignals = {};
  /** What must wait until the frame on the wire has ended. */
  #atRest: (() => void)[] = [];
  readonly #replyUs: number | null;
  #open = false;
  #asleep = false;
  #lastSource: Source | null = null;
  #wake: Due | null = null;

  constructor(
    clock: Clock,
    port: LinkPort,
    lineKind: LineKind,
    controls: readonly StationControl[],
    listener: LineListener,
    /** How long an answer is waited for, as the user set it; null: as each station’s sheet says. */
    replyUs: number | null = null,
  ) {
    this.#replyUs = replyUs;
    this.#clock = clock;
    this.#port = port;
    this.#listener = listener;
    this.#kind = lineKind;
    this.#controls = new Map(controls.map((control) => [control.station, control]));
    this.#places = new Map(
      controls.flatMap(({ station, index }) => (index ? [[station, lineKind.protocol.placesOf(index)] as const] : [])),
    );
    this.#exchanger = new Exchanger(
      clock,
      port,
      lineKind.protocol,
      (entry) => listener.entry(entry),
      () => this.#pump(),
    );
  }

  snapshot(): LineSnapshot {
    return {
      open: this.#open,
      polled: this.#poll.stations(),
      keepAlives: this.#keepAlive.list(),
      ended: this.#ended,
      cycled: this.#driven.find((station) => station === this.#procedure?.cycles()) ?? null,
      ordered: this.#procedure?.orders() ?? null,
      driven: this.#driven,
      stopping: this.#stopRun?.pending() ?? [],
      sweep: this.#sweep?.state() ?? null,
      signals: this.#signals,
    };
  }

  async open(): Promise<Trouble | null> {
    const opened = await this.#port.open({
      bytes: this.#exchanger.bytes,
      lineError: this.#exchanger.lineError,
      signals: (signals) => {
        this.#signals = { ...this.#signals, ...signals };
        this.#listener.changed();
      },
      closed: (why) => this.#lost(why),
    });
    if (!opened.ok) return opened.error;
    this.#open = true;
    this.#event('opened', 'line');
    this.#listener.changed();
    this.#pump();
    return null;
  }

  async close(): Promise<void> {
    if (this.#open) this.#shut('closed by the user');
    this.#procedure?.end('closed', 'the line was closed');
    this.#driven = [];
    await this.#port.close();
  }

  /**
   * Queues one request of the user's press. A run word in it starts this station's keep-alive, a later
   * word replaces it; while Stop is under way a run word is not taken.
   */
  send(station: number, bytes: Uint8Array, cause: string, ticket: number, options: SendOptions = {}): void {
    const request: LineRequest = { station, bytes, priority: 'user', cause, ticket, ...options };
    if (!this.#open) return this.#tellUnsent(request, 'closed');
    this.endSweep();
    const control = this.#controls.get(station);
    const act = control?.effectOf(bytes);
    const turns = control !== undefined && act !== undefined && control.mayTurn(act);
    // Two who command one drive: the hand is the later one.
    if (act?.control !== undefined && station === this.#procedure?.cycles())
      this.#procedure.end('replaced', 'a word was sent to the drive by hand');
    if (turns && this.#stopRun && !this.#stopRun.isOver()) return this.#tellUnsent(request, 'abandoned');
    if (turns) this.#stopRun?.leave(station);
    this.#user.add(request);
    this.#pump();
  }

  /** Runs a procedure; the one before it on this line ends. */
  startProcedure(procedure: Procedure, id: string): void {
    const cycled = this.#procedure?.cycles() ?? null;
    // Another block for the same drive takes over; anything else would leave its run word in the drive with nobody behind it.
    if (cycled !== null && (procedure.kind !== 'cycle' || procedure.station !== cycled))
      this.#procedure?.end('surprise', 'another procedure was begun');
    this.#procedure?.end('replaced', 'another one was begun');
    this.endSweep();
    const run = new ProcedureRun(procedure, id, {
      nowUs: () => this.#clock.now(),
      report: (result) => this.#reportOf(result),
      setEnd: (settings) => this.#setEnd(settings),
      driven: () => this.#driven,
      changed: (state) => this.#listener.procedure(state),
      withhold: (station) => this.#keepAlive.end(station),
      // Others that are set in motion stay so; what a Stop still follows is followed on.
      stop: (station, cause) => this.#stop([station, ...(this.#stopRun?.pending() ?? [])], cause, true),
    });
    this.#procedure = run;
    if (!this.#open) return run.end('closed', 'the line is closed');
    if (this.#stopRun && !this.#stopRun.isOver()) return run.end('stop', 'Stop is under way');
    this.#pump();
  }

  tellProcedure(id: string, told: ProcedureTold): void {
    // It goes on when the shaft stands, not in the middle of a Stop.
    if ((told.kind === 'resume' || told.kind === 'again') && this.#stopRun && !this.#stopRun.isOver()) return;
    this.#procedure?.tell(id, told);
    this.#pump();
  }

  setPoll(items: readonly PollItem[]): void {
    if (!this.#open) return;
    this.#poll.set(items, this.#clock.now());
    this.#listener.changed();
    this.#pump();
  }

  /**
   * Stops every drive that this bench set in motion, `current` first. What is queued is dropped, the frame on the wire ends, keep-alives go on
   * with the stop word only. The outcomes come through the listener; a second press begins anew.
   */
  stop(current: number, cause = 'Stop'): void {
    this.#stop([current, ...this.#driven], cause, false);
  }

  /** The first one first, each once. `isOfRun`: a procedure asks for it, and is not ended by it. */
  #stop(wanted: readonly number[], cause: string, isOfRun: boolean): void {
    const stations = [...new Set(wanted)];
    if (!this.#open) {
      this.#procedure?.end('stop', 'Stop was pressed');
      this.#listener.stop(
        stations.map((station) => ({ station, outcome: 'not-sent', why: 'the line is closed', atUs: null })),
        true,
        cause,
      );
      return;
    }
    this.#event('stop-pressed', cause);
    this.#stopCause = cause;
    this.endSweep();
    if (!isOfRun) this.#procedure?.end('stop', cause === 'Stop' ? 'Stop was pressed' : `stopped: ${cause}`);
    for (const request of this.#user.clear()) this.#tellUnsent(request, 'abandoned');
    this.#dropRepeat();
    const controls = stations.map((station) => this.#controls.get(station) ?? this.#kind.controlOf(station, null));
    for (const control of controls) this.#keepAliveWithStop(control);
    const run: StopRun = new StopRun(
      controls,
      this.#clock.now(),
      (result) => this.#refusalOf(result),
      () => this.#stopChanged(run),
    );
    this.#stopRun = run;
    this.#stopChanged(run);
    this.#exchanger.abandon(STOP_GRACE_US);
    this.#pump();
  }

  /** A person saw the shaft stand: the drive is not counted as set in motion any more, and not asked on. */
  seenStanding(station: number): void {
    this.#driven = this.#driven.filter((driven) => driven !== station);
    this.#stopRun?.leave(station);
    this.#keepAlive.end(station);
    this.#event('stop-done', `station ${station}: a person saw its shaft stand`);
    this.#listener.changed();
  }

  /** The page, or the whole computer, was away for so long: nothing of what was due then is sent. Time runs on only after `awoke`. */
  fellAsleep(seconds: number): void {
    if (!this.#open) return;
    this.#asleep = true;
    this.#keepAlive.endAll(`asleep for ${seconds} s`);
    this.#procedure?.end('asleep', `this computer was asleep for ${seconds} s`);
    this.endSweep();
    for (const request of this.#user.clear()) this.#tellUnsent(request, 'abandoned');
    this.#dropRepeat();
    this.#event('asleep', `asleep for ${seconds} s; what was due meanwhile is not sent`);
    this.#listener.changed();
  }

  awoke(): void {
    if (!this.#asleep) return;
    this.#asleep = false;
    this.#poll.skipTo(this.#clock.now());
    this.#pump();
  }

  /** A change of settings, a break or a sweep would cut the bench off from a shaft that it set in motion: Stop could not get through. */
  #refusesWhileDriving(what: string): boolean {
    if (this.#driven.length === 0) return false;
    this.#event(
      'trouble',
      `${what}: not done, for this bench set station ${this.#driven.join(', ')} in motion; press Stop first`,
    );
    return true;
  }

  reconfigure(settings: SerialSettings): void {
    if (this.#refusesWhileDriving('new settings for this end')) return;
    this.endSweep();
    this.#whenAtRest(() => this.#setEnd(settings));
  }

  sendBreak(ms: number): void {
    if (!this.#open || this.#refusesWhileDriving('a break')) return;
    this.#whenAtRest(() => {
      const endUs = this.#port.sendBreak(ms * 1000);
      this.#event('break', endUs === null ? 'this port cannot send a break' : `break of ${ms} ms`);
    });
  }

  setSignals(signals: PortSignals): void {
    this.#port.setSignals(signals);
  }

  setEcho(hasEcho: boolean): void {
    this.#exchanger.setEcho(hasEcho);
  }

  startSweep(plan: SweepPlan): void {
    if (!this.#open || (this.#stopRun && !this.#stopRun.isOver()) || this.#refusesWhileDriving('a sweep')) return;
    this.#sweep?.end();
    this.#procedure?.end('replaced', 'a sweep was begun');
    this.#poll.set([], this.#clock.now());
    this.#sweep = new SweepRun(
      plan,
      (settings) => this.#setEnd(settings),
      () => this.#listener.changed(),
    );
    this.#listener.changed();
    this.#pump();
  }

  endSweep(): void {
    this.#sweep?.end();
  }

  #setEnd(settings: SerialSettings): void {
    const was = this.#port.settings();
    this.#port.reconfigure(settings);
    this.#event('settings', `this end: ${settingsText(settings)}${was ? `, was ${settingsText(was)}` : ''}`);
  }

  #whenAtRest(action: () => void): void {
    if (!this.#open || this.#exchanger.isIdle()) return action();
    this.#atRest.push(action);
  }

  #tellUnsent(request: LineRequest, outcome: 'closed' | 'abandoned'): void {
    const now = this.#clock.now();
    this.#listener.exchange({
      request,
      exchange: 0,
      outcome,
      reply: null,
      asked: null,
      said: null,
      sentUs: now,
      endedUs: now,
    });
  }

  #keepAliveWithStop(control: StationControl): void {
    const words = control.index?.sheet.commands?.stop.words ?? [];
    const word = words[words.length - 1];
    control.noteRunEnded();
    if (word !== undefined && this.#keepAlive.list().some(({ station }) => station === control.station))
      this.#setKeepAlive(control, word);
    else this.#keepAlive.end(control.station);
  }

  #keepAliveEnded(station: number, why: string): void {
    this.#controls.get(station)?.noteRunEnded();
    this.#ended = [...this.#ended.filter((end) => end.station !== station), { station, why, atUs: this.#clock.now() }];
    this.#event('keep-alive-ended', `the run word of station ${station} is not repeated any more: ${why}`);
    this.#listener.changed();
  }

  /** An older press that still has an exchange on the wire tells nothing any more. */
  #stopChanged(run: StopRun): void {
    if (this.#stopRun !== run) return;
    const outcomes = run.outcomes();
    const wasDriven = this.#driven;
    const stopped = new Set(outcomes.filter(({ outcome }) => outcome === 'stopped').map(({ station }) => station));
    for (const station of stopped) this.#keepAlive.end(station);
    this.#driven = wasDriven.filter((station) => !stopped.has(station));
    if (run.isOver()) this.#noteStop(outcomes);
    this.#listener.stop(outcomes, run.isOver(), this.#stopCause);
    this.#listener.changed();
  }

  #noteStop(outcomes: readonly StationStop[]): void {
    const text = `Stop: ${outcomes.map(({ station, outcome }) => `${station} ${outcome}`).join(', ')}`;
    if (text !== this.#noted) this.#event('stop-done', text);
    this.#noted = text;
  }

  #gate(): Gate {
    return { nowUs: this.#clock.now(), clearUs: (bytes) => this.#exchanger.clearUs(bytes) };
  }

  /** Sends what is due next, or sets an alarm for when something will be. */
  #pump(): void {
    if (!this.#open || this.#asleep || !this.#exchanger.isIdle()) return;
    for (const action of this.#atRest.splice(0)) action();
    if (this.#sendRepeat()) return;
    const gate = this.#gate();
    this.#poll.spare(this.#procedure?.spares() ?? null);
    const others = [this.#procedure, this.#keepAlive, this.#sweep, this.#poll];
    const sources: readonly (Source | null)[] =
      this.#lastSource === this.#user && this.#user.yields() ? [...others, this.#user] : [this.#user, ...others];
    const stopping = this.#stopRun?.next(gate);
    if (this.#stopRun && stopping) return this.#launch(this.#stopRun, stopping);
    if (this.#keepAliveAhead(gate, sources)) return;
    for (const source of sources) {
      const request = source?.next(gate);
      if (source && request) return this.#launch(source, request);
    }
    this.#alarm([this.#stopRun, ...sources].flatMap((source) => source?.dueUs(gate) ?? []));
  }

  /**
   * An exchange that fails takes its time-out and as much quiet again. Where that could make a running drive's watchdog run out, the drive gets
   * its word first; not again where it has just got it, so that the others come to their turn on the slowest link too.
   */
  #keepAliveAhead(gate: Gate, sources: readonly (Source | null)[]): boolean {
    if (this.#lastSource === this.#keepAlive && this.#keepAlive.isFresh(gate.nowUs)) return false;
    const waits = sources.some(
      (source) => source !== this.#keepAlive && (source?.dueUs(gate) ?? Infinity) <= gate.nowUs,
    );
    const ahead = waits ? this.#keepAlive.ahead(gate, gate.nowUs + this.#longestUs()) : null;
    if (ahead?.kind === 'send') this.#launch(this.#keepAlive, ahead.request);
    if (ahead?.kind === 'wait') this.#alarm([ahead.untilUs]);
    return ahead !== null;
  }

  /** How long the line may be taken by one exchange that fails, by the slowest of its stations. */
  #longestUs(): number {
    const slowest = Math.max(
      DEFAULT_TIMEOUT_US,
      ...[...this.#controls.values()].map((control) => this.#timeoutOf(control)),
    );
    return 2 * (slowest + this.#port.pace().allowanceUs);
  }

  #timeoutOf({ timeoutUs }: StationControl): number {
    return this.#replyUs ?? timeoutUs;
  }

  #alarm(dues: readonly number[]): void {
    if (this.#wake !== null) this.#clock.cancel(this.#wake);
    this.#wake = null;
    if (dues.length === 0) return;
    this.#wake = this.#clock.at(Math.max(Math.min(...dues), this.#clock.now() + 1), () => {
      this.#wake = null;
      this.#pump();
    });
  }

  #launch(source: Source, asked: LineRequest): void {
    const control = this.#controls.get(asked.station) ?? this.#kind.controlOf(asked.station, null);
    const request = asked.asTyped === true ? asked : { ...asked, bytes: control.asSent(asked.bytes) };
    if (DELIBERATE.has(request.priority)) this.#noteActs(request);
    if (request.priority === 'stop') control.noteSent(control.effectOf(request.bytes));
    this.#lastSource = source;
    const timeoutUs =
      source === this.#sweep && this.#sweep
        ? this.#sweep.timeoutUs
        : this.#timeoutOf(control) + this.#port.pace().allowanceUs;
    this.#exchanger.start(request, timeoutUs, (result) => this.#finished(source, control, result));
  }

  /** What a user's request sets in motion is remembered as it leaves, whether or not an answer comes. A broadcast concerns everyone. */
  #noteActs({ station, bytes }: LineRequest): void {
    const concerned = this.#kind.protocol.answers(bytes)
      ? [this.#controls.get(station)].filter((control) => control !== undefined)
      : [...this.#controls.values()];
    for (const control of concerned) {
      const act = control.effectOf(bytes);
      const turns = control.mayTurn(act);
      if (turns || (act.reference !== undefined && act.reference !== 0))
        this.#driven = [...new Set([...this.#driven, control.station])];
      if (turns) this.#ended = this.#ended.filter((end) => end.station !== control.station);
      control.noteSent(act);
      // A cycle repeats its word itself, at its own time and no other.
      if (control.station === this.#procedure?.cycles()) this.#keepAlive.end(control.station);
      else if (act.control !== undefined && !act.masked) this.#setKeepAlive(control, act.control);
    }
    this.#listener.changed();
  }

  /** A word that asks to turn is repeated until further notice; any other only while the shaft may still be coming to rest. */
  #setKeepAlive(control: StationControl, word: number): void {
    const { station } = control;
    const everyUs = control.keepAliveEveryUs();
    const bytes = control.controlWrite(word);
    const running = this.#keepAlive.list().some((known) => known.station === station);
    const turns = control.mayTurn({ control: word });
    if (everyUs === null || !bytes || (!turns && !running)) return this.#keepAlive.end(station);
    const now = this.#clock.now();
    this.#keepAlive.start(
      {
        station,
        word,
        everyUs,
        untilUs: turns ? null : now + control.standstillWithinUs(),
        bytes,
        holdRead: control.holdRead(),
        holds: (result) => control.holds(result, word),
        statusRead: turns ? control.statusWordRead() : null,
      },
      now,
    );
  }

  #finished(source: Source, control: StationControl, result: ExchangeResult): void {
    if (isCertain(result)) control.learn(result);
    if (isHeard(result)) this.#lookAtStatus(control, result);
    this.#spareQuiet(result);
    if (this.#repeats(source, result)) return;
    source.took(result);
    this.#listener.exchange(result);
    if (result.request.priority === 'keep-alive') this.#listener.changed();
  }

  /** After a time-out the line is quiet for as long again; not longer than a running drive's watchdog allows. */
  #spareQuiet({ outcome, endedUs }: ExchangeResult): void {
    if (isHeard({ outcome }) || outcome === 'sent') return;
    const pressingUs = this.#keepAlive.pressingUs(endedUs + this.#longestUs());
    if (pressingUs !== null)
      this.#clock.at(Math.max(pressingUs, endedUs + this.#exchanger.restUs()), () => this.#exchanger.endQuiet());
  }

  /** A fault ends what was repeated: the run word must not set the drive going again once somebody has cleared it. */
  #lookAtStatus({ station, index }: StationControl, result: ExchangeResult): void {
    const place = index?.byRole.get('status-word');
    if (!index?.words || !place) return;
    const told = new Map(learnedFrom(result, this.#places.get(station) ?? null));
    const status = patternIn(place, (cell) => told.get(cell));
    if (status === undefined) return;
    this.#keepAlive.sawStatus(station, result.endedUs);
    if (roleActive(index.words.status, 'fault', status) !== true) return;
    this.#keepAlive.endFor(station, 'the drive reports a fault');
    // Whoever clears it at the drive must not set it going by that.
    if (this.#procedure?.cycles() === station && this.#driven.includes(station))
      this.#procedure.end('surprise', 'the drive reports a fault');
  }

  /** The same request is sent once more, before anything else, where its task is answered but not done. */
  #repeats(source: Source, result: ExchangeResult): boolean {
    const { request, outcome } = result;
    const left = this.#repeat ? this.#repeat.left - 1 : REPEATS_MOST;
    this.#repeat = null;
    if (outcome !== 'unconfirmed' || !DELIBERATE.has(request.priority) || left === 0) return false;
    if (this.#stopRun && !this.#stopRun.isOver()) return false;
    this.#repeat = { source, request, left };
    return true;
  }

  #sendRepeat(): boolean {
    if (!this.#repeat || (this.#stopRun && !this.#stopRun.isOver())) return false;
    this.#launch(this.#repeat.source, this.#repeat.request);
    return true;
  }

  #dropRepeat(): void {
    if (!this.#repeat) return;
    const { source, request } = this.#repeat;
    this.#repeat = null;
    if (source === this.#user) this.#tellUnsent(request, 'abandoned');
  }

  #refusalOf({ request, reply }: ExchangeResult): string {
    const pairing = reply && this.#kind.protocol.pair(request.bytes, reply);
    return pairing?.kind === 'exception' ? this.#kind.protocol.refusal(pairing.code).text : '';
  }

  #reportOf(result: ExchangeResult): ExchangeReport {
    const { outcome, exchange, sentUs, endedUs, request } = result;
    return {
      outcome: outcome === 'answered' || outcome === 'sent' ? outcome : outcome === 'exception' ? 'refused' : 'silent',
      refusal: this.#refusalOf(result),
      words: learnedFrom(result, this.#places.get(request.station) ?? null),
      exchange,
      sentUs,
      endedUs,
    };
  }

  #lost(why: Trouble): void {
    if (!this.#open) return;
    this.#shut(why.text);
    this.#listener.closed(why);
  }

  #shut(reason: string): void {
    for (const request of this.#user.clear()) this.#tellUnsent(request, 'abandoned');
    this.#dropRepeat();
    this.#poll.set([], this.#clock.now());
    if (!this.#procedure?.expectsLoss()) this.#procedure?.end('lost', `the line went away: ${reason}`);
    this.endSweep();
    this.#atRest = [];
    this.#keepAlive.endAll(reason);
    for (const control of this.#controls.values()) control.noteRunEnded();
    this.#exchanger.shut();
    if (this.#stopRun && !this.#stopRun.isOver()) {
      this.#stopRun.cut(`the line closed before the drive stood: ${reason}`);
      this.#listener.stop(this.#stopRun.outcomes(), true, this.#stopCause);
    }
    this.#stopRun = null;
    this.#alarm([]);
    this.#open = false;
    this.#event('closed', reason);
    this.#listener.changed();
  }

  #event(outcome: Outcome, cause: string): void {
    this.#listener.entry({
      station: 0,
      atUs: this.#clock.now(),
      direction: 'event',
      bytes: new Uint8Array(0),
      lineFaults: [],
      exchange: 0,
      outcome,
      cause,
    });
  }
}
