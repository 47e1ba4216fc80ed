import { messageOf } from '../../core/message-of';
import type { Verdict } from '../../core/trial/report';
import { BadLine } from '../protocol';
import { runScript, type ScriptEvent } from './run-script';
import { readScript } from './script-line';
import { worldOf } from './world';

export const SCRIPT_HELP =
  'runs trials, one a line, on a drive over TCP or on the stand-in of a sheet, and tells what happens as JSON Lines; ends with 0: all passed, 1: one failed, 2: a line could not be understood, 3: one was not done, or its verdict is open';
export const SCRIPT_EXAMPLE = '{"trial":"loss-of-link","sheet":"tern","mayTurn":true}';

/** What a run of the program ends with, the worst of its lines. */
const EXIT: Readonly<Record<Verdict, number>> = { passed: 0, failed: 1, open: 3, 'under-way': 3, 'not-done': 3 };
const BAD_LINE = 2;

const idOf = (input: unknown): object =>
  typeof input === 'object' && input !== null && 'id' in input ? { id: input.id } : {};

/**
 * Runs the trial of one line, and tells it. What it gives is the exit status for this line: a failed one is worse than one that is open, a line that is
 * none worse than both.
 */
export async function scriptLine(
  line: string,
  write: (event: ScriptEvent) => void,
  isStopped: () => boolean,
): Promise<number> {
  let id: object = {};
  try {
    const input: unknown = JSON.parse(line);
    id = idOf(input);
    const script = readScript(input);
    const tell = (event: ScriptEvent): void => write({ ok: true, ...id, ...event });
    const end = isStopped()
      ? ({ verdict: 'not-done', why: 'Stop', shaft: 'stands' } as const)
      : await runScript(script, worldOf(script), tell, isStopped);
    tell({ event: 'over', ...end });
    return EXIT[end.verdict];
  } catch (error) {
    if (!(error instanceof BadLine) && !(error instanceof SyntaxError)) throw error;
    const code = error instanceof BadLine ? error.code : 'bad-json';
    write({ ok: false, ...id, error: { code, text: messageOf(error) } });
    return BAD_LINE;
  }
}

const WORSE: readonly number[] = [0, 3, 1, 2];

/** The worse of two exit statuses. */
export const worse = (a: number, b: number): number => (WORSE.indexOf(b) > WORSE.indexOf(a) ? b : a);
