import type { Dialect } from '../../core/dialect/dialect';
import { loadSheet } from '../../core/sheet/load-sheet';
import type { Result } from '../../core/result';
import type { Sheet } from '../../core/sheet/sheet';
import type { SheetFault } from '../../core/sheet/sheet-fault';

/** A dialect from nothing: plain lines, one command, no check. */
export const EMPTY_DIALECT: Dialect = {
  id: 'new',
  name: 'New dialect',
  open: '',
  close: '<CR>',
  marks: { read: '?', write: '=' },
  separator: ',',
  reply: { mark: '', good: 'OK', error: { mark: 'ERR', base: 'decimal' } },
  commands: [
    {
      id: 'speed',
      verb: 'SPD',
      name: 'speed',
      access: ['read', 'write'],
      fields: [{ name: 'speed', base: 'decimal' }],
    },
  ],
};

/** `Kiln fan 2` as a name in machine form. */
export const slugOf = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 60) || 'dialect';

const COMMAND_PATH = /^(?:dialect\.)?commands[.[](\d+)\]?\.?/;

/** Which command a place in the description belongs to; -1 for none. */
export function commandOfPath(path: string): number {
  const at = COMMAND_PATH.exec(path)?.[1];
  return at === undefined ? -1 : Number(at);
}

/** A place in the description by the names that the user gave: `dialect.commands[1].fields[0].min` is `SPD, speed, min`. */
export function placeText({ commands }: Dialect, path: string): string {
  const command = commands[commandOfPath(path)];
  const own = path.replace(/^dialect\.?/, '');
  if (!command) return own;
  const rest = own.replace(COMMAND_PATH, '');
  const [, list, place, key = ''] = /^(fields|asks)[.[](\d+)\]?\.?(.*)$/.exec(rest) ?? [];
  const field = place === undefined ? undefined : (list === 'asks' ? command.asks : command.fields)?.[Number(place)];
  return [command.verb, ...(field ? [field.name, key] : [rest])].filter((part) => part !== '').join(', ');
}

/** The sheet that a dialect becomes, checked as any import is; the error names the places. */
export function sheetOf(dialect: Dialect, revision: number, base: Sheet | null): Result<Sheet, readonly SheetFault[]> {
  const slug = slugOf(dialect.name);
  return loadSheet({
    format: 1,
    slug,
    revision,
    name: dialect.name,
    summary: `A drive that takes commands as text, described by its user.`,
    ...(base && base.slug !== slug ? { base: { slug: base.slug, revision: base.revision } } : {}),
    link: base?.link ?? {
      protocol: 'ascii',
      serial: { rate: 9600, dataBits: 8, parity: 'N', stopBits: 1 },
      station: dialect.station?.min ?? 0,
      replyWithinMs: 200,
    },
    dialect: { ...dialect, id: slug },
  });
}
