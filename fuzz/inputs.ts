import { pick, type Random } from '../src/core/random/random';

/** What must hold of any input: `broken` looks at one made from random numbers and says what went wrong, empty where nothing did. */
export interface Law {
  readonly name: string;
  readonly broken: (random: Random) => string;
}

export const junk = (random: Random, most: number): Uint8Array =>
  Uint8Array.from({ length: pick(random, most + 1) }, () => pick(random, 256));

/** Junk, or a good thing with some of it cut, repeated or changed: what is nearly right goes deeper than noise. */
export function spoiled(random: Random, good: Uint8Array): Uint8Array {
  const bytes = [...good];
  for (let i = pick(random, 3); i > 0; i--) {
    const at = pick(random, bytes.length + 1);
    const how = pick(random, 4);
    if (how === 0) bytes.splice(at, pick(random, 4));
    else if (how === 1) bytes.splice(at, 0, ...junk(random, 4));
    else if (how === 2) bytes.splice(at, 1, pick(random, 256));
    else bytes.splice(at, 0, ...bytes.slice(0, pick(random, 8)));
  }
  return Uint8Array.from(bytes.slice(0, 1200));
}

const ALPHABET = [
  ...'0123456789abcdefABCDEFxXhH$#%&\\"\'{}[]()<>:;,.-+=|_/ \t\n\r→←µ°',
  'TX: ',
  'RX ',
  '0x',
  '\\x',
  '16#',
  '40001',
  'bit 3 ',
];
export const text = (random: Random, most: number): string =>
  Array.from({ length: pick(random, most) }, () => ALPHABET[pick(random, ALPHABET.length)]).join('');
