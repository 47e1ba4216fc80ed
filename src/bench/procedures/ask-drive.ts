import type { Bench } from '../bench';
import { protocolOn } from '../hooks/line-protocol';
import type { DriveRef } from '../state/bench-state';
import type { PlaceLink } from '../../core/places/place-link';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { Cell } from '../../core/sheet/place';
import { learnedFrom } from '../../link/learned';
import type { SendOptions } from '../../link/line-owner';
import type { ExchangeResult } from '../../link/request';

/** A pause between two requests where others are on the line: they come to their turn. */
const POLITE_MS = 40;

/** A drive as its values are asked for, one exchange after the other. */
export interface Asking {
  readonly drive: DriveRef;
  readonly index: SheetIndex;
  readonly places: PlaceLink;
  readonly isShared: boolean;
  /** The reports of Stop as they were when it began. */
  readonly stopsBefore: ReturnType<Bench['state']['getState']>['stops'];
}

/** What one exchange came to. `ended`: Stop took it back, or the line is closed. */
export type Heard =
  | { readonly kind: 'told'; readonly told: ReadonlyMap<Cell, number> }
  | { readonly kind: 'refused'; readonly why: string; readonly all: boolean }
  | { readonly kind: 'silent' }
  | { readonly kind: 'ended'; readonly why: string };

/** The drive with a sheet, on a line that speaks a protocol; null where one of them is missing. */
export function askingOf(bench: Bench, drive: DriveRef, index: SheetIndex): Asking | null {
  const state = bench.state.getState();
  const places = protocolOn(state, drive.line)?.placesOf(index) ?? null;
  const line = state.job?.lines.find(({ id }) => id === drive.line);
  return places && line ? { drive, index, places, isShared: line.stations.length > 1, stopsBefore: state.stops } : null;
}

/** Waits for the result of a request, however many others come meanwhile. */
const resultOf = (bench: Bench, ticket: number): Promise<ExchangeResult> =>
  new Promise((resolve) => {
    const look = (): boolean => {
      const result = bench.state.getState().results.get(ticket);
      if (result) resolve(result);
      return result !== undefined;
    };
    if (look()) return;
    const leave = bench.state.subscribe(() => {
      if (look()) leave();
    });
  });

/** Modbus: the drive does not know the function at all (Modbus Application Protocol V1.1b3, section 7). */
const ILLEGAL_FUNCTION = 1;

function heardOf(bench: Bench, { drive, places }: Asking, result: ExchangeResult): Heard {
  const { outcome, request, reply } = result;
  if (outcome === 'abandoned') return { kind: 'ended', why: 'Stop ended it' };
  if (outcome === 'closed') return { kind: 'ended', why: 'the line is closed' };
  const protocol = protocolOn(bench.state.getState(), drive.line);
  const pairing = reply && protocol?.pair(request.bytes, reply);
  if (pairing?.kind === 'exception')
    return {
      kind: 'refused',
      why: protocol?.refusal(pairing.code).text ?? `exception ${pairing.code}`,
      all: protocol?.family === 'modbus' && pairing.code === ILLEGAL_FUNCTION,
    };
  if (outcome !== 'answered') return { kind: 'silent' };
  return { kind: 'told', told: new Map(learnedFrom(result, places)) };
}

/** Whether Stop was pressed for a line since `before`: it ends what runs there, also between two requests. */
const wasStopped = (bench: Bench, { drive, stopsBefore }: Asking): boolean => {
  const { stops } = bench.state.getState();
  return stops !== stopsBefore && stops.some(({ line }) => line === drive.line);
};

/** Sends one request and says what came of it; where others are on the line, they come to their turn after it. */
export async function ask(
  bench: Bench,
  asking: Asking,
  bytes: Uint8Array,
  cause: string,
  options?: SendOptions,
): Promise<Heard> {
  const line = bench.state.getState().lines.get(asking.drive.line);
  if (line?.open !== true) return { kind: 'ended', why: 'the line is closed' };
  if (wasStopped(bench, asking)) return { kind: 'ended', why: 'Stop ended it' };
  const ticket = bench.send(asking.drive, bytes, cause, options);
  const heard = heardOf(bench, asking, await resultOf(bench, ticket));
  if (asking.isShared) await new Promise((resolve) => setTimeout(resolve, POLITE_MS));
  return heard;
}
