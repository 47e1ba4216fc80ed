import { settingsText, type SerialSettings } from '../core/line/settings';
import type { Trouble } from '../core/line/trouble';
import type { Clock, Due } from '../core/time/clock';
import type { Outcome } from '../core/trace/entry';
import { Exchanger } from './exchanger';
import { KeepAliveSource } from './keep-alive-source';
import { PollSource, type PollItem } from './poll-source';
import type { LineListener, LineOwner, LineSnapshot } from './line-owner';
import type { LinkPort, PortSignals } from './port';
import { isCertain, type ExchangeResult, type LineRequest } from './request';
import type { Source } from './source';
import type { Speech } from './speech';
import type { StationCare } from './station-care';
import { StopRun, type StationStop } from './stop-run';
import { SweepRun, type SweepPlan } from './sweep-run';
import { UserSource } from './user-source';

/** A press of Stop waits this long for a reply that has not begun. */
const STOP_GRACE_US = 30_000;

/**
 * The owner of one line: decides who may send next (Stop, user, keep-alive by deadline, poll), remembers which drives it set in motion,
 * keeps their watchdogs calm and stops them. Opening sends nothing.
 */
export class LineMaster implements LineOwner {
  readonly #clock: Clock;
  readonly #port: LinkPort;
  readonly #listener: LineListener;
  readonly #speech: Speech;
  readonly #profiles: ReadonlyMap<number, StationCare>;
  readonly #exchanger: Exchanger;
  readonly #user = new UserSource();
  readonly #poll = new PollSource();
  readonly #keepAlive = new KeepAliveSource();
  #stopRun: StopRun | null = null;
  #driven: readonly number[] = [];
  #sweep: SweepRun | null = null;
  #signals: PortSignals = {};
  /** What must wait until the frame on the wire has ended. */
  #atRest: (() => void)[] = [];
  #open = false;
  #wake: Due | null = null;

  constructor(clock: Clock, port: LinkPort, speech: Speech, profiles: readonly StationCare[], listener: LineListener) {
    this.#clock = clock;
    this.#port = port;
    this.#listener = listener;
    this.#speech = speech;
    this.#profiles = new Map(profiles.map((profile) => [profile.station, profile]));
    this.#exchanger = new Exchanger(
      clock,
      port,
      speech.protocol,
      (entry) => listener.entry(entry),
      () => this.#pump(),
    );
  }

  snapshot(): LineSnapshot {
    return {
      open: this.#open,
      polled: this.#poll.stations(),
      keepAlives: this.#keepAlive.list(),
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
    return null;
  }

  async close(): Promise<void> {
    if (this.#open) this.#shut('closed by the user');
    await this.#port.close();
  }

  /**
   * Queues one request of the user's press. A run word in it starts this station's keep-alive, a later
   * word replaces it; while Stop is under way a run word is not taken.
   */
  send(station: number, bytes: Uint8Array, cause: string, ticket: number): void {
    const request: LineRequest = { station, bytes, priority: 'user', cause, ticket };
    if (!this.#open) return this.#tellUnsent(request, 'closed');
    this.endSweep();
    const profile = this.#profiles.get(station);
    if (this.#stopRun && profile?.mayTurn(profile.actOf(bytes))) return this.#tellUnsent(request, 'abandoned');
    this.#user.add(request);
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
   * with the stop word only. The outcomes come through the listener.
   */
  stop(current: number): void {
    const stations = [current, ...this.#driven.filter((station) => station !== current)];
    if (!this.#open) {
      this.#listener.stop(
        stations.map((station) => ({ station, outcome: 'not-sent', why: 'the line is closed' })),
        true,
      );
      return;
    }
    this.#event('stop-pressed', 'Stop');
    this.endSweep();
    for (const request of this.#user.clear()) this.#tellUnsent(request, 'abandoned');
    const profiles = stations.map((station) => this.#profiles.get(station) ?? this.#speech.careOf(station, null));
    for (const profile of profiles) this.#keepAliveWithStop(profile);
    this.#stopRun = new StopRun(profiles, (outcomes, over) => this.#stopChanged(outcomes, over));
    this.#listener.changed();
    if (this.#stopRun.isOver()) this.#stopChanged(this.#stopRun.outcomes(), true);
    this.#exchanger.abandon(STOP_GRACE_US);
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
    if (!this.#open || this.#stopRun || this.#refusesWhileDriving('a sweep')) return;
    this.#sweep?.end();
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

  #keepAliveWithStop(profile: StationCare): void {
    const words = profile.index?.sheet.commands?.stop.words ?? [];
    const word = words[words.length - 1];
    if (word !== undefined && this.#keepAlive.list().some(({ station }) => station === profile.station))
      this.#setKeepAlive(profile, word);
    else this.#keepAlive.end(profile.station);
  }

  #stopChanged(outcomes: readonly StationStop[], over: boolean): void {
    for (const { station, outcome } of outcomes) if (outcome === 'stopped') this.#keepAlive.end(station);
    if (over) {
      this.#stopRun = null;
      this.#driven = this.#driven.filter(
        (station) => !outcomes.some((stop) => stop.station === station && stop.outcome === 'stopped'),
      );
      this.#event('stop-done', `Stop: ${outcomes.map(({ station, outcome }) => `${station} ${outcome}`).join(', ')}`);
    }
    this.#listener.stop(outcomes, over);
    this.#listener.changed();
  }

  /** Sends what is due next, or sets an alarm for when something will be. */
  #pump(): void {
    if (!this.#open || !this.#exchanger.isIdle()) return;
    for (const action of this.#atRest.splice(0)) action();
    const now = this.#clock.now();
    const sources: readonly (Source | null)[] = [this.#stopRun, this.#user, this.#keepAlive, this.#sweep, this.#poll];
    for (const source of sources) {
      const request = source?.next(now);
      if (source && request) return this.#launch(source, request);
    }
    this.#alarm(sources.flatMap((source) => source?.dueUs() ?? []));
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

  #launch(source: Source, request: LineRequest): void {
    const profile = this.#profiles.get(request.station) ?? this.#speech.careOf(request.station, null);
    if (request.priority === 'user') this.#noteActs(request);
    const timeoutUs =
      source === this.#sweep && this.#sweep ? this.#sweep.timeoutUs : profile.timeoutUs + this.#port.pace().allowanceUs;
    this.#exchanger.start(request, timeoutUs, (result) => this.#finished(source, profile, result));
  }

  /** What a user's request sets in motion is remembered as it leaves, whether or not an answer comes. A broadcast concerns everyone. */
  #noteActs({ station, bytes }: LineRequest): void {
    const concerned = this.#speech.protocol.answers(bytes)
      ? [this.#profiles.get(station)].filter((profile) => profile !== undefined)
      : [...this.#profiles.values()];
    for (const profile of concerned) {
      const act = profile.actOf(bytes);
      if (profile.mayTurn(act) || (act.reference !== undefined && act.reference !== 0))
        this.#driven = [...new Set([...this.#driven, profile.station])];
      profile.noteSent(act);
      if (act.control !== undefined && !act.masked) this.#setKeepAlive(profile, act.control);
    }
    this.#listener.changed();
  }

  /** A word that asks to turn is repeated until further notice; any other only while the shaft may still be coming to rest. */
  #setKeepAlive(profile: StationCare, word: number): void {
    const everyUs = profile.keepAliveEveryUs();
    const bytes = profile.controlWrite(word);
    const running = this.#keepAlive.list().some(({ station }) => station === profile.station);
    const turns = profile.mayTurn({ control: word });
    if (everyUs === null || !bytes || (!turns && !running)) return this.#keepAlive.end(profile.station);
    const now = this.#clock.now();
    this.#keepAlive.start(
      { station: profile.station, word, everyUs, untilUs: turns ? null : now + profile.standstillWithinUs() },
      bytes,
      now,
    );
  }

  #finished(source: Source, profile: StationCare, result: ExchangeResult): void {
    if (isCertain(result)) profile.learn(result);
    source.took(result);
    this.#listener.exchange(result);
    if (result.request.priority === 'keep-alive') this.#listener.changed();
  }

  #lost(why: Trouble): void {
    if (!this.#open) return;
    this.#shut(why.text);
    this.#listener.closed(why);
  }

  #shut(reason: string): void {
    for (const request of this.#user.clear()) this.#tellUnsent(request, 'abandoned');
    this.#poll.set([], this.#clock.now());
    this.#keepAlive.endAll();
    this.endSweep();
    this.#atRest = [];
    this.#exchanger.shut();
    const stopping = this.#stopRun;
    this.#stopRun = null;
    if (stopping && !stopping.isOver()) {
      const cut: readonly StationStop[] = stopping.pending().map((station) => ({
        station,
        outcome: 'no-answer',
        why: `the line closed before the drive stood: ${reason}`,
      }));
      this.#listener.stop([...stopping.outcomes(), ...cut], true);
    }
    this.#driven = [];
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
