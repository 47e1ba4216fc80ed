/** Numbers in [0, 1) from a seed: the same seed gives the same bytes on every machine. */
export type Random = () => number;

/** A small generator of 32 bits of state (a multiply-shift mix, public domain); good for simulations, not for secrets. */
export function seededRandom(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mix = Math.imul(state ^ (state >>> 15), state | 1);
    mix ^= mix + Math.imul(mix ^ (mix >>> 7), mix | 61);
    return ((mix ^ (mix >>> 14)) >>> 0) / 4294967296;
  };
}

/** A whole number from 0 up to, not including, `below`. */
export const pick = (random: Random, below: number): number => Math.floor(random() * below);
