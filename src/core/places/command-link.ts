import type { Dialect, DialectMessage } from '../dialect/dialect';
import { readDialect } from '../dialect/read';
import { encodeDialect } from '../dialect/write';
import { isCommand, PLACES } from '../sheet/places';
import type { PlaceLink } from './place-link';

/** Places that are commands of a dialect. */
export function commandLink(dialect: Dialect): PlaceLink {
  const line = (message: DialectMessage): Uint8Array | null => {
    const built = encodeDialect(dialect, message, 'request');
    return built.ok ? built.value : null;
  };
  const commandAt = (address: number): string | undefined =>
    isCommand(address) ? dialect.commands[address - PLACES.command]?.id : undefined;
  return {
    write: (station, { address }, word) => {
      const command = commandAt(address);
      return command === undefined ? null : line({ station, kind: 'write', command, values: [word] });
    },
    writeRow: () => null,
    read: (station, places) =>
      places.flatMap(({ address }) => {
        const command = commandAt(address);
        return (command !== undefined && line({ station, kind: 'read', command })) || [];
      }),
    writes: (request) => {
      const kind = readDialect(dialect, request, 'request').message?.kind;
      return kind !== undefined && kind !== 'read';
    },
    written: (request) => {
      const { kind, command, values } = readDialect(dialect, request, 'request').message ?? {};
      const at = dialect.commands.findIndex(({ id }) => id === command);
      if (at < 0 || kind === undefined || kind === 'read') return [];
      // An act without a value is told as the number 1: it was done.
      const [value = 1] = values ?? [];
      return typeof value === 'number' ? [[PLACES.command + at, value >>> 0]] : [];
    },
    learned: (request, reply) => {
      const asked = readDialect(dialect, request, 'request').message;
      const at = dialect.commands.findIndex(({ id }) => id === asked?.command);
      if (!asked?.command || at < 0) return [];
      const said = readDialect(dialect, reply, 'response', { command: asked.command }).message;
      const confirmed = said?.kind === 'good' && (asked.kind === 'write' || asked.kind === 'keep') ? asked : null;
      const [value] = (said?.kind === 'value' ? said : confirmed)?.values ?? [];
      // Negative numbers are kept as the pattern of 32 bits that a scale reads.
      return typeof value === 'number' ? [[PLACES.command + at, value >>> 0]] : [];
    },
  };
}
