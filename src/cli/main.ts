import { createInterface } from 'node:readline';
import { scriptLine, worse } from './script/script-verb';
import { answer, helpText, VERBS } from './verbs';

/** Output is handed over in pieces of this many characters. */
const PIECE = 65_536;

const lines = () => createInterface({ input: process.stdin, crlfDelay: Infinity });

const [name = '--help'] = process.argv.slice(2);
const verb = VERBS[name];
if (verb) await pipe((line) => answer(verb, line));
else if (name === 'script') await scripts();
else if (name === '--help' || name === '-h') process.stdout.write(helpText());
else {
  process.stderr.write(`there is no verb ${name}\n\n${helpText()}`);
  process.exitCode = 2;
}

async function pipe(each: (line: string) => string): Promise<void> {
  let out = '';
  for await (const line of lines()) {
    out += `${each(line)}\n`;
    if (out.length < PIECE) continue;
    process.stdout.write(out);
    out = '';
  }
  process.stdout.write(out);
}

/** One trial after the other; an interrupt stops the shaft, ends all of them, and what became of it is told. */
async function scripts(): Promise<void> {
  let isStopped = false;
  const input = lines();
  for (const signal of ['SIGINT', 'SIGTERM'] as const)
    process.on(signal, () => {
      isStopped = true;
      // Lines that may still come are not waited for.
      input.close();
    });
  let status = 0;
  for await (const line of input) {
    if (line.trim() === '') continue;
    const own = await scriptLine(
      line,
      (event) => process.stdout.write(`${JSON.stringify(event)}\n`),
      () => isStopped,
    );
    status = worse(status, own);
  }
  process.exitCode = status;
  if (isStopped) process.stdin.destroy();
}
