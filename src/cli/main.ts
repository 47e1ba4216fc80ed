import { createInterface } from 'node:readline';
import { answer, helpText, VERBS } from './verbs';

/** Output is handed over in pieces of this many characters. */
const PIECE = 65_536;

const [name = '--help'] = process.argv.slice(2);
const verb = VERBS[name];
if (verb) await pipe((line) => answer(verb, line));
else if (name === '--help' || name === '-h') process.stdout.write(helpText());
else {
  process.stderr.write(`there is no verb ${name}\n\n${helpText()}`);
  process.exitCode = 2;
}

async function pipe(each: (line: string) => string): Promise<void> {
  let out = '';
  for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity })) {
    out += `${each(line)}\n`;
    if (out.length < PIECE) continue;
    process.stdout.write(out);
    out = '';
  }
  process.stdout.write(out);
}
