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

const OPEN = JSON.stringify({ kind: 'open', socket: 's1', host: '127.0.0.1', port: 47502 });

test('the running server refuses every request that is not its own page’s', async ({ baseURL }) => {
  const address = baseURL ?? '';
  const { host } = new URL(address);
  const own = { host, origin: address, 'sec-fetch-site': 'same-origin', 'content-type': 'application/json' };
  expect((await ask(address, own)).text).toContain('"kind":"hello"');
  const refused: readonly (readonly [string, Readonly<Record<string, string>>, string, number])[] = [
    ['a forged Host', { ...own, host: 'evil.example:4390' }, OPEN, 403],
    ['another origin', { ...own, origin: 'http://evil.example' }, OPEN, 403],
    ['a cross-site request', { ...own, 'sec-fetch-site': 'cross-site' }, OPEN, 403],
    ['no token', own, OPEN, 403],
    ['a guessed token', { ...own, 'x-bujo-link': 'guess' }, OPEN, 403],
    ['no command', own, '{"kind":"shell"}', 400],
    ['broken text', own, '{', 400],
    ['too many bytes', own, `{"kind":"write","socket":"s1","hex":"${'00'.repeat(6000)}"}`, 413],
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
      (await ask(address, { ...own, host: 'evil.example:4390' }, { method, body, path: '/api/yard' })).status,
    ).toBe(403);
  expect((await ask(address, own, { method: 'POST', body: '{"name":"Z9"}', path: '/api/yard' })).status).toBe(400);
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
