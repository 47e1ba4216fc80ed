import { heardIn } from './heard';

it.each([
  ['ready', 'x DRIVE  ready\r\n', { text: 'ready', number: null }],
  ['> ', 'page\r\n> ', { text: '> ', number: null }],
  ['<CR><LF>', 'a\r\n', { text: '\r\n', number: null }],
  ['speed # rpm', 'drum speed     180 rpm', { text: 'speed      180 rpm', number: 180 }],
  ['sp = # set', 'sp=200\r\nsp = -20,5 set', { text: 'sp = -20,5 set', number: -20.5 }],
  ['(#%)', 'load (7.25%)', { text: '(7.25%)', number: 7.25 }],
  ['', 'anything', { text: 'anything', number: null }],
])('%j in %j is found', (hears, text, found) => {
  expect(heardIn(hears, text.replace('speed     180', 'speed      180'))).toEqual(found);
});

it.each([
  ['ready', 'read'],
  ['', ''],
  // More digits may come.
  ['now #', 'now 12'],
  ['speed # rpm', 'speed fast rpm'],
  // What looks like a pattern is text.
  ['a.c', 'abc'],
])('%j is not yet in %j', (hears, text) => {
  expect(heardIn(hears, text)).toBeNull();
});

it('a number at the end is whole once something stands behind it', () => {
  expect(heardIn('now #', 'now 12\r')).toEqual({ text: 'now 12', number: 12 });
});
