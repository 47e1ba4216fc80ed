import type { IFunctionIdentifier, Terminal } from '@xterm/xterm';

/** Questions to which a terminal answers by itself (ECMA-48 and the control sequences of DEC terminals): status, place, kind, colours, modes, sizes. */
const QUESTIONS: readonly IFunctionIdentifier[] = [
  { final: 'n' },
  { prefix: '?', final: 'n' },
  { final: 'c' },
  { prefix: '>', final: 'c' },
  { prefix: '=', final: 'c' },
  { prefix: '>', final: 'q' },
  { final: 't' },
  { intermediates: '$', final: 'p' },
  { prefix: '?', intermediates: '$', final: 'p' },
  { final: 'x' },
];
/** Colours that can be asked for. */
const COLOUR_QUESTIONS = [4, 5, 10, 11, 12, 13, 14, 17, 19] as const;
/** Modes in which the terminal reports what the mouse does, and whether it has the focus. */
const REPORTING = new Set([9, 1000, 1001, 1002, 1003, 1004, 1005, 1006, 1015, 1016]);

/**
 * Only keys and pastes may send: what the device asks the terminal, and what an old listing asks when it is shown again, is not answered, and
 * reports of mouse and focus stay off. A byte that nobody typed could be a command to a drive.
 */
export function muteTerminal({ parser }: Pick<Terminal, 'parser'>): void {
  for (const question of QUESTIONS) parser.registerCsiHandler(question, () => true);
  for (const colour of COLOUR_QUESTIONS) parser.registerOscHandler(colour, (data) => data.includes('?'));
  parser.registerDcsHandler({ intermediates: '$', final: 'q' }, () => true);
  parser.registerDcsHandler({ intermediates: '+', final: 'q' }, () => true);
  parser.registerCsiHandler({ prefix: '?', final: 'h' }, (params) => params.flat().some((mode) => REPORTING.has(mode)));
}
