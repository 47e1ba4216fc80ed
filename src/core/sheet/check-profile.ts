import type { Sheet } from './sheet';
import { sheetFault as at, type SheetFault } from './sheet-fault';

type OwnPlan = Extract<NonNullable<Sheet['profile']>, { kind: 'own' }>;

/** What is wrong with a state table of a sheet's own: names that nothing has, levels that contradict, states that nothing leads to. */
export function checkProfile({ profile, words }: Sheet): readonly SheetFault[] {
  if (profile?.kind !== 'own') return [];
  if (!words) return [at('profile', 'states are listed, but the words that show and command them are not described')];
  const ids = new Set(profile.states.map(({ id }) => id));
  const missing = (path: string, id: string): readonly SheetFault[] =>
    ids.has(id) ? [] : [at(path, `there is no state ${id}`)];
  return [
    ...profile.states.flatMap(({ id, ...levels }, i) => [
      ...(profile.states.findIndex((other) => other.id === id) < i
        ? [at(`profile.states[${i}].id`, `two states are called ${id}`)]
        : []),
      ...levelFaults(`profile.states[${i}]`, levels, words.status.width),
    ]),
    ...profile.moves.flatMap(({ from, to, rise, ...levels }, i) => [
      ...from.flatMap((id) => missing(`profile.moves[${i}].from`, id)),
      ...missing(`profile.moves[${i}].to`, to),
      ...levelFaults(`profile.moves[${i}]`, levels, words.control.width),
      ...(rise !== undefined && rise >= words.control.width
        ? [at(`profile.moves[${i}].rise`, `bit ${rise} does not exist in a word of ${words.control.width} bits`)]
        : []),
    ]),
    ...profile.own.flatMap(({ from, to }, i) => [
      ...missing(`profile.own[${i}].from`, from),
      ...missing(`profile.own[${i}].to`, to),
    ]),
    ...unreachable(profile),
  ];
}

function levelFaults(
  path: string,
  { ones, zeros }: { readonly ones: readonly number[]; readonly zeros: readonly number[] },
  width: number,
): readonly SheetFault[] {
  return [
    ...ones.filter((bit) => zeros.includes(bit)).map((bit) => at(path, `bit ${bit} cannot be 1 and 0 at once`)),
    ...[...ones, ...zeros]
      .filter((bit) => bit >= width)
      .map((bit) => at(path, `bit ${bit} does not exist in a word of ${width} bits`)),
  ];
}

/** A state counts as reached when some way leads to it; the first one listed is where the drive begins. */
function unreachable({ states, moves, own }: OwnPlan): readonly SheetFault[] {
  const ways = [
    ...moves.flatMap(({ from, to }) => from.map((id) => [id, to] as const)),
    ...own.map(({ from, to }) => [from, to] as const),
  ];
  const reached = new Set(states.filter(({ arises }, i) => i === 0 || arises === true).map(({ id }) => id));
  for (let size = -1; size !== reached.size;) {
    size = reached.size;
    for (const [from, to] of ways) if (reached.has(from)) reached.add(to);
  }
  return states.flatMap(({ id }, i) =>
    reached.has(id) ? [] : [at(`profile.states[${i}]`, `no word and no way of the drive’s own leads to state ${id}`)],
  );
}
