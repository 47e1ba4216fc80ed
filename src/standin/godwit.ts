import type { Clock, Due } from '../core/time/clock';

/** A field of a page: what it is called, what it holds, and whether somebody may change it. */
interface MenuField {
  readonly name: string;
  readonly about: string;
  readonly unit: string;
  readonly min: number;
  readonly max: number;
  value: number;
}

interface MenuPage {
  readonly code: string;
  readonly title: string;
  /** `read`: nothing can be changed. `risky`: a shown number must be typed before anything can be. */
  readonly kind: 'read' | 'edit' | 'risky';
  readonly fields: readonly MenuField[];
}

const field = (name: string, about: string, value: number, unit: string, min: number, max: number): MenuField => ({
  name,
  about,
  unit,
  min,
  max,
  value,
});

const factory = (): readonly MenuPage[] => [
  {
    code: 'mo',
    title: 'MOTOR, READ ONLY',
    kind: 'read',
    fields: [
      field('rv', 'drum speed', 0, 'rpm', 0, 0),
      field('am', 'motor current', 31, '0.1 A', 0, 0),
      field('te', 'heat sink', 44, 'C', 0, 0),
      field('hr', 'hours of duty', 20713, 'h', 0, 0),
    ],
  },
  {
    code: 'ru',
    title: 'RUNNING',
    kind: 'edit',
    fields: [
      field('sp', 'drum speed wanted', 180, 'rpm', 20, 320),
      field('up', 'ramp up', 90, '0.1 s', 5, 600),
      field('dn', 'ramp down', 120, '0.1 s', 5, 600),
      field('jg', 'creep speed', 35, 'rpm', 20, 80),
    ],
  },
  {
    code: 'li',
    title: 'LIMITS',
    kind: 'risky',
    fields: [
      field('mx', 'highest drum speed', 320, 'rpm', 100, 400),
      field('cl', 'current limit', 620, '0.1 A', 100, 900),
      field('bk', 'brake opens after', 25, '0.01 s', 0, 200),
    ],
  },
  {
    code: 'ln',
    title: 'SERIAL LINE',
    kind: 'read',
    fields: [
      field('br', 'bit rate', 9600, 'bit/s', 0, 0),
      field('db', 'data bits', 8, '', 0, 0),
      field('sb', 'stop bits', 1, '', 0, 0),
    ],
  },
];

/** Values that change by themselves are written anew this often while their page is shown. */
const REFRESH_US = 500_000;
const LONGEST_LINE = 60;
const CURSOR_UP = '\x1b[A';

type Place =
  | { readonly kind: 'asleep' }
  | { readonly kind: 'top' }
  | { readonly kind: 'page'; readonly page: MenuPage; readonly open: boolean; readonly number: string }
  | { readonly kind: 'loading'; readonly taken: number };

/**
 * An old drive with a text menu of its own making: `?` wakes it, two letters choose a page, `-` goes back, `name=value` changes a field, a
 * risky page wants its shown number typed first, `list` prints every setting in a form that `load` takes back line by line.
 */
export class Godwit {
  readonly #clock: Clock;
  readonly #say: (text: string) => void;
  readonly #pages = factory();
  #place: Place = { kind: 'asleep' };
  #line = '';
  #refresh: Due | null = null;
  #ticks = 0;
  #gate = 4711;

  constructor(clock: Clock, say: (text: string) => void) {
    this.#clock = clock;
    this.#say = say;
  }

  /** Characters from the line; an echo goes back with each, as such drives do. */
  take(bytes: Uint8Array): void {
    for (const byte of bytes) {
      const char = String.fromCharCode(byte & 0x7f);
      if (char === '\n') continue;
      if (char === '\r') {
        this.#tell('\r\n');
        this.#obey(this.#line.trim());
        this.#line = '';
      } else if (byte === 8 || byte === 127) {
        if (this.#line.length > 0) this.#tell('\b \b');
        this.#line = this.#line.slice(0, -1);
      } else if (this.#line.length < LONGEST_LINE && char >= ' ') {
        this.#line += char;
        this.#tell(char);
      }
    }
  }

  /** The connection is gone: the menu sleeps again. */
  leave(): void {
    this.#place = { kind: 'asleep' };
    this.#stopRefresh();
    this.#line = '';
  }

  #tell(text: string): void {
    this.#say(text);
  }

  #obey(line: string): void {
    this.#stopRefresh();
    const place = this.#place;
    if (line === '?') return this.#showTop();
    switch (place.kind) {
      case 'asleep':
        return;
      case 'top':
        return this.#fromTop(line);
      case 'page':
        return line === '-' ? this.#showTop() : this.#onPage(place, line);
      case 'loading':
        return this.#load(place.taken, line);
    }
  }

  #showTop(): void {
    this.#place = { kind: 'top' };
    const pages = this.#pages.map(({ code, title }) => `  ${code}  ${title}\r\n`).join('');
    this.#tell(`\r\nDEBARKER DRUM DRIVE  ready\r\n${pages}  list  print all settings\r\n  load  take a listing\r\n> `);
  }

  #fromTop(line: string): void {
    const page = this.#pages.find(({ code }) => code === line.toLowerCase());
    if (page) return this.#show(page, page.kind === 'edit');
    if (line.toLowerCase() === 'list') return this.#list();
    if (line.toLowerCase() === 'load') {
      this.#place = { kind: 'loading', taken: 0 };
      return this.#tell('send the listing, end with a dot on a line of its own\r\n');
    }
    this.#tell(line === '' ? '> ' : `? ${line}: no such page\r\n> `);
  }

  #show(page: MenuPage, open: boolean): void {
    const number = `${(this.#gate = ((this.#gate * 73) % 8999) + 1000)}`;
    this.#place = { kind: 'page', page, open, number };
    const note =
      page.kind === 'read'
        ? 'read only, - goes back'
        : open
          ? 'name=value changes, - goes back'
          : `type ${number} to open this page for changes, - goes back`;
    this.#tell(`\r\n${page.title}\r\n${page.fields.map(rowOf).join('\r\n')}\r\n${note}\r\n> `);
    if (page.kind === 'read') this.#armRefresh(page);
  }

  #onPage(place: Extract<Place, { kind: 'page' }>, line: string): void {
    const { page, open, number } = place;
    if (line === '') return this.#show(page, open);
    if (!open && page.kind === 'risky' && line === number) return this.#show(page, true);
    const typed = /^([a-z]{2})\s*=\s*(-?\d{1,7})$/i.exec(line);
    if (!typed) return this.#tell(`? ${line}\r\n> `);
    if (!open) return this.#tell(page.kind === 'read' ? 'this page is read only\r\n> ' : `type ${number} first\r\n> `);
    this.#tell(`${setField(page, typed[1] ?? '', typed[2] ?? '')}\r\n> `);
  }

  #list(): void {
    const lines = this.#pages
      .filter(({ kind }) => kind !== 'read')
      .flatMap(({ code, fields }) => fields.map(({ name, value }) => `${code}.${name}=${value}\r\n`));
    this.#tell(`${lines.join('')}.\r\n> `);
  }

  #load(taken: number, line: string): void {
    if (line === '.') {
      this.#tell(`${taken} settings taken\r\n`);
      return this.#showTop();
    }
    const typed = /^([a-z]{2})\.([a-z]{2})=(-?\d{1,7})$/i.exec(line);
    const page = typed && this.#pages.find(({ code, kind }) => code === typed[1]?.toLowerCase() && kind !== 'read');
    const said = typed && page ? setField(page, typed[2] ?? '', typed[3] ?? '') : `? ${line}`;
    const ok = said.endsWith('set');
    this.#place = { kind: 'loading', taken: taken + (ok ? 1 : 0) };
    if (!ok) this.#tell(`${said}\r\n`);
  }

  /** The shown values change in place: the cursor goes up to them and comes back. */
  #armRefresh(page: MenuPage): void {
    this.#refresh = this.#clock.at(this.#clock.now() + REFRESH_US, () => {
      this.#ticks++;
      const current = page.fields.find(({ name }) => name === 'am');
      if (current) {
        current.value = 28 + ((this.#ticks * 7) % 9);
        const rows = page.fields.length + 1 - page.fields.indexOf(current);
        this.#tell(`\x1b7${CURSOR_UP.repeat(rows)}\r${rowOf(current)}\x1b8`);
      }
      this.#armRefresh(page);
    });
  }

  #stopRefresh(): void {
    if (this.#refresh !== null) this.#clock.cancel(this.#refresh);
    this.#refresh = null;
  }
}

const rowOf = ({ name, about, value, unit }: MenuField): string =>
  `  ${name}  ${about.padEnd(20)} ${`${value}`.padStart(7)} ${unit}`.trimEnd();

function setField(page: MenuPage, name: string, text: string): string {
  const found = page.fields.find((candidate) => candidate.name === name.toLowerCase());
  if (!found) return `? ${name} is not on this page`;
  const value = parseInt(text, 10);
  if (value < found.min || value > found.max) return `? ${found.name} takes ${found.min} to ${found.max} ${found.unit}`;
  found.value = value;
  return `${found.name} = ${value} set`;
}
