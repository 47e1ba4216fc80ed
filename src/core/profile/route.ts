import { asksToRun, RUNNING, stateAfter, stateOf, targetsOf, turnsIn, type Profile } from './profile';

/** One word of a route, what it changes against the word before, and what the drive should show after it. */
export interface RouteStep {
  readonly word: number;
  /** Name of the command that this word is. */
  readonly name: string;
  /** Bits that rise and fall; with the word before unknown, all its ones and no falls. */
  readonly raises: readonly number[];
  readonly drops: readonly number[];
  /** States expected after it, by the names that the status word shows; several where the start left it open. */
  readonly expects: readonly string[];
  /** The same with the states that a profile looks at in two ways. */
  readonly states: readonly string[];
  /** The shaft may turn from this word on. */
  readonly turns: boolean;
}

export type Route =
  { readonly kind: 'steps'; readonly steps: readonly RouteStep[] } | { readonly kind: 'none'; readonly why: string };

interface Node {
  /** Every state that the drive may be in. */
  readonly states: readonly string[];
  readonly last: number | null;
  readonly parent: Node | null;
}

const bitsOf = (word: number): readonly number[] =>
  Array.from({ length: 32 }, (_, bit) => bit).filter((bit) => ((word >>> bit) & 1) === 1);

/** Bits of which only the rise counts: all that the search must remember of the word before. */
const edgesOf = ({ moves, runs }: Profile): number =>
  [...moves, ...(runs ? [runs] : [])].reduce(
    (mask, { rise }) => (rise === undefined ? mask : mask | (1 << rise)),
    0,
  ) >>> 0;

/**
 * The shortest list of words from any of `from` (the states that the status word allows) to `target`, a state or `running`. It works for every
 * one of those states; `last` is the word that the drive has now, null where nobody knows: a bit that must rise then first falls. Among words
 * that serve alike, the one with the smaller number is taken, which sets no bit that is not needed.
 */
export function routeTo(profile: Profile, from: readonly string[], last: number | null, target: string): Route {
  if (!targetsOf(profile).includes(target))
    return {
      kind: 'none',
      why: stateOf(profile, target)
        ? `nobody commands ${target}: a drive gets there by itself`
        : `${profile.name} has no state ${target}`,
    };
  const start: Node = { states: from.length > 0 ? from : profile.states.map(({ id }) => id), last, parent: null };
  const words = [...new Set(profile.commands.map(({ word }) => word))].sort((a, b) => a - b);
  const edges = edgesOf(profile);
  const seen = new Set<string>();
  const queue: Node[] = [start];
  for (let i = 0; i < queue.length; i++) {
    const node = queue[i] as Node;
    if (isThere(profile, node, target)) return { kind: 'steps', steps: stepsOf(profile, node) };
    for (const word of words) {
      if (!mayGive(profile, node, word)) continue;
      const states = [...new Set(node.states.map((state) => stateAfter(profile, state, node.last, word)))].sort();
      const key = `${states.join()} ${word & edges} ${isRun(profile, word)}`;
      if (seen.has(key)) continue;
      seen.add(key);
      queue.push({ states, last: word, parent: node });
    }
  }
  return { kind: 'none', why: `no list of words leads there from ${start.states.join(' or ')}` };
}

const isRun = (profile: Profile, word: number): boolean => asksToRun(profile, word);

/** With the word before unknown every bit that is set may be rising. */
function mayGive({ only }: Profile, { states, last }: Node, word: number): boolean {
  const raised = word & ~(last ?? 0);
  return only.every(
    ({ mask, states: allowed }) => (raised & mask) === 0 || states.every((state) => allowed.includes(state)),
  );
}

/** Where a bit must rise to set the shaft in motion, the word before had it low; a word that is held from before does nothing more. */
const hasRisen = ({ runs }: Profile, { parent }: Node): boolean =>
  runs?.rise === undefined || (parent !== null && parent.last !== null && ((parent.last >>> runs.rise) & 1) === 0);

function isThere(profile: Profile, node: Node, target: string): boolean {
  const { states, last } = node;
  const { runs } = profile;
  if (target !== RUNNING || !runs || stateOf(profile, RUNNING)) return states.every((state) => state === target);
  return (
    last !== null &&
    states.every((state) => state === runs.state) &&
    asksToRun(profile, last) &&
    hasRisen(profile, node)
  );
}

function stepsOf(profile: Profile, end: Node): readonly RouteStep[] {
  const steps: RouteStep[] = [];
  for (let node = end; node.parent !== null && node.last !== null; node = node.parent) {
    const { last: word, states, parent } = node;
    const before = parent.last ?? 0;
    steps.unshift({
      word,
      name: profile.commands.find((command) => command.word === word)?.name ?? '',
      raises: bitsOf(word & ~before),
      drops: bitsOf(before & ~word),
      expects: [...new Set(states.map((state) => stateOf(profile, state)?.shown ?? state))],
      states,
      turns: states.some((state) => turnsIn(profile, state, word)),
    });
  }
  return steps;
}
