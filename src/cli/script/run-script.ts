import { bytesToHex } from '../../core/bytes/hex';
import { NO_PLACES } from '../../core/places/no-places';
import type { PlaceLink } from '../../core/places/place-link';
import type { RunState } from '../../core/procedure/run-state';
import type { LineProtocol } from '../../core/protocol/line-protocol';
import { statesOf } from '../../core/profile/profile';
import type { ParameterRole } from '../../core/sheet/parameter-section';
import { compileTrial, type CompiledTrial } from '../../core/trial/compile';
import { reportOf, type Verdict } from '../../core/trial/report';
import type { EntryDraft } from '../../link/exchanger';
import { learnedFrom } from '../../link/learned';
import { lineKindOf } from '../../link/line-kind';
import { LineMaster } from '../../link/line-master';
import type { LineListener, LineOwner } from '../../link/line-owner';
import { RawLine } from '../../link/raw-line';
import type { ExchangeResult } from '../../link/request';
import type { StationStop } from '../../link/stop-run';
import { patternIn } from '../../core/drive/seen';
import type { Cell } from '../../core/sheet/place';
import type { Script } from './script-line';
import type { ScriptWorld } from './world';

/** What a trial's requests rest on before its first step. */
const LOOKED_AT: readonly ParameterRole[] = [
  'status-word',
  'mode-display',
  'mode',
  'actual-position',
  'position-least',
  'position-most',
  'homing-method',
  'home-offset',
  'position-window',
  'round-way',
];
/** A drive that is asked for its state has so long to answer. */
const LOOK_US = 3_000_000;
/** Between two tries to reach a drive. */
const AGAIN_US = 1_000_000;
const ID = 'script';

/** Something that happened, as it goes out: one line of JSON. */
export type ScriptEvent = Readonly<Record<string, unknown>>;

/** How a script ended. `shaft`: `stands`: the drive said so, or this bench never set it in motion; else it is not known. */
export interface ScriptEnd {
  readonly verdict: Verdict;
  readonly why: string;
  readonly shaft: 'stands' | 'not known';
}

/** A line, a drive and what is told of them. */
class ScriptRun {
  readonly #script: Script;
  readonly #world: ScriptWorld;
  readonly #tell: (event: ScriptEvent) => void;
  readonly #isStopped: () => boolean;
  readonly #master: LineOwner;
  readonly #places: PlaceLink;
  readonly #protocol: LineProtocol | null;
  readonly #results = new Map<number, ExchangeResult>();
  readonly #known = new Map<Cell, number>();
  #run: RunState | null = null;
  #stops: readonly StationStop[] = [];
  #isStopOver = true;
  #isClosed = '';
  #againUs = 0;
  #told = 0;
  #asked = -1;
  #ticket = 0;

  constructor(
    script: Script,
    world: ScriptWorld,
    /** Null on a line of plain text. */
    kind: ReturnType<typeof lineKindOf>,
    tell: (event: ScriptEvent) => void,
    isStopped: () => boolean,
  ) {
    this.#script = script;
    this.#world = world;
    this.#protocol = kind?.protocol ?? null;
    this.#places = kind?.protocol.placesOf(script.index) ?? NO_PLACES;
    this.#tell = tell;
    this.#isStopped = isStopped;
    const listener: LineListener = {
      entry: (entry) => this.#frame(entry),
      exchange: (result) => this.#results.set(result.request.ticket, result),
      changed: () => undefined,
      procedure: (run) => (this.#run = run),
      stop: (outcomes, over) => {
        this.#stops = outcomes;
        this.#isStopOver = over;
      },
      closed: ({ text }) => (this.#isClosed = text),
    };
    this.#master = kind
      ? new LineMaster(world.clock, world.port, kind, [kind.controlOf(script.station, script.index)], listener)
      : new RawLine(world.clock, world.port, listener);
  }

  async all(): Promise<ScriptEnd> {
    this.#world.onJump({ asleep: (seconds) => this.#master.fellAsleep(seconds), awake: () => this.#master.awoke() });
    const { trial, station, index } = this.#script;
    const notOpened = await this.#open();
    if (notOpened !== '') return { verdict: 'not-done', why: `the line was not opened: ${notOpened}`, shaft: 'stands' };
    await this.#look();
    const compiled = this.#compile();
    const turns = compiled.steps.some((step) => step.turns);
    this.#tell({
      event: 'begun',
      trial: trial.name,
      drive: index.sheet.name,
      station,
      simulated: this.#world.isSimulated,
      steps: compiled.steps.length,
      mayTurn: turns,
    });
    if (!compiled.procedure) return this.#ended(compiled, 'not-done', compiled.why);
    if (turns && !this.#script.mayTurn)
      return this.#ended(compiled, 'not-done', 'the shaft may turn, and the line does not say that it may (mayTurn)');
    this.#master.startProcedure(compiled.procedure, ID);
    await this.#follow(compiled);
    const { verdict } = reportOf(index, compiled, this.#run);
    return this.#ended(compiled, verdict, this.#run?.why ?? '');
  }

  /** Opens the line; tries on while there is time. Opening sends nothing. */
  async #open(): Promise<string> {
    const { clock, pass } = this.#world;
    const untilUs = clock.now() + this.#script.openWithinS * 1e6;
    for (;;) {
      const why = await this.#master.open();
      if (!why) return '';
      const nextUs = clock.now() + AGAIN_US;
      if (nextUs > untilUs || this.#isStopped()) return why.text;
      while (clock.now() < nextUs && !this.#isStopped()) await pass();
    }
  }

  /** Reads what the drive is in, so that the first step knows it; a drive that does not answer is left to the trial to find out. */
  async #look(): Promise<void> {
    const { index, station } = this.#script;
    const places = this.#places;
    const wanted = LOOKED_AT.flatMap((role) => index.byRole.get(role) ?? []);
    for (const bytes of places.read(station, wanted)) {
      const ticket = ++this.#ticket;
      const untilUs = this.#world.clock.now() + LOOK_US;
      this.#master.send(station, bytes, 'script', ticket);
      while (!this.#results.has(ticket) && this.#world.clock.now() < untilUs) await this.#world.pass();
      const result = this.#results.get(ticket);
      if (result?.outcome === 'answered')
        for (const [cell, word] of learnedFrom(result, places)) this.#known.set(cell, word);
    }
  }

  #compile(): CompiledTrial {
    const { trial, index, station } = this.#script;
    const known = (role: ParameterRole): number | undefined => {
      const place = index.byRole.get(role);
      return place && patternIn(place, (cell) => this.#known.get(cell));
    };
    const status = known('status-word');
    const { profile } = index;
    return compileTrial(trial, {
      index,
      places: this.#places,
      station,
      name: `${station} · ${index.sheet.name}`,
      here: profile && status !== undefined ? statesOf(profile, status).map(({ id }) => id) : [],
      known,
      protocol: this.#protocol,
      isText: this.#protocol === null,
    });
  }

  /** Until the run is over: tells each step as it ends, answers for people what the line of the script says, ends what takes too long. */
  async #follow(compiled: CompiledTrial): Promise<void> {
    const untilUs = this.#world.clock.now() + this.#script.withinS * 1e6;
    let isStopping = false;
    while (this.#run?.phase !== 'over') {
      await this.#world.pass();
      this.#steps(compiled);
      this.#question(compiled);
      const isLate = this.#world.clock.now() >= untilUs;
      if ((this.#isStopped() || isLate) && !isStopping) {
        isStopping = true;
        this.#master.stop(this.#script.station, isLate ? `not done within ${this.#script.withinS} s` : 'Stop');
      }
      // Stop first: to open a line may take its time.
      await this.#takeUp();
      // What nobody is there to answer is no pause for ever.
      if (this.#run?.phase === 'paused') this.#master.tellProcedure(ID, { kind: 'end' });
    }
    this.#steps(compiled);
  }

  /** A connection that was lost while the trial waits for a drive to come back is opened again; anywhere else its loss has ended the run. */
  async #takeUp(): Promise<void> {
    const { clock } = this.#world;
    if (this.#isClosed === '' || this.#run?.phase === 'over' || clock.now() < this.#againUs) return;
    this.#againUs = clock.now() + AGAIN_US;
    const lost = this.#isClosed;
    if (await this.#master.open()) return;
    this.#isClosed = '';
    this.#tell({ event: 'connected', after: lost });
  }

  /** Steps that are over, each once and in order. */
  #steps(compiled: CompiledTrial): void {
    const run = this.#run;
    if (!run) return;
    const { steps } = compiled;
    let upTo = this.#told;
    while (upTo < steps.length && (run.phase === 'over' || run.at >= (steps[upTo]?.to ?? Infinity))) upTo++;
    if (upTo === this.#told) return;
    const fresh = steps.slice(this.#told, upTo);
    const from = fresh[0]?.from ?? 0;
    const part = { ...compiled, trial: { ...compiled.trial, measures: [] }, steps: fresh };
    const told = reportOf(this.#script.index, part, {
      ...run,
      records: run.records.filter(({ step }) => step >= from),
    });
    told.steps.forEach(({ compiled: step, verdict, seen, why, fromUs, toUs, exchanges }, i) =>
      this.#tell({
        event: 'step',
        step: this.#told + i + 1,
        name: step.step.id,
        text: step.text,
        verdict,
        ...(seen === '' ? {} : { seen }),
        ...(why === '' ? {} : { why }),
        ...(fromUs === null || toUs === null ? {} : { seconds: Math.round((toUs - fromUs) / 1000) / 1000 }),
        exchanges,
      }),
    );
    this.#told = upTo;
  }

  /** A person is asked: the script answers for them, or the trial ends, since nobody is there. */
  #question(compiled: CompiledTrial): void {
    const run = this.#run;
    const step = run && run.phase === 'running' ? compiled.procedure?.steps[run.at] : undefined;
    if (!run || step?.kind !== 'person' || this.#asked === run.at) return;
    this.#asked = run.at;
    const own = compiled.steps.find(({ from, to }) => run.at >= from && run.at < to);
    const said =
      own && Object.hasOwn(this.#script.answers, own.step.id) ? this.#script.answers[own.step.id] : undefined;
    const choices = step.choices.map(({ name }) => name);
    this.#tell({ event: 'asked', name: own?.step.id, question: step.question, choices, answer: said ?? null });
    if (said !== undefined) this.#master.tellProcedure(ID, { kind: 'answer', said });
    // Nobody is there, or the answer is none that can be taken: it would be waited for for ever.
    if (this.#run?.at === run.at && this.#run.phase === 'running') this.#master.tellProcedure(ID, { kind: 'end' });
  }

  /** Waits until it is known what became of the shaft, closes the line, and says it. */
  async #ended(compiled: CompiledTrial, verdict: Verdict, why: string): Promise<ScriptEnd> {
    while (!this.#isStopOver && this.#isClosed === '') await this.#world.pass();
    const { driven } = this.#master.snapshot();
    for (const { outcome, why: said } of this.#stops) this.#tell({ event: 'stopped', outcome, why: said });
    // What a menu made of a text nobody knows from here.
    const isUnknown = this.#protocol === null || driven.includes(this.#script.station);
    const shaft = isUnknown ? 'not known' : 'stands';
    if (this.#isClosed === '') await this.#master.close();
    const { measures } = reportOf(this.#script.index, compiled, this.#run);
    for (const { name, text, verdict: own, should } of measures)
      this.#tell({ event: 'measured', name, text, verdict: own, ...(should === '' ? {} : { should }) });
    return { verdict, why, shaft };
  }

  #frame({ direction, bytes, atUs, cause }: EntryDraft): void {
    if (!this.#script.frames || direction === 'event') return;
    this.#tell({ event: 'frame', direction, hex: bytesToHex(bytes), atUs: Math.round(atUs), cause });
  }
}

/** Runs one script to its end, and tells what happens as it happens. `isStopped` is asked over and over: once it says so, the shaft is stopped first. */
export async function runScript(
  script: Script,
  world: ScriptWorld,
  tell: (event: ScriptEvent) => void,
  isStopped: () => boolean,
): Promise<ScriptEnd> {
  const isText = script.protocol === 'raw-tcp';
  const kind = isText ? null : lineKindOf(script.protocol, [script.index]);
  if (!kind && !isText) return { verdict: 'not-done', why: 'no sheet says what this line speaks', shaft: 'stands' };
  try {
    return await new ScriptRun(script, world, kind, tell, isStopped).all();
  } finally {
    world.leave();
  }
}
