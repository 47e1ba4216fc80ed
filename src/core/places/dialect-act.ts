import type { CommandRole } from '../dialect/roles';
import { encodeDialect } from '../dialect/write';
import type { SheetIndex } from '../sheet/index-sheet';

/** A command of a dialect that does something and takes no value. */
export interface DialectAct {
  readonly verb: string;
  readonly bytes: Uint8Array;
}

/** The act with a role; null where the drive has no dialect, or its dialect no such act. */
export function actOf({ sheet: { dialect } }: SheetIndex, station: number, role: CommandRole): DialectAct | null {
  const command = dialect?.commands.find((one) => one.role === role && one.access.includes('act'));
  if (!dialect || !command) return null;
  const built = encodeDialect(dialect, { station, kind: 'act', command: command.id }, 'request');
  return built.ok ? { bytes: built.value, verb: command.verb } : null;
}
