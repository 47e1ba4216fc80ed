import { onceFor } from '../once-for';
import type { Job, JobLine, JobStation } from '../job/job';
import type { RunState } from '../procedure/run-state';
import type { LineProtocol } from '../protocol/line-protocol';
import { meaningOf } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import type { Cell } from '../sheet/place';
import { patternIn, type SeenWord } from '../drive/seen';
import type { SaidOf } from '../sets/said';
import type { WriteItem } from '../sets/set-writing';
import type { CompiledTrial } from '../trial/compile';
import type { SeenLine } from '../trial/seen-line';
import type { AxisStart } from '../trial/expect-position';
import type { Source } from './document';
import type { Photo } from './photo';
import type { Visit } from './visit';
import type { DriveFacts, Seen } from './trace-facts';

/** Values of a drive as they were read, by the sheet of then. */
export interface KeptSet {
  readonly id: string;
  readonly name: string;
  readonly startedMs: number;
  readonly index: SheetIndex;
  readonly said: SaidOf;
}

export interface KeptWriting {
  readonly id: string;
  readonly startedMs: number;
  readonly items: readonly WriteItem[];
}

export interface KeptRun {
  readonly id: string;
  readonly startedMs: number;
  readonly index: SheetIndex;
  readonly compiled: CompiledTrial;
  readonly run: RunState | null;
  readonly rampS: number | null;
  readonly axis: AxisStart | null;
  readonly samples: SeenLine;
  readonly remark: string;
}

/** A station with all that is known of its drive. */
export interface HandoverDrive {
  readonly line: JobLine;
  readonly station: JobStation;
  readonly index: SheetIndex | null;
  readonly protocol: LineProtocol | null;
  readonly facts: DriveFacts;
  /** The last reading of its values; null where there was none. */
  readonly now: KeptSet | null;
  /** Readings of other visits, the oldest first. */
  readonly visits: readonly KeptSet[];
  readonly writings: readonly KeptWriting[];
  readonly runs: readonly KeptRun[];
}

/** All that a record is made of. */
export interface HandoverInput {
  readonly job: Job;
  readonly drives: readonly HandoverDrive[];
  readonly photos: readonly Photo[];
  readonly visit: Visit;
  readonly madeMs: number;
  /** Minutes from the computer's time to UTC, as `Date.getTimezoneOffset` has them. */
  readonly zoneMinutes: number;
}

/** `2026-11-20 09:14:03` in the computer's zone. */
export const timeText = (atMs: number, zoneMinutes: number): string =>
  new Date(Math.round(atMs) - zoneMinutes * 60_000).toISOString().slice(0, 19).replace('T', ' ');

/** A drive as the record names it. */
export const driveName = ({ line, station }: Pick<HandoverDrive, 'line' | 'station'>): string =>
  `${line.name}, ${station.station} · ${station.name}`;

/** A drive in keys of rows: the same at every visit, whatever it is called. */
export const driveKey = ({ line, station }: Pick<HandoverDrive, 'line' | 'station'>): string =>
  `${line.id} ${station.id}`;

/** The source of what an exchange told. */
export const fromExchange = ({ session, line, sequence, exchange }: Seen): Source => ({
  of: 'exchange',
  session,
  line,
  sequence,
  exchange,
});

/** The source of what the job holds. */
export const JOB: Source = { of: 'job' };

/** The source of what only the sheet says. */
export const fromSheet = ({ sheet: { slug, revision } }: SheetIndex): Source => ({ of: 'sheet', slug, revision });

/** What a drive holds, as far as anybody saw it: a pattern, where that was seen, and when (null: not said). */
export interface KnownValue {
  readonly pattern: number;
  readonly from: Source;
  readonly atMs: number | null;
}

/** What each cell of a drive holds: as an exchange showed it, or as it was read into the set, whichever is newer. */
const knownCells = onceFor(({ facts, now }: HandoverDrive): ReadonlyMap<Cell, KnownValue> => {
  const cells = new Map<Cell, KnownValue>();
  for (const [number, said] of now?.said ?? []) {
    const own = now?.index.byNumber.get(number);
    if (said.kind !== 'value' || !now || own?.cells.length !== said.words.length) continue;
    own.cells.forEach((cell, i) =>
      cells.set(cell, { pattern: said.words[i] ?? 0, from: { of: 'set', id: now.id }, atMs: said.atMs }),
    );
  }
  for (const [cell, seen] of facts.words)
    if (seen.atMs >= (cells.get(cell)?.atMs ?? -Infinity))
      cells.set(cell, { pattern: seen.word, from: fromExchange(seen), atMs: seen.atMs });
  return cells;
});

/** What a drive holds in one place; as old as its oldest part. */
export function knownValue(drive: HandoverDrive, parameter: PlacedParameter): KnownValue | null {
  const cells = knownCells(drive);
  const pattern = patternIn(parameter, (cell) => cells.get(cell)?.pattern);
  const parts = parameter.cells.flatMap((cell) => cells.get(cell) ?? []);
  const [oldest] = [...parts].sort((a, b) => (a.atMs ?? 0) - (b.atMs ?? 0));
  return pattern === undefined || !oldest ? null : { ...oldest, pattern };
}

/** The cells of a drive in the form in which sheets look at them. */
export const seenOf =
  (drive: HandoverDrive) =>
  (cell: Cell): SeenWord | undefined => {
    const known = knownCells(drive).get(cell);
    return known && { word: known.pattern, atUs: (known.atMs ?? 0) * 1000 };
  };

/** What is known of a role at a drive; null where the sheet has none or nobody said anything. */
export function knownOfRole(drive: HandoverDrive, role: ParameterRole): KnownValue | null {
  const parameter = drive.index?.byRole.get(role);
  return parameter ? knownValue(drive, parameter) : null;
}

/** The same in words; secrets stay out. */
export const valueText = (index: SheetIndex, parameter: PlacedParameter, pattern: number): string =>
  parameter.secret === true ? '••••' : meaningOf(index, parameter, pattern);
