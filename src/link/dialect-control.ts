import type { Dialect, DialectCommand } from '../core/dialect/dialect';
import type { CommandRole } from '../core/dialect/roles';
import { readDialect } from '../core/dialect/read';
import { encodeDialect } from '../core/dialect/write';
import type { RequestEffect } from '../core/drive/request-effect';
import type { SheetIndex } from '../core/sheet/index-sheet';
import { roleActive } from '../core/words/read';
import type { ExchangeResult } from './request';
import { timeoutOf, type StationControl } from './station-control';

/** Acts that set the shaft in motion. */
const MOVES: ReadonlySet<CommandRole | undefined> = new Set<CommandRole>([
  'move-absolute',
  'move-relative',
  'jog-forward',
  'jog-backward',
  'go-home',
]);
/** An act that sets in motion counts as this control word, since such a drive has none. */
const MOVE_WORD = 1;
/** A move may take this long to come to rest after its stop, where nothing else is said. */
const STANDSTILL_WITHIN_US = 10_000_000;

/** A drive that takes commands as lines of text. */
export class DialectControl implements StationControl {
  readonly station: number;
  readonly index: SheetIndex | null;
  readonly timeoutUs: number;
  readonly #dialect: Dialect;

  constructor(station: number, index: SheetIndex | null, dialect: Dialect) {
    this.station = station;
    this.index = index;
    this.timeoutUs = timeoutOf(index);
    this.#dialect = dialect;
  }

  readonly effectOf = (bytes: Uint8Array): RequestEffect => {
    const { message, faults } = readDialect(this.#dialect, bytes, 'request');
    const command = this.#dialect.commands.find(({ id }) => id === message?.command);
    return faults.length === 0 && message?.kind === 'act' && MOVES.has(command?.role) ? { control: MOVE_WORD } : {};
  };

  readonly mayTurn = (act: RequestEffect): boolean => act.control !== undefined;

  readonly noteSent = (): void => undefined;

  readonly noteRunEnded = (): void => undefined;

  readonly asSent = (bytes: Uint8Array): Uint8Array => bytes;

  readonly holdRead = (): null => null;

  readonly holds = (): null => null;

  readonly statusWordRead = (): null => null;

  readonly learn = (): void => undefined;

  readonly keepAliveEveryUs = (): null => null;

  readonly controlWrite = (): null => null;

  readonly stopFrames = (): readonly Uint8Array[] => {
    const frame = this.#line('stop', 'act');
    return frame ? [frame] : [];
  };

  readonly standstillWithinUs = (): number => STANDSTILL_WITHIN_US;

  readonly statusRead = (): Uint8Array | null => this.#line('motion-word', 'read');

  readonly turningIn = ({ request, reply }: ExchangeResult): boolean | null => {
    const command = readDialect(this.#dialect, request.bytes, 'request').message?.command;
    const said =
      reply && command !== undefined ? readDialect(this.#dialect, reply, 'response', { command }).message : null;
    const word = said?.values?.[0];
    const { motion } = this.#dialect;
    return motion && typeof word === 'number' ? roleActive(motion, 'moving', word) : null;
  };

  #line(role: CommandRole, kind: 'act' | 'read'): Uint8Array | null {
    const command = this.#dialect.commands.find((one: DialectCommand) => one.role === role);
    if (!command) return null;
    const built = encodeDialect(this.#dialect, { station: this.station, kind, command: command.id }, 'request');
    return built.ok ? built.value : null;
  }
}
