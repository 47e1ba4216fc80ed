import type { Dialect, DialectMessage } from '../dialect/dialect';
import { readDialect } from '../dialect/read';
import { encodeDialect } from '../dialect/write';
import type { PlacedParameter } from '../sheet/index-sheet';
import { numberOfPattern } from '../values/pattern';
import { cellOf, type Cell } from '../sheet/place';
import { oneNumber, SAYS_NO_MEMORY, type PlaceLink } from './place-link';

/** Places that are commands of a dialect. */
export function commandLink(dialect: Dialect): PlaceLink {
  const line = (message: DialectMessage): Uint8Array | null => {
    const built = encodeDialect(dialect, message, 'request');
    return built.ok ? built.value : null;
  };
  const commandAt = ({ place, others }: PlacedParameter): string | undefined =>
    [place, ...others].find((way) => way.kind === 'command')?.command;
  const cell = (command: string): Cell => cellOf({ kind: 'command', command });
  const write: PlaceLink['write'] = (station, place, word) => {
    const command = commandAt(place);
    return command === undefined
      ? null
      : line({ station, kind: 'write', command, values: [numberOfPattern(place.type, word)] });
  };
  return {
    write,
    writeWords: oneNumber(write),
    ...SAYS_NO_MEMORY,
    read: (station, places) =>
      places.flatMap((place) => {
        const command = commandAt(place);
        return (command !== undefined && line({ station, kind: 'read', command })) || [];
      }),
    writes: (request) => {
      const kind = readDialect(dialect, request, 'request').message?.kind;
      return kind !== undefined && kind !== 'read';
    },
    written: (request) => {
      const { kind, command, values } = readDialect(dialect, request, 'request').message ?? {};
      if (command === undefined || kind === undefined || kind === 'read') return [];
      // An act without a value is told as the number 1: it was done.
      const [value = 1] = values ?? [];
      return typeof value === 'number' ? [[cell(command), value >>> 0]] : [];
    },
    learned: (request, reply) => {
      const asked = readDialect(dialect, request, 'request').message;
      if (!asked?.command) return [];
      const said = readDialect(dialect, reply, 'response', { command: asked.command }).message;
      const confirmed = said?.kind === 'good' && (asked.kind === 'write' || asked.kind === 'keep') ? asked : null;
      const [value] = (said?.kind === 'value' ? said : confirmed)?.values ?? [];
      // Negative numbers are kept as the pattern of 32 bits that a scale reads.
      return typeof value === 'number' ? [[cell(asked.command), value >>> 0]] : [];
    },
    known: (told) => told,
  };
}
