import { LAWS } from '../fuzz/laws';
import { pick, seededRandom } from '../src/core/random/random';

/** A few of each here, so that every change meets them; ten million by `npm run fuzz`. */
const CASES = 400;

it.each(LAWS)('$name', ({ broken }) => {
  const seeds = seededRandom(20_261_127);
  for (let i = 0; i < CASES; i++) {
    const seed = pick(seeds, 2 ** 31);
    expect(`seed ${seed}: ${broken(seededRandom(seed))}`).toBe(`seed ${seed}: `);
  }
});
