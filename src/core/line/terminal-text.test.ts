import { ascii } from '../../../tests/harness/bytes';
import { incoming, lineEnd, listingLines } from './terminal-text';

it.each([
  ['cr', '\r'],
  ['lf', '\n'],
  ['crlf', '\r\n'],
] as const)('Enter as %s', (name, sent) => {
  expect(lineEnd(name)).toBe(sent);
});

it.each([
  ['as it is', 'as-is', 'a\rb\nc', 'a\rb\nc'],
  ['CR alone begins a line', 'cr', 'a\rb\r\nc', 'a\r\nb\r\nc'],
  ['LF alone returns to the left', 'lf', 'a\nb\r\nc', 'a\r\nb\r\nc'],
])('%s', (_, ends, came, shown) => {
  expect(incoming(ascii(came), ends)).toBe(shown);
});

it('no byte is lost', () => {
  const all = Uint8Array.from({ length: 256 }, (_, i) => i);
  expect([...incoming(all, 'as-is')].map((char) => char.charCodeAt(0))).toEqual([...all]);
});

it('a captured listing goes back without prompts, cursor moves and empty lines', () => {
  expect(listingLines('> ru.sp=180\r\n\x1b7\x1b[A\x1b[Aru.up=90\x1b8\r\n\r\n.\r\n> ')).toEqual([
    'ru.sp=180',
    'ru.up=90',
    '.',
  ]);
});
