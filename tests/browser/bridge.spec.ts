import http from 'node:http';
import { expect, test } from './bench';

/** One request as a program without a browser's manners can send it: every header is its own. */
function ask(
  address: string,
  headers: Readonly<Record<string, string>>,
  { method = 'GET', body = '', path = '/api/link' } = {},
): Promise<{ readonly status: number; readonly text: string }> {
  return new Promise((resolve, reject) => {
    const request = http.request(new URL(path, address), { method, headers }, (answer) => {
      let text = '';
      answer.setEncoding('utf8');
      const end = (): void => {
        request.destroy();
        resolve({ status: answer.statusCode ?? 0, text });
      };
      answer.on('data', (part: string) => {
        text += part;
        // The stream of the bridge does not end by itself: its first line is enough.
        if (text.includes('\n')) end();
      });
      answer.on('end', end);
    });
    request.on('error', reject);
    request.end(body);
  });
}

const OPEN = JSON.stringify([{ kind: 'open', socket: 's1', host: '127.0.0.1', port: 47502 }]);

test('the running server refuses every request that is not its own page’s', async ({ baseURL }) => {
  const address = baseURL ?? '';
  const { host, port } = new URL(address);
  const own = { host, origin: address, 'sec-fetch-site': 'same-origin', 'content-type': 'application/json' };
  expect((await ask(address, own)).text).toContain('"kind":"hello"');
  const refused: readonly (readonly [string, Readonly<Record<string, string>>, string, number])[] = [
    ['a forged Host', { ...own, host: `evil.example:${port}` }, OPEN, 403],
    ['another origin', { ...own, origin: 'http://evil.example' }, OPEN, 403],
    ['a cross-site request', { ...own, 'sec-fetch-site': 'cross-site' }, OPEN, 403],
    ['no token', own, OPEN, 403],
    ['a guessed token', { ...own, 'x-bujo-link': 'guess' }, OPEN, 403],
    ['no command', own, '[{"kind":"shell"}]', 400],
    ['broken text', own, '{', 400],
    ['too many bytes', own, `[{"kind":"write","socket":"s1","hex":"${'00'.repeat(20_000)}"}]`, 413],
  ];
  for (const [what, headers, body, status] of refused) {
    const answer = await ask(address, headers, { method: 'POST', body });
    expect(`${what}: ${answer.status}`).toBe(`${what}: ${status}`);
    expect(answer.text).not.toBe('');
  }
  for (const [method, body] of [
    ['GET', ''],
    ['POST', '{"name":"E1","behaviour":"off"}'],
  ] as const)
    expect(
      (await ask(address, { ...own, host: `evil.example:${port}` }, { method, body, path: '/api/yard' })).status,
    ).toBe(403);
  expect((await ask(address, own, { method: 'POST', body: '{"name":"Z9"}', path: '/api/yard' })).status).toBe(400);
});

test('doors of the framework that nobody uses are shut, and HEAD takes no place', async ({ baseURL }) => {
  const address = baseURL ?? '';
  const { host } = new URL(address);
  const own = { host, origin: address, 'sec-fetch-site': 'same-origin' };
  for (let i = 0; i < 20; i++) expect((await ask(address, own, { method: 'HEAD' })).status).toBe(405);
  expect((await ask(address, own)).text).toContain('"kind":"hello"');
  for (const [what, headers, options, status] of [
    ['the image server', own, { path: '/_next/image?url=%2Ficon.svg&w=64&q=75' }, 404],
    ['a page that is written to', own, { path: '/', method: 'POST', body: 'x' }, 405],
    ['an action of the framework', { ...own, 'next-action': '0123' }, { path: '/' }, 405],
    ['a page by another name', { ...own, host: 'evil.example:4390' }, { path: '/' }, 403],
    ['what ships, by another name', { ...own, host: 'evil.example:4390' }, { path: '/shipped' }, 403],
  ] as const) {
    const answer = await ask(address, headers, options);
    expect(`${what}: ${answer.status}`).toBe(`${what}: ${status}`);
  }
});

test('a page may run its own scripts only, and asks for no more than it needs', async ({ page }) => {
  const answer = await page.goto('/');
  const headers = answer?.headers() ?? {};
  const scripts = /script-src ([^;]*)/.exec(headers['content-security-policy'] ?? '')?.[1] ?? '';
  expect(scripts).toMatch(/^'self' 'nonce-[0-9a-f]{32}'$/);
  expect(headers['permissions-policy']).toMatch(/serial=\(self\).*camera=\(\)/);
  // Each page has a number of its own.
  const again = await page.reload();
  expect(again?.headers()['content-security-policy']).not.toBe(headers['content-security-policy']);
});

test('several TCP lines at once, and leaving the page closes them at the device', async ({ bench }) => {
  const { page } = bench;
  for (const name of ['E1 stacker', 'K1 by device server']) {
    await bench.press(`Open ${name}`);
    await expect(page.getByRole('button', { name: `Close ${name}` })).toBeVisible();
  }
  await page.goto('about:blank');
  // The device server has room for one caller: it is free again only because leaving closed the line.
  await page.goto('/');
  await bench.press('Open K1 by device server');
  await page
    .getByRole('button', { name: /3 · kiln fan/ })
    .nth(1)
    .click();
  await bench.stage('Line');
  await bench.press(/^Ask 3/);
  await expect(page.getByTestId('prove-outcome')).toContainText('✓ answered');
});
