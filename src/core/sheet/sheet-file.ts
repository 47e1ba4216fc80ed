import { hexNumber } from '../bytes/hex';
import type { Sheet } from './sheet';

/** A sheet as a file holds it: hex words as text, since JSON has no hex numbers. `loadSheet` reads it back. */
export function sheetFile(sheet: Sheet): unknown {
  const { commands } = sheet;
  if (!commands) return sheet;
  return {
    ...sheet,
    commands: {
      ...commands,
      words: commands.words.map((command) => ({ ...command, word: hexNumber(command.word) })),
      stop: { ...commands.stop, words: commands.stop.words.map((word) => hexNumber(word)) },
    },
  };
}
