import { ADDRESS_VERBS } from './address-verbs';
import { CHECKSUM_VERB } from './checksum-verb';
import { FRAME_VERBS } from './frame-verbs';
import { IMAGE_VERB } from './image-verb';
import { MOVE_VERB } from './move-verb';
import { NUMBER_VERB } from './number-verb';
import { BadLine, type Verb } from './protocol';
import { LINE_VERBS } from './line-verbs';
import { SCALE_VERB } from './scale-verb';
import { SCRIPT_EXAMPLE, SCRIPT_HELP } from './script/script-verb';
import { STATE_VERBS } from './state-verbs';
import { DESCRIBE_VERB } from './describe-verb';
import { TABLE_VERB } from './table-verb';

/** All verbs by name; docs/headless.md has an example for each. */
export const VERBS: Readonly<Record<string, Verb>> = {
  ...FRAME_VERBS,
  number: NUMBER_VERB,
  checksum: CHECKSUM_VERB,
  scale: SCALE_VERB,
  ...STATE_VERBS,
  ...LINE_VERBS,
  ...ADDRESS_VERBS,
  table: TABLE_VERB,
  describe: DESCRIBE_VERB,
  move: MOVE_VERB,
  image: IMAGE_VERB,
};

const parse = (line: string): unknown => {
  try {
    return JSON.parse(line) as unknown;
  } catch {
    throw new BadLine('bad-json', 'this line is no JSON');
  }
};

const idOf = (input: unknown): object =>
  typeof input === 'object' && input !== null && 'id' in input ? { id: input.id } : {};

/** One input line to exactly one output line; never throws on input. */
export function answer(verb: Verb, line: string): string {
  let id: object = {};
  try {
    const input = parse(line);
    id = idOf(input);
    return JSON.stringify({ ok: true, ...id, ...verb.run(input) });
  } catch (error) {
    if (!(error instanceof BadLine)) throw error;
    return JSON.stringify({ ok: false, ...id, error: { code: error.code, text: error.message } });
  }
}

/** All verbs with what they take, a line of example each. */
export function helpText(): string {
  const all = { ...VERBS, script: { help: SCRIPT_HELP, example: SCRIPT_EXAMPLE } };
  const verbs = Object.entries(all).map(
    ([name, { help, example }]) => `  ${name}\n      ${help}\n      in: ${example}`,
  );
  return `usage: npm run -s bujo -- VERB < lines.jsonl\n\nReads JSON Lines and writes one JSON line for each, in order; script writes many. Verbs:\n\n${verbs.join('\n')}\n`;
}
