import type { Bench } from '../../bench/bench';
import { stationKey, type DriveRef } from '../../bench/state/bench-state';
import { uuidV7 } from '../../core/id';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import { messageOf } from '../../core/message-of';
import type { Plan } from '../../core/sets/plan';
import { patternOfSaid, type SaidOf } from '../../core/sets/said';
import {
  afterAct,
  beforeWrite,
  nextAct,
  SILENCES_TO_PAUSE,
  writingAgain,
  type WriteAct,
  type SetWriting,
  type WriteReply,
} from '../../core/sets/set-writing';
import { writeOrder } from '../../core/sets/write-order';
import type { WritingRow } from '../../store/database';
import { changePlan, putSet, putWriting, registersStore, setRunning } from './registers-store';
import { ask, askingOf, type Asking, type Heard } from './run-line';
import { nowId } from './run-reading';

/** Writes a plan to a drive, value by value, each read back before the next; why it ended before its end, empty where it did not. */
export function writePlan(
  bench: Bench,
  drive: DriveRef,
  name: string,
  index: SheetIndex,
  plan: Plan,
  known: SaidOf,
): Promise<string> {
  const job = bench.state.getState().job?.id ?? '';
  return run(bench, drive, index, {
    id: uuidV7(Date.now(), crypto.getRandomValues(new Uint8Array(10))),
    job,
    line: drive.line,
    station: drive.station,
    name,
    sheet: { slug: index.sheet.slug, revision: index.sheet.revision },
    startedMs: Date.now(),
    writing: {
      silences: 0,
      items: writeOrder(index, plan, known).flatMap(({ number, phase }) => {
        const [planned, parameter] = [plan.get(number), index.byNumber.get(number)];
        return planned && parameter
          ? [
              {
                number,
                name: parameter.name,
                phase,
                words: planned.words,
                reason: planned.reason,
                result: { kind: 'waiting' as const },
                writes: 0,
                silences: 0,
              },
            ]
          : [];
      }),
    },
  });
}

/** Goes on with a writing that was broken off; what was refused or not reached is tried again. */
export const goOnWriting = (bench: Bench, drive: DriveRef, index: SheetIndex, row: WritingRow): void =>
  void run(bench, drive, index, { ...row, writing: writingAgain(row.writing) });

function requestOf({ index, places, drive }: Asking, { kind, item }: WriteAct): Uint8Array | null {
  const parameter = index.byNumber.get(item.number);
  if (!parameter) return null;
  if (kind === 'read') return places.read(drive.station, [parameter])[0] ?? null;
  const pattern = patternOfSaid(parameter, item.words);
  return pattern === null ? null : places.write(drive.station, parameter, pattern, () => undefined);
}

/** What an exchange says to a writing; null where it ended. */
function replyOf({ index }: Asking, { kind, item }: WriteAct, heard: Exclude<Heard, { kind: 'ended' }>): WriteReply {
  if (heard.kind !== 'told') return heard;
  if (kind === 'write') return { kind: 'confirmed' };
  const words = index.byNumber.get(item.number)?.cells.map((cell) => heard.told.get(cell)) ?? [];
  return words.length > 0 && words.every((word) => word !== undefined)
    ? { kind: 'value', words }
    : { kind: 'refused', why: 'its answer does not hold the value' };
}

async function run(bench: Bench, drive: DriveRef, index: SheetIndex, begun: WritingRow): Promise<string> {
  const key = stationKey(drive.line, drive.station);
  const asking = askingOf(bench, drive, index);
  if (!asking || registersStore.getState().running.has(key)) return 'something else is under way';
  setRunning(key, { kind: 'write', id: begun.id, sinceUs: bench.state.getState().nowUs, knownThen: 0 });
  const mine = registersStore.getState().running.get(key);
  const isMine = (): boolean => registersStore.getState().running.get(key) === mine;
  let row = begun;
  let why = '';
  // It is kept before each write leaves and after each answer: whenever the page ends, what is told of a value is true.
  const keep = async (): Promise<void> => {
    putWriting(row);
    await bench.sets.keepWriting(row);
  };
  try {
    await keep();
    for (let act = nextAct(row.writing); act && isMine(); act = nextAct(row.writing)) {
      const bytes = requestOf(asking, act);
      if (!bytes) {
        row = {
          ...row,
          writing: afterAct(row.writing, act, { kind: 'refused', why: 'no request of this line carries it' }),
        };
        continue;
      }
      if (act.kind === 'write') {
        row = { ...row, writing: beforeWrite(row.writing, act) };
        await keep();
      }
      const heard = await ask(
        bench,
        asking,
        bytes,
        act.kind === 'write' ? 'Registers, the plan' : 'Registers, read back',
      );
      if (heard.kind === 'ended') {
        why = heard.why;
        break;
      }
      const reply = replyOf(asking, act, heard);
      row = { ...row, writing: afterAct(row.writing, act, reply) };
      if (reply.kind === 'value') learn(row, act, reply.words);
      await keep();
      if (row.writing.silences >= SILENCES_TO_PAUSE) {
        why = 'paused, since it does not answer';
        break;
      }
    }
  } catch (error) {
    why = `broken off, since it could not be kept: ${messageOf(error)}`;
  }
  // What is proved is planned no more; one step back brings it back.
  changePlan(key, (plan) => withoutProved(plan, row.writing));
  if (!isMine()) return 'paused';
  setRunning(key, null, why);
  return why;
}

/** One drive of a list that a plan goes to. */
export interface PlanTarget {
  readonly drive: DriveRef;
  readonly name: string;
  readonly index: SheetIndex;
  /** What is known that it holds. */
  readonly known: SaidOf;
}

/** Writes a plan to several drives one after another, each with a summary of its own; one that ends before its end ends the rest too. */
export async function writeToAll(bench: Bench, targets: readonly PlanTarget[], plan: Plan): Promise<void> {
  for (const { drive, name, index, known } of targets)
    if ((await writePlan(bench, drive, name, index, plan, known)) !== '') return;
}

function withoutProved(plan: Plan, { items }: SetWriting): Plan {
  const proved = new Map(
    items.flatMap(({ number, words, result }) => (result.kind === 'equal' ? [[number, words.join()] as const] : [])),
  );
  const left = [...plan].filter(([number, { words }]) => proved.get(number) !== words.join());
  return left.length === plan.size ? plan : new Map(left);
}

/** What was read back is what the drive holds now. */
function learn({ job, line, station }: WritingRow, { item }: WriteAct, words: readonly number[]): void {
  const row = registersStore.getState().sets.get(nowId(job, stationKey(line, station)));
  if (!row) return;
  const said = new Map(row.reading.said).set(item.number, { kind: 'value', words, atMs: Date.now() });
  putSet({ ...row, reading: { ...row.reading, said } });
}
