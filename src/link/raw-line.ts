import { bytesToText } from '../core/bytes/text';
import type { SerialSettings } from '../core/line/settings';
import { settingsText } from '../core/line/settings';
import type { Trouble } from '../core/line/trouble';
import type { Clock, Due } from '../core/time/clock';
import type { LineFault, TraceEntry } from '../core/trace/entry';
import type { Procedure } from '../core/procedure/procedure';
import { ProcedureRun } from './procedure-run';
import { QUIET, type ProcedureTold, type LineListener, type LineOwner, type LineSnapshot } from './line-owner';
import type { LinkPort, PortSignals } from './port';

/** Bytes that come within this time are one entry of the trace. */
const GATHER_US = 40_000;
/** An entry is closed at this size, so that a babbling drive shows. */
const LONGEST_ENTRY = 512;

/** A line without requests and answers: what is typed goes out, what comes in is recorded as it comes. */
export class RawLine implements LineOwner {
  readonly #clock: Clock;
  readonly #port: LinkPort;
  readonly #listener: LineListener;
  #open = false;
  #signals: PortSignals = {};
  #gathered: number[] = [];
  #faults: LineFault[] = [];
  #due: Due | null = null;
  #run: ProcedureRun | null = null;
  #runDue: Due | null = null;

  constructor(clock: Clock, port: LinkPort, listener: LineListener) {
    this.#clock = clock;
    this.#port = port;
    this.#listener = listener;
  }

  snapshot(): LineSnapshot {
    return { ...QUIET, open: this.#open, signals: this.#signals, ordered: this.#run?.orders() ?? null };
  }

  async open(): Promise<Trouble | null> {
    const opened = await this.#port.open({
      bytes: (bytes) => this.#heard(bytes),
      lineError: (kind) => this.#faults.push(kind),
      signals: (signals) => {
        this.#signals = { ...this.#signals, ...signals };
        this.#listener.changed();
      },
      closed: (why) => {
        this.#shut(why.text);
        this.#listener.closed(why);
      },
    });
    if (!opened.ok) return opened.error;
    this.#open = true;
    this.#note('event', new Uint8Array(0), 'opened', 'line');
    this.#listener.changed();
    return null;
  }

  async close(): Promise<void> {
    if (this.#open) this.#shut('closed by the user');
    this.#run?.end('closed', 'the line was closed');
    await this.#port.close();
  }

  send(_station: number, bytes: Uint8Array, cause: string): void {
    if (this.#open) this.#write(bytes, cause);
  }

  #write(bytes: Uint8Array, cause: string): number {
    this.#flush();
    const leftUs = this.#port.write(bytes);
    this.#note('sent', bytes, 'none', cause);
    return leftUs;
  }

  setPoll(): void {}

  /** Nobody answers a request on such a line, so each is over when it was sent; what comes is heard by the steps that wait for text. */
  startProcedure(procedure: Procedure, id: string): void {
    this.#run?.end('replaced', 'another one was begun');
    this.#run = new ProcedureRun(procedure, id, {
      nowUs: () => this.#clock.now(),
      report: ({ sentUs, endedUs }) => ({ outcome: 'sent', refusal: '', words: [], exchange: 0, sentUs, endedUs }),
      setEnd: (settings) => this.reconfigure(settings),
      driven: () => [],
      changed: (run) => this.#listener.procedure(run),
      withhold: () => undefined,
      stop: () => undefined,
    });
    if (!this.#open) this.#run.end('closed', 'the line is closed');
    this.#goOn();
  }

  tellProcedure(id: string, told: ProcedureTold): void {
    this.#run?.tell(id, told);
    this.#goOn();
  }

  #goOn(): void {
    if (this.#runDue !== null) this.#clock.cancel(this.#runDue);
    this.#runDue = null;
    const run = this.#run;
    if (!run || !this.#open) return;
    const gate = { nowUs: this.#clock.now(), clearUs: () => 0 };
    const request = run.next(gate);
    if (request) {
      const sentUs = this.#write(request.bytes, request.cause);
      run.took({
        request,
        exchange: 0,
        outcome: 'sent',
        reply: null,
        asked: null,
        said: null,
        sentUs,
        endedUs: sentUs,
      });
    }
    const dueUs = run.dueUs(gate);
    if (dueUs !== null)
      this.#runDue = this.#clock.at(Math.max(dueUs, this.#clock.now() + 1), () => {
        this.#runDue = null;
        this.#goOn();
      });
  }

  seenStanding(): void {}

  /** What is typed is sent at once, so nothing can be due from before. */
  fellAsleep(seconds: number): void {
    this.#run?.end('asleep', `this computer was asleep for ${seconds} s`);
    if (this.#open) this.#note('event', new Uint8Array(0), 'asleep', `asleep for ${seconds} s`);
  }

  awoke(): void {}

  /** On plain text an echo is wanted: it shows what the drive took. */
  setEcho(): void {}

  startSweep(): void {}

  endSweep(): void {}

  /** No sheet says how a text menu is stopped; that is said, and nothing is sent. */
  stop(current: number, cause = 'Stop'): void {
    this.#run?.end('stop', cause === 'Stop' ? 'Stop was pressed' : `stopped: ${cause}`);
    this.#listener.stop(
      [
        {
          station: current,
          atUs: null,
          outcome: 'not-sent',
          why: 'this line is plain text; no sheet says how the drive is stopped over it: use the stop at the drive',
        },
      ],
      true,
      cause,
    );
  }

  reconfigure(settings: SerialSettings): void {
    this.#port.reconfigure(settings);
    this.#note('event', new Uint8Array(0), 'settings', `this end: ${settingsText(settings)}`);
  }

  sendBreak(ms: number): void {
    if (!this.#open) return;
    const able = this.#port.sendBreak(ms * 1000) !== null;
    this.#note('event', new Uint8Array(0), 'break', able ? `break of ${ms} ms` : 'this port cannot send a break');
  }

  setSignals(signals: PortSignals): void {
    this.#port.setSignals(signals);
  }

  #heard(bytes: Uint8Array): void {
    for (const byte of bytes) this.#gathered.push(byte);
    if (this.#gathered.length >= LONGEST_ENTRY) return this.#flush();
    this.#due ??= this.#clock.at(this.#clock.now() + GATHER_US, () => this.#flush());
  }

  #flush(): void {
    if (this.#due !== null) this.#clock.cancel(this.#due);
    this.#due = null;
    if (this.#gathered.length === 0) return;
    const bytes = Uint8Array.from(this.#gathered);
    this.#gathered = [];
    this.#note('received', bytes, 'none', 'line');
    this.#run?.heard(bytesToText(bytes));
    this.#goOn();
  }

  #shut(reason: string): void {
    this.#flush();
    this.#run?.end('lost', `the line went away: ${reason}`);
    this.#open = false;
    this.#note('event', new Uint8Array(0), 'closed', reason);
    this.#listener.changed();
  }

  #note(direction: TraceEntry['direction'], bytes: Uint8Array, outcome: TraceEntry['outcome'], cause: string): void {
    const lineFaults = direction === 'received' ? this.#faults : [];
    if (direction === 'received') this.#faults = [];
    this.#listener.entry({
      station: 0,
      atUs: this.#clock.now(),
      direction,
      bytes,
      lineFaults,
      exchange: 0,
      outcome,
      cause,
    });
  }
}
