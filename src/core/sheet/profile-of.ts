import type { Sheet } from './sheet';
import { asksToTurn } from '../words/sentence';
import type { ControlRole, WordSpec } from '../words/spec';
import { CIA402_MODE_NUMBER, cia402, type Cia402Mode } from '../profile/cia402';
import { asksToRun, type Pattern, type Profile } from '../profile/profile';
import { PROFIDRIVE } from '../profile/profidrive';

const maskOfBits = (bits: readonly number[]): number => bits.reduce((mask, bit) => mask | (1 << bit), 0) >>> 0;

/** Bits that must be 1 and bits that must be 0, as one comparison. */
const patternOf = ({
  ones,
  zeros,
}: {
  readonly ones: readonly number[];
  readonly zeros: readonly number[];
}): Pattern => ({
  mask: maskOfBits([...ones, ...zeros]),
  value: maskOfBits(ones),
});

/** The standard's word with the bits that the sheet describes anew; the sheet's width and groups count. */
function overlaid<Role extends string>(base: WordSpec<Role>, own: WordSpec<Role> | undefined): WordSpec<Role> {
  if (!own) return base;
  // A field of the sheet takes the place of the standard's bits that it covers.
  const covered = (own.fields ?? []).flatMap(({ from, width }) => Array.from({ length: width }, (_, i) => from + i));
  const described = new Set([...own.bits.map(({ bit }) => bit), ...covered]);
  const bits = [...base.bits.filter(({ bit }) => !described.has(bit)), ...own.bits].sort((a, b) => a.bit - b.bit);
  return { ...base, ...own, bits, exclusive: own.exclusive ?? base.exclusive };
}

/** A standard profile as this drive has it: single bits and more words by the sheet. */
function adapted(base: Profile, { words, commands }: Sheet): Profile {
  const known = new Set(base.commands.map(({ word }) => word));
  return {
    ...base,
    control: overlaid(base.control, words?.control),
    status: overlaid(base.status, words?.status),
    commands: [...base.commands, ...(commands?.words ?? []).filter(({ word }) => !known.has(word))],
  };
}

/** The state machine that a sheet names or lists, in one of its modes; null where it has none, or lists one without describing its words. */
export function profileOf(sheet: Sheet, mode?: Cia402Mode): Profile | null {
  const { profile: plan, words, commands } = sheet;
  if (!plan) return null;
  if (plan.kind === 'cia402') return adapted(cia402(mode ?? plan.modes[0] ?? 'velocity'), sheet);
  if (plan.kind === 'profidrive') return adapted(PROFIDRIVE, sheet);
  if (!words) return null;
  return {
    id: sheet.slug,
    name: `states of sheet ${sheet.name}`,
    control: words.control,
    status: words.status,
    states: plan.states.map(({ id, name, note = '', turns, arises, ...levels }) => ({
      id,
      name,
      note,
      turns,
      arises,
      ...patternOf(levels),
    })),
    commands: commands?.words ?? [],
    moves: plan.moves.map(({ from, to, name, rise, ...levels }) => ({ from, to, name, rise, ...patternOf(levels) })),
    own: plan.own,
    follows: plan.follows,
    only: [],
    runs: null,
    alike: '',
  };
}

/** Whether a control word asks the shaft to turn, by the profile where it knows, else by the roles of the bits. */
export const asksForMotion = (profile: Profile | null, control: WordSpec<ControlRole>, word: number): boolean =>
  profile?.runs ? asksToRun(profile, word) : asksToTurn(control, word);

/** The modes that a sheet's drive knows, by the number that the standard gives them. */
export function modesOf({ profile }: Sheet): readonly { readonly mode: Cia402Mode; readonly number: number }[] {
  return profile?.kind === 'cia402' ? profile.modes.map((mode) => ({ mode, number: CIA402_MODE_NUMBER[mode] })) : [];
}
