import type { StoreApi } from 'zustand/vanilla';
import type { SerialSettings } from '../core/line/settings';
import { settingsText } from '../core/line/settings';
import type { PlaceLink } from '../core/places/place-link';
import type { PlacedParameter, SheetIndex } from '../core/sheet/index-sheet';
import type { LinkChange } from '../core/sheet/link-change';
import { compareRestart, type RestartRow } from '../core/sheet/restart';
import { isCertain, type ExchangeResult } from '../link/request';
import { ask } from './ask';
import type { Bench } from './bench';
import type { BenchState } from './bench-state';
import { placesOn, protocolOn } from './line-protocol';
import { writtenSinceStart } from './restart-pending';
import type { LinkWork, WorkStep } from './link-work-state';

const ASK_EVERY_MS = 400;
/** A drive is asked again for so much longer than its sheet gives it to start. */
const PATIENCE_MS = 4_000;
const USUAL_BOOT_MS = 3_000;

class Halted extends Error {}

/** Runs work step by step and shows it in the state; Stop and another line end it. */
class Worker {
  readonly #bench: Bench;
  readonly #state: StoreApi<BenchState>;
  readonly #line: string;
  readonly #station: number;

  constructor(bench: Bench, title: string, wayBack = '', breakMs: number | null = null) {
    this.#bench = bench;
    this.#state = bench.state;
    const { lineId, station } = bench.state.getState();
    this.#line = lineId;
    this.#station = station;
    this.#show({ line: lineId, station, title, steps: [], over: false, wayBack, breakMs, rows: null });
  }

  get station(): number {
    return this.#station;
  }

  /** The request that writes one setting; null where the line cannot. */
  write(index: SheetIndex, parameter: PlacedParameter, word: number): Uint8Array | null {
    return this.#places(index)?.write(this.#station, parameter, word, () => undefined) ?? null;
  }

  #places(index: SheetIndex): PlaceLink | null {
    return protocolOn(this.#state.getState(), this.#line)?.placesOf(index) ?? null;
  }

  #show(work: LinkWork): void {
    this.#state.setState({ linkWork: work });
  }

  #change(how: (work: LinkWork) => LinkWork): void {
    const { linkWork } = this.#state.getState();
    if (linkWork) this.#show(how(linkWork));
  }

  /** One step in words; it fails when `action` throws. */
  async step<T>(text: string, action: () => Promise<T>): Promise<T> {
    this.#change((work) => ({ ...work, steps: [...work.steps, { text, state: 'now' }] }));
    const end = (state: WorkStep['state'], more = ''): void =>
      this.#change((work) => ({
        ...work,
        steps: work.steps.map((step) => (step.state === 'now' ? { text: step.text + more, state } : step)),
      }));
    try {
      const value = await action();
      end('done');
      return value;
    } catch (error) {
      end('failed', `: ${error instanceof Error ? error.message : String(error)}`);
      throw error;
    }
  }

  over(rows: readonly RestartRow[] | null = null): void {
    this.#change((work) => ({ ...work, over: true, rows: rows ?? work.rows, wayBack: '' }));
  }

  failed(): void {
    this.#change((work) => ({ ...work, over: true }));
  }

  #check(): void {
    const { stops, lineId, lines } = this.#state.getState();
    if (stops.length > 0) throw new Halted('Stop was pressed');
    if (lineId !== this.#line) throw new Halted('another line was chosen');
    const line = lines.get(this.#line);
    if (line && line.driven.length > 0) throw new Halted('this bench set a drive in motion; press Stop first');
    if (!line?.open && !line?.retrying) throw new Halted('the line is closed');
  }

  async ask(bytes: Uint8Array | null, cause: string): Promise<ExchangeResult> {
    this.#check();
    if (!bytes) throw new Error('the sheet has no register for it');
    return ask(this.#bench, this.#station, bytes, cause);
  }

  /** Asks and takes nothing but a sure answer. */
  async need(bytes: Uint8Array | null, cause: string): Promise<ExchangeResult> {
    const result = await this.ask(bytes, cause);
    if (result.outcome === 'exception')
      throw new Error(`the drive refused it with exception ${result.said?.exception ?? ''}`);
    if (result.outcome !== 'answered') throw new Error('no sure answer came');
    return result;
  }

  async pause(ms: number): Promise<void> {
    const { yardSpeed } = this.#state.getState();
    await new Promise((resolve) => setTimeout(resolve, ms / yardSpeed));
    this.#check();
  }

  /** Waits until the drive answers again. */
  async untilItAnswers(index: SheetIndex, cause: string): Promise<void> {
    const bootMs = index.sheet.link?.bootMs ?? USUAL_BOOT_MS;
    const status = index.byRole.get('status-word');
    const read = status ? this.#places(index)?.read(this.#station, [status])[0] : undefined;
    await this.pause(bootMs);
    for (let waitedMs = bootMs; waitedMs < bootMs + PATIENCE_MS; waitedMs += ASK_EVERY_MS) {
      const { lines } = this.#state.getState();
      if (lines.get(this.#line)?.open && isCertain(await this.ask(read ?? null, cause))) return;
      await this.pause(ASK_EVERY_MS);
    }
    throw new Error(`nothing answered within ${(bootMs + PATIENCE_MS) / 1000} s`);
  }

  /** Every value of the sheet, as far as the drive gives them. */
  async readAll(index: SheetIndex, cause: string): Promise<ReadonlyMap<number, number>> {
    const words = new Map<number, number>();
    const places = this.#places(index);
    for (const read of places?.read(this.#station, index.parameters) ?? []) {
      const { outcome, reply } = await this.ask(read, cause);
      if (outcome !== 'answered' || !reply) continue;
      for (const [address, word] of places?.learned(read, reply) ?? []) words.set(address, word);
    }
    return words;
  }
}

/** Changes the drive's settings and then this end's, and proves the link; what failed is said with the way back. */
export async function changeBothEnds(
  bench: Bench,
  index: SheetIndex,
  change: LinkChange,
  to: SerialSettings,
): Promise<void> {
  const { lineId } = bench.state.getState();
  const worker = new Worker(bench, `Both ends to ${settingsText(to)}`, change.wayBack, change.breakMs);
  const cause = 'change of both ends';
  try {
    for (const { parameter, raw, why } of change.writes)
      await worker.step(`${parameter.number} ← ${raw}: ${why}`, async () => {
        await worker.need(worker.write(index, parameter, raw), cause);
      });
    await worker.step(`this end to ${settingsText(to)}`, () => {
      bench.setEnd(lineId, to);
      return Promise.resolve();
    });
    await worker.step('the drive starts, and answers under the new settings', () =>
      worker.untilItAnswers(index, cause),
    );
    worker.over();
  } catch {
    worker.failed();
  }
}

/** Restarts the drive at the user's wish: reads all before, waits, finds it again, reads all after, and says what that did. */
export async function restartDrive(bench: Bench, index: SheetIndex): Promise<void> {
  const worker = new Worker(bench, 'Restart of the drive');
  const cause = 'restart';
  const place = index.byRole.get('restart');
  const { entries, lineId } = bench.state.getState();
  const written = writtenSinceStart(entries, lineId, worker.station, index, placesOn(bench.state.getState()));
  try {
    const before = await worker.step('read all settings', () => worker.readAll(index, cause));
    await worker.step('the drive is asked to restart', async () => {
      await worker.need(place ? worker.write(index, place, 1) : null, cause);
    });
    await worker.step('it is gone, which is no fault; wait until it answers again', () =>
      worker.untilItAnswers(index, cause),
    );
    const after = await worker.step('read all settings again', () => worker.readAll(index, cause));
    worker.over(compareRestart(index, before, after, written));
  } catch {
    worker.failed();
  }
}
