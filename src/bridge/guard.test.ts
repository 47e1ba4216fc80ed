import { refuseForeign } from './guard';

const ask = (headers: Readonly<Record<string, string>>, method = 'POST') =>
  refuseForeign({ method, header: (name) => headers[name] ?? null }, 4380);

const OWN = { host: '127.0.0.1:4380', origin: 'http://127.0.0.1:4380', 'sec-fetch-site': 'same-origin' };

it.each([
  ['this program’s page', OWN],
  ['the page by its other name', { ...OWN, host: 'localhost:4380', origin: 'http://localhost:4380' }],
  ['a program without a browser', { host: '127.0.0.1:4380' }],
])('%s may pass', (_, headers) => {
  expect(ask(headers)).toBeNull();
});

it.each([
  [
    'a forged Host (a foreign name that resolves to this machine)',
    { ...OWN, host: 'evil.example:4380' },
    'on this machine only',
  ],
  [
    'the foreign name with its own origin',
    { ...OWN, host: 'evil.example:4380', origin: 'http://evil.example:4380' },
    'on this machine only',
  ],
  ['a Host that only begins like ours', { ...OWN, host: '127.0.0.1:4380.evil.example' }, 'on this machine only'],
  ['no Host', {}, 'on this machine only'],
  ['another port of this machine', { ...OWN, host: '127.0.0.1:4381' }, 'on this machine only'],
  ['a page of another site', { ...OWN, origin: 'https://evil.example' }, 'has no business here'],
  ['a page of another port of this machine', { ...OWN, origin: 'http://127.0.0.1:8080' }, 'has no business here'],
  ['a sandboxed frame', { ...OWN, origin: 'null' }, 'has no business here'],
  ['a request that says it is cross-site', { ...OWN, 'sec-fetch-site': 'cross-site' }, 'own page'],
  ['a request that says it is same-site only', { ...OWN, 'sec-fetch-site': 'same-site' }, 'own page'],
  ['a link that somebody follows', { host: '127.0.0.1:4380', 'sec-fetch-site': 'none' }, 'own page'],
  ['a POST without an origin', { host: '127.0.0.1:4380', 'sec-fetch-site': 'same-origin' }, 'must name its origin'],
])('%s is refused', (_, headers, text) => {
  expect(ask(headers)).toMatchObject({ status: 403, text: expect.stringContaining(text) as string });
});
