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
