import type { Bench } from '../../bench/bench';
import { stationKey, viewOf, type DriveRef } from '../../bench/state/bench-state';
import { liveOf, turningOf } from '../../bench/state/known-state';
import { newId } from '../../bench/new-id';
import type { SheetIndex } from '../../core/sheet/index-sheet';
import type { Cell } from '../../core/sheet/place';
import { patternIn } from '../../core/drive/seen';
import { changesCommand, whyItMayStart, type Plan } from '../../core/sets/plan';
import { type SaidOf } from '../../core/sets/said';
import {
  afterAct,
  beforeWrite,
  nextAct,
  SILENCES_TO_PAUSE,
  writingAgain,
  type WriteAct,
  type SetWriting,
  type WriteItem,
  type WriteReply,
} from '../../core/sets/set-writing';
import { writeOrder } from '../../core/sets/write-order';
import type { WritingRow } from '../../store/database';
import { changePlan, putSet, putWriting, registersStore } from '../../bench/registers/registers-store';
import { runAt, type Work } from '../../bench/registers/run-at';
import { ask, type Asking, type Heard } from '../../bench/procedures/ask-drive';
import { nowId } from '../../bench/registers/run-reading';

/** Writes a plan to a drive, value by value, each read back before the next; why it ended before its end, empty where it did not. */
export function writePlan(
  bench: Bench,
  drive: DriveRef,
  name: string,
  index: SheetIndex,
  plan: Plan,
  known: SaidOf,
  memory: WritingRow['memory'] = undefined,
): Promise<string> {
  const job = bench.state.getState().job?.id ?? '';
  return run(bench, drive, index, {
    id: newId(),
    job,
    line: drive.line,
    station: drive.station,
    name,
    sheet: { slug: index.sheet.slug, revision: index.sheet.revision },
    startedMs: Date.now(),
    ...(memory ? { memory } : {}),
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

/** Goes on with a writing that was broken off, as it was kept last, by whichever tab; what was refused or not reached is tried again. */
export const goOnWriting = (bench: Bench, drive: DriveRef, index: SheetIndex, row: WritingRow): Promise<string> =>
  run(bench, drive, index, row, true);

function requestOf(
  { index, places, drive }: Asking,
  { kind, item }: WriteAct,
  memory: WritingRow['memory'],
): Uint8Array | null {
  const parameter = index.byNumber.get(item.number);
  if (!parameter) return null;
  if (kind === 'read') return places.read(drive.station, [parameter])[0] ?? null;
  if (memory === 'kept') return places.writeKept?.(drive.station, parameter, item.words) ?? null;
  return places.writeWords(drive.station, parameter, item.words, () => undefined);
}

/** What stands against a write at this moment, whoever began it and when; empty where nothing does. The line may end it. */
type Against =
  | { readonly kind: 'nothing' }
  | { readonly kind: 'held-back'; readonly why: string }
  | Extract<Heard, { kind: 'ended' }>;

/**
 * Looked at before each write leaves, since a plan may wait, be broken off or go to another drive: a shaft that turns, and a drive that would start
 * by itself. The control word is read for it: what was seen a while ago may be another now.
 */
async function against(bench: Bench, asking: Asking, { number }: WriteItem): Promise<Against> {
  const { index, places, drive } = asking;
  const parameter = index.byNumber.get(number);
  const state = bench.state.getState();
  const isTurning = turningOf(index, viewOf(state, drive.line, drive.station), state.nowUs) === true;
  if (parameter?.write === 'standstill' && isTurning)
    return { kind: 'held-back', why: 'it is taken at standstill only, and the shaft turns' };
  const control = index.byRole.get('control-word');
  if (!parameter || !changesCommand(parameter) || !control) return { kind: 'nothing' };
  const request = places.read(drive.station, [control])[0];
  const heard = request ? await ask(bench, asking, request, 'Registers, before it is written') : null;
  if (heard?.kind === 'ended') return heard;
  const told = heard?.kind === 'told' ? heard.told : new Map<Cell, number>();
  // What cannot be read, such as a word that only goes out, is known from what was sent.
  const word =
    patternIn(control, (cell) => told.get(cell)) ??
    liveOf(index, viewOf(bench.state.getState(), drive.line, drive.station), 'control-word')?.word;
  if (word === undefined)
    return {
      kind: 'held-back',
      why: 'whether the control word that it holds asks it to run is not known: send a stop word in Words first',
    };
  const why = whyItMayStart(index, word);
  return why === '' ? { kind: 'nothing' } : { kind: 'held-back', why };
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

function run(bench: Bench, drive: DriveRef, index: SheetIndex, begun: WritingRow, goesOn = false): Promise<string> {
  const work: Work = async (asking, isPaused) => {
    const base = goesOn ? ((await bench.sets.writing(begun.id)) ?? begun) : begun;
    let row = goesOn ? { ...base, writing: writingAgain(base.writing) } : base;
    // It is kept before each write leaves and after each answer: whenever the page ends, what is told of a value is true.
    const keep = (writing: SetWriting): Promise<void> => {
      row = { ...row, writing };
      putWriting(row);
      return bench.sets.keepWriting(row);
    };
    await keep(row.writing);
    let why = '';
    for (let act = nextAct(row.writing); act && why === '' && !isPaused(); act = nextAct(row.writing)) {
      const stands = act.kind === 'write' ? await against(bench, asking, act.item) : NOTHING;
      if (stands.kind === 'ended') {
        why = stands.why;
        break;
      }
      const bytes = requestOf(asking, act, row.memory);
      if (stands.kind === 'held-back' || !bytes) {
        const reply = stands.kind === 'held-back' ? stands : UNREACHED;
        await keep(afterAct(row.writing, act, reply));
        continue;
      }
      if (act.kind === 'write') await keep(beforeWrite(row.writing, act));
      const cause = act.kind === 'write' ? 'Registers, the plan' : 'Registers, read back';
      const heard = await ask(bench, asking, bytes, cause);
      if (heard.kind === 'ended') {
        why = heard.why;
        break;
      }
      const reply = replyOf(asking, act, heard);
      await keep(afterAct(row.writing, act, reply));
      if (reply.kind === 'value') await learn(bench, row, act, reply.words);
      if (row.writing.silences >= SILENCES_TO_PAUSE) why = 'paused, since it does not answer';
    }
    // What is proved is planned no more; one step back brings it back.
    changePlan(stationKey(drive.line, drive.station), (plan) => withoutProved(plan, row.writing));
    return why;
  };
  return runAt(bench, drive, index, { kind: 'write', id: begun.id, knownThen: 0 }, work);
}

const NOTHING: Against = { kind: 'nothing' };
const UNREACHED: WriteReply = { kind: 'refused', why: 'no request of this line carries it' };

/** One drive of a list that a plan goes to. */
export interface PlanTarget {
  readonly drive: DriveRef;
  readonly name: string;
  readonly index: SheetIndex;
  /** The plan as this drive's sheet has it. */
  readonly plan: Plan;
  /** What is known that it holds. */
  readonly known: SaidOf;
}

/** Writes plans to several drives one after another, each with a summary of its own; one that ends before its end ends the rest too. */
export async function writeToAll(
  bench: Bench,
  targets: readonly PlanTarget[],
  memory: WritingRow['memory'] = undefined,
): Promise<void> {
  for (const { drive, name, index, plan, known } of targets)
    if ((await writePlan(bench, drive, name, index, plan, known, memory)) !== '') return;
}

function withoutProved(plan: Plan, { items }: SetWriting): Plan {
  const proved = new Map(
    items.flatMap(({ number, words, result }) => (result.kind === 'equal' ? [[number, words.join()] as const] : [])),
  );
  const left = [...plan].filter(([number, { words }]) => proved.get(number) !== words.join());
  return left.length === plan.size ? plan : new Map(left);
}

/** What was read back is what the drive holds now. */
async function learn(
  bench: Bench,
  { job, line, station }: WritingRow,
  { item }: WriteAct,
  words: readonly number[],
): Promise<void> {
  const row = registersStore.getState().sets.get(nowId(job, stationKey(line, station)));
  if (!row) return;
  const said = new Map(row.reading.said).set(item.number, { kind: 'value', words, atMs: Date.now() });
  const learned = { ...row, reading: { ...row.reading, said } };
  putSet(learned);
  await bench.sets.keepSet(learned);
}
