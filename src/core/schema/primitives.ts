import * as v from 'valibot';

const LONGEST_TEXT = 400;

/** One line of words for people. */
export const Text = v.pipe(v.string(), v.minLength(1), v.maxLength(LONGEST_TEXT));
/** A name in machine form: `kiln-fan`. */
export const Slug = v.pipe(v.string(), v.regex(/^[a-z0-9]+(?:-[a-z0-9]+)*$/), v.maxLength(60));
export const Whole = v.pipe(v.number(), v.integer());
/** A schema of whole numbers from `min` to `max`. */
export const whole = (min: number, max: number) => v.pipe(v.number(), v.integer(), v.minValue(min), v.maxValue(max));
export const Register = whole(0, 0xffff);
/** A word as manuals print it, `0x047F`; JSON has no hex numbers. */
export const HexWord = v.pipe(
  v.string(),
  v.regex(/^0x[0-9A-Fa-f]{1,8}$/, 'expected a hex word such as 0x047F'),
  v.transform((text) => parseInt(text, 16)),
);
/** A decimal or fraction, kept as text so that it stays exact. */
export const Exact = v.pipe(
  v.string(),
  v.regex(/^-?\d+(?:\.\d+)?(?:\/\d+)?$/, 'expected a decimal or fraction such as 17.5 or 12287/4'),
  v.maxLength(40),
);
