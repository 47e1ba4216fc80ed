import { compare } from '../scaling/rational';
import { valueIn } from '../drive/describe';
import type { PlacedParameter, SheetIndex } from '../sheet/index-sheet';
import type { ParameterRole } from '../sheet/parameter-section';
import { patternOfCells } from '../drive/seen';
import { knownOf, type SaidOf } from './said';
import type { Plan } from './plan';

/** In this order a plan is written; each phase says why it stands where it does. */
export const WRITE_PHASES = [
  { id: 'locks', text: 'locks first, so that the others are taken' },
  { id: 'resets', text: 'what resets others, before what it resets' },
  { id: 'widen', text: 'limits that widen, before the values within them' },
  { id: 'values', text: 'in the order of planning' },
  { id: 'narrow', text: 'limits that narrow, after the values within them' },
  { id: 'sources', text: 'who commands it, last but one' },
  { id: 'link', text: 'settings of the link last: they cut it' },
] as const;
export type WritePhase = (typeof WRITE_PHASES)[number]['id'];

const RANK: Readonly<Record<WritePhase, number>> = Object.fromEntries(
  WRITE_PHASES.map(({ id }, rank) => [id, rank]),
) as Record<WritePhase, number>;

const SOURCES: ReadonlySet<ParameterRole> = new Set(['command-source', 'reference-source']);
const LINK: ReadonlySet<ParameterRole> = new Set(['station', 'bit-rate', 'character-form']);
/** Limits by the side on which more room is. */
const LIMITS: Readonly<Partial<Record<ParameterRole, 'upper' | 'lower'>>> = {
  'maximum-speed': 'upper',
  'skip-to': 'lower',
  'minimum-speed': 'lower',
  'skip-from': 'upper',
};

export interface OrderedWrite {
  readonly number: string;
  readonly phase: WritePhase;
}

/** When each planned value is written, first to last. `drive` is what is known that it holds: it says whether a limit widens or narrows. */
export function writeOrder(index: SheetIndex, plan: Plan, drive: SaidOf): readonly OrderedWrite[] {
  const locks = new Set(index.parameters.flatMap(({ lockedBy }) => lockedBy?.parameter ?? []));
  return [...plan]
    .flatMap(([number, { words }], at) => {
      const parameter = index.byNumber.get(number);
      return parameter ? [{ number, at, phase: phaseOf(index, parameter, words, locks, drive) }] : [];
    })
    .sort((a, b) => RANK[a.phase] - RANK[b.phase] || a.at - b.at)
    .map(({ number, phase }) => ({ number, phase }));
}

function phaseOf(
  index: SheetIndex,
  parameter: PlacedParameter,
  words: readonly number[],
  locks: ReadonlySet<string>,
  drive: SaidOf,
): WritePhase {
  const { number, role, resets } = parameter;
  if (locks.has(number)) return 'locks';
  if (resets) return 'resets';
  if (role && SOURCES.has(role)) return 'sources';
  if (role && LINK.has(role)) return 'link';
  const side = role && LIMITS[role];
  if (!side) return 'values';
  const now = drive.get(number);
  const [wanted, held] = [
    valueOf(index, parameter, words, drive),
    now?.kind === 'value' ? valueOf(index, parameter, now.words, drive) : null,
  ];
  // What is not known is taken for narrower: then the values within it were taken before.
  if (!wanted || !held) return 'narrow';
  const more = compare(wanted, held);
  return more === 0 || more > 0 === (side === 'upper') ? 'widen' : 'narrow';
}

const valueOf = (index: SheetIndex, parameter: PlacedParameter, words: readonly number[], drive: SaidOf) => {
  const word = patternOfCells(parameter, words);
  return word === null ? null : valueIn(index.sheet, parameter, word, knownOf(index, drive));
};

/** The parameters that a write sets back: they are read again after it. */
export const resetBy = ({ parameters }: SheetIndex, { number, resets }: PlacedParameter): readonly string[] =>
  resets === 'all' ? parameters.map((own) => own.number).filter((own) => own !== number) : (resets ?? []);
