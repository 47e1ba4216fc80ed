import { pinnedIn } from '../sheet/shelf';
import type { JobLine } from '../job/job';
import { lineThen, type LineHistory } from '../job/line-history';
import { framingOf } from '../modbus/framing';
import type { SheetIndex } from '../sheet/index-sheet';
import { dialectProtocol } from './dialect-protocol';
import type { LineProtocol } from './line-protocol';
import { modbusProtocol } from './modbus-protocol';
import { ussProtocol } from './uss-protocol';

/**
 * The protocol that a line speaks. USS and dialects need the sheet of a station for what their standard, or the lack of one, leaves open.
 * Null for plain text, and for commands of which no sheet describes the dialect.
 */
export function protocolOf(
  protocol: JobLine['protocol'] | 'raw',
  indices: readonly (SheetIndex | null)[],
): LineProtocol | null {
  switch (protocol) {
    case 'modbus-rtu':
    case 'modbus-ascii':
    case 'modbus-tcp':
      return modbusProtocol(framingOf(protocol));
    case 'uss':
      return ussProtocol(indices.find((index) => index?.sheet.uss)?.sheet.uss ?? null);
    case 'ascii': {
      const dialect = indices.find((index) => index?.sheet.dialect)?.sheet.dialect;
      return dialect ? dialectProtocol(dialect) : null;
    }
    case 'raw':
    case 'raw-tcp':
      return null;
  }
}

/** The protocol of a job's line, with the sheets of its stations. */
export const protocolOfLine = (line: JobLine, sheets: ReadonlyMap<string, SheetIndex>): LineProtocol | null =>
  protocolOf(
    line.protocol,
    line.stations.map(({ sheet }) => pinnedIn(sheets, sheet)),
  );

/** What the line of an entry spoke at its time; each line as it was is worked out once. */
export function protocolsThen(
  history: LineHistory,
  sheets: ReadonlyMap<string, SheetIndex>,
): (at: Parameters<typeof lineThen>[1]) => LineProtocol | null {
  const known = new Map<JobLine, LineProtocol | null>();
  return (at) => {
    const line = lineThen(history, at);
    if (!line) return null;
    const made = known.get(line);
    if (made !== undefined) return made;
    const protocol = protocolOfLine(line, sheets);
    known.set(line, protocol);
    return protocol;
  };
}
