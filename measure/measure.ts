/** One measured way of doing the same work; `work` returns something that proves it was done. */
export interface Contender {
  readonly name: string;
  readonly work: () => number;
}

export interface Timing {
  readonly name: string;
  /** Best of all rounds, in milliseconds: other work on the machine only ever makes it slower. */
  readonly bestMs: number;
}

const ROUNDS = 7;

/** Runs the contenders in turn, round by round, so that a slow moment of the machine meets them all. */
export function race(contenders: readonly Contender[]): readonly Timing[] {
  const best = contenders.map(() => Infinity);
  const proofs = contenders.map(({ work }) => work());
  if (new Set(proofs).size !== 1)
    throw new Error(
      `the contenders do not agree: ${contenders.map(({ name }, i) => `${name} ${proofs[i]}`).join(', ')}`,
    );
  for (let round = 0; round < ROUNDS; round++)
    contenders.forEach(({ work }, i) => {
      const start = performance.now();
      work();
      best[i] = Math.min(best[i] ?? Infinity, performance.now() - start);
    });
  return contenders.map(({ name }, i) => ({ name, bestMs: best[i] ?? Infinity }));
}

const PAIRS = 60;

/**
 * What `work` costs in terms of `base`: both in short turns, one beside the other, and the middle one of all ratios. For work that is so short
 * that a slow moment of the machine would meet only one of the two.
 */
export function ratioOf(work: () => number, base: () => number): number {
  const timeOf = (turn: () => number): number => {
    const start = performance.now();
    turn();
    return performance.now() - start;
  };
  for (let i = 0; i < PAIRS; i++) timeOf(work);
  const ratios = Array.from({ length: PAIRS }, () => {
    const before = timeOf(base);
    const own = timeOf(work);
    return own / ((before + timeOf(base)) / 2);
  });
  return ratios.sort((a, b) => a - b)[PAIRS / 2] ?? NaN;
}

export interface Claim {
  readonly text: string;
  readonly value: number;
  readonly good: boolean;
}

const claims: Claim[] = [];

/** States a measured ratio against its limit and remembers whether it held. */
export function claim(
  text: string,
  value: number,
  limit: { readonly atLeast: number } | { readonly atMost: number },
): void {
  const good = 'atLeast' in limit ? value >= limit.atLeast : value <= limit.atMost;
  const bound = 'atLeast' in limit ? `at least ${limit.atLeast}` : `at most ${limit.atMost}`;
  claims.push({ text, value, good });
  process.stdout.write(`${good ? 'good' : 'MISSED'}  ${text}: ${value.toFixed(3)} (${bound})\n`);
}

export const missed = (): readonly Claim[] => claims.filter(({ good }) => !good);

export const note = (text: string): void => {
  process.stdout.write(`      ${text}\n`);
};
