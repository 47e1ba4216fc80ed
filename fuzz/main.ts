import { pick, seededRandom } from '../src/core/random/random';
import { LAWS } from './laws';

/** `COUNT [SEED]`: so many cases over all laws. A case is told by its seed and is made again by `1 SEED`. */
const count = Number(process.argv[2] ?? 10_000_000);
const first = Number(process.argv[3] ?? Date.now() % 2 ** 31);
const seeds = seededRandom(first);
/** A case that takes longer than this is a loop that does not end, or cost that is not linear. */
const LONGEST_MS = 250;

const say = (text: string): void => void process.stdout.write(`${text}\n`);
const slowest = LAWS.map(() => 0);
let failed = 0;
const began = performance.now();
say(`${count} cases of ${LAWS.length} laws, seed ${first}`);
for (let i = 0; i < count && failed < 20; i++) {
  const seed = count === 1 ? first : pick(seeds, 2 ** 31);
  for (const at of count === 1 ? LAWS.keys() : [i % LAWS.length]) {
    const law = LAWS[at];
    if (!law) continue;
    const from = performance.now();
    let broken: string;
    try {
      broken = law.broken(seededRandom(seed));
    } catch (error) {
      broken = `it threw: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}`;
    }
    const ms = performance.now() - from;
    slowest[at] = Math.max(slowest[at] ?? 0, ms);
    if (ms > LONGEST_MS) broken ||= `it took ${ms.toFixed(0)} ms`;
    if (broken === '') continue;
    failed++;
    say(`✗ seed ${seed}, ${law.name}: ${broken}`);
  }
  if (i > 0 && i % 1_000_000 === 0)
    say(`  ${i / 1_000_000} million, ${((performance.now() - began) / 1000).toFixed(0)} s`);
}
LAWS.forEach((law, i) => say(`${(slowest[i] ?? 0).toFixed(1).padStart(7)} ms at most  ${law.name}`));
say(failed === 0 ? '✓ all laws held' : `✗ ${failed} cases broke a law`);
if (failed > 0) process.exitCode = 1;
