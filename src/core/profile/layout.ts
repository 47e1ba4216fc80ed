import { targetsOf, type Profile, type ProfileState } from './profile';

/** Where a state stands on the map: its step (0 = where a drive rests) and its place among those of the same step. */
export interface StatePlace {
  readonly state: ProfileState;
  readonly column: number;
  /** Counted from the bottom; row 0 is the shelf of states that a drive gets into by itself. */
  readonly row: number;
}

export interface StateMap {
  readonly places: readonly StatePlace[];
  readonly columns: number;
  readonly rows: number;
  /** Ways between states, each pair once, whichever way round. */
  readonly ways: readonly (readonly [string, string])[];
}

/**
 * A map of states as terraces: the more words it takes from rest, the further right and the higher. States that nobody commands stand on a
 * shelf at the bottom, beside the state that they lead back to.
 */
export function mapOf(profile: Profile): StateMap {
  const { states, moves, own } = profile;
  const commanded = new Set(targetsOf(profile));
  const steps = stepsFromRest(profile);
  const ladder = states.filter(({ id }) => commanded.has(id));
  const shelf = states.filter(({ id }) => !commanded.has(id));
  const inColumn = new Map<number, number>();
  const places = ladder.map((state): StatePlace => {
    const column = steps.get(state.id) ?? 0;
    const above = inColumn.get(column) ?? 0;
    inColumn.set(column, above + 1);
    return { state, column, row: 1 + Math.ceil(column / 2) + above };
  });
  const onShelf = shelf.map((state, i): StatePlace => ({ state, column: i, row: 0 }));
  const all = [...places, ...onShelf];
  const pairs = [
    ...moves.flatMap(({ from, to }) => from.map((id) => [id, to] as const)),
    ...own.map(({ from, to }) => [from, to] as const),
  ];
  const seen = new Set<string>();
  return {
    places: all,
    columns: 1 + Math.max(...all.map(({ column }) => column)),
    rows: 1 + Math.max(...all.map(({ row }) => row)),
    ways: pairs.filter((pair) => {
      const key = [...pair].sort().join(' ');
      return pair[0] !== pair[1] && !seen.has(key) && seen.add(key);
    }),
  };
}

/** How many moves it takes from the first state that can be commanded, the way back not counted. */
function stepsFromRest(profile: Profile): ReadonlyMap<string, number> {
  const rest = profile.states.find(({ arises }) => arises !== true)?.id;
  const steps = new Map<string, number>(rest === undefined ? [] : [[rest, 0]]);
  const queue = rest === undefined ? [] : [rest];
  for (const at of queue)
    for (const { from, to, atOnce } of profile.moves) {
      if (!from.includes(at) || steps.has(to) || atOnce) continue;
      steps.set(to, (steps.get(at) ?? 0) + 1);
      queue.push(to);
    }
  return steps;
}
