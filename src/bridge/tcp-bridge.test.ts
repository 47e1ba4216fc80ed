/** @jest-environment node */
import { createServer, Socket, type Server } from 'node:net';
import { bridgePair, until } from '../../tests/harness/bridge';
import type { Trouble } from '../core/line/trouble';
import { WRITE_MAX } from '../link/bridge-protocol';

const servers: Server[] = [];
const leavers: (() => void)[] = [];
const sockets: Socket[] = [];

async function listen(take: (socket: Socket) => void): Promise<number> {
  const server = createServer((socket) => {
    sockets.push(socket);
    socket.on('error', () => undefined);
    take(socket);
  });
  servers.push(server);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = server.address();
  return typeof address === 'object' && address ? address.port : 0;
}

const pair: typeof bridgePair = (options) => {
  const made = bridgePair(options);
  leavers.push(made.leave);
  return made;
};

afterEach(() => {
  for (const leave of leavers.splice(0)) leave();
  for (const socket of sockets.splice(0)) socket.destroy();
  for (const server of servers.splice(0)) server.close();
});

/** One socket and everything that it told. */
function open(client: ReturnType<typeof bridgePair>['client'], port: number, host = '127.0.0.1') {
  const told = { opened: false, bytes: [] as number[], ended: null as Trouble | null };
  const socket = client.open(host, port, {
    opened: () => (told.opened = true),
    bytes: (bytes) => told.bytes.push(...bytes),
    ended: (why) => (told.ended = why),
  });
  return { told, socket };
}

it('bytes go both ways, for several sockets of one tab at once', async () => {
  const port = await listen((socket) => socket.on('data', (bytes) => socket.write(bytes.reverse())));
  const { client, bridge } = pair();
  const [a, b] = [open(client, port), open(client, port)];
  await until(() => a.told.opened && b.told.opened);
  client.write(a.socket, Uint8Array.of(1, 2, 3));
  client.write(b.socket, Uint8Array.of(9, 8));
  await until(() => a.told.bytes.length === 3 && b.told.bytes.length === 2);
  expect([a.told.bytes, b.told.bytes]).toEqual([
    [3, 2, 1],
    [8, 9],
  ]);
  expect(bridge.openSockets()).toBe(2);
});

it.each([
  ['a public address', '8.8.4.4', 502, 'not-allowed'],
  ['a name', 'localhost', 502, 'not-allowed'],
  ['port 0', '127.0.0.1', 0, 'not-allowed'],
  ['the program itself', '127.0.0.1', 4380, 'not-allowed'],
  ['a port where nothing listens', '127.0.0.1', 1, 'refused'],
])('%s is not connected to, and why is said', async (_, host, port, kind) => {
  const { client, bridge } = pair({ ownPorts: [4380] });
  const { told } = open(client, port, host);
  await until(() => told.ended !== null);
  expect(told.ended?.kind).toBe(kind);
  expect(told.opened).toBe(false);
  expect(bridge.openSockets()).toBe(0);
});

it('no answer within the time to connect is said as such', async () => {
  // A socket that never gets anywhere, as to an address where nobody is.
  const { client } = pair({ limits: { connectMs: 60 }, dial: () => new Socket() });
  const { told } = open(client, 502, '172.22.7.99');
  await until(() => told.ended !== null);
  expect(told.ended?.kind).toBe('no-answer');
});

it('a device without a free connection accepts and closes at once', async () => {
  const port = await listen((socket) => socket.destroy());
  const { told } = open(pair().client, port);
  await until(() => told.ended !== null);
  expect(['closed-by-far', 'reset']).toContain(told.ended?.kind);
});

it('the other end closing is told once, after its last bytes', async () => {
  const port = await listen((socket) => socket.end('bye'));
  const { told } = open(pair().client, port);
  await until(() => told.ended !== null);
  expect(String.fromCharCode(...told.bytes)).toBe('bye');
  expect(told.ended?.kind).toBe('closed-by-far');
});

it('one socket more than allowed is refused, the others live on', async () => {
  const port = await listen((socket) => socket.on('data', (bytes) => socket.write(bytes)));
  const { client } = pair({ limits: { socketsPerTab: 2 } });
  const [a, b] = [open(client, port), open(client, port)];
  await until(() => a.told.opened && b.told.opened);
  const third = open(client, port);
  await until(() => third.told.ended !== null);
  expect(third.told.ended?.kind).toBe('limit');
  client.write(a.socket, Uint8Array.of(5));
  await until(() => a.told.bytes.length === 1);
});

it('one tab more than allowed is refused', async () => {
  const { client, bridge } = pair({ limits: { tabs: 0 } });
  const { told } = open(client, 1);
  await until(() => told.ended !== null);
  expect(told.ended?.kind).toBe('limit');
  expect(told.ended?.text).toMatch(/tabs use the bridge already/);
  expect(bridge.openSockets()).toBe(0);
});

it('a server that was gone and is back is found without a reload', async () => {
  const port = await listen(() => undefined);
  const { bridge, client, answers } = pair();
  answers(false);
  const first = open(client, port);
  await until(() => first.told.ended !== null);
  expect(first.told.ended?.kind).toBe('server-gone');
  answers(true);
  const second = open(client, port);
  await until(() => second.told.opened);
  expect(bridge.openSockets()).toBe(1);
});

it('a device that never reads does not pile up bytes here', async () => {
  const port = await listen((socket) => socket.pause());
  const { client } = pair({ limits: { unread: 16 * 1024, bytesPerSecond: 1e9 } });
  const { told, socket } = open(client, port);
  await until(() => told.opened);
  for (let i = 0; i < 4_000 && told.ended === null; i++) {
    for (let k = 0; k < 50; k++) client.write(socket, new Uint8Array(4096));
    await new Promise((resolve) => setTimeout(resolve, 1));
  }
  expect(told.ended?.kind).toBe('limit');
  expect(told.ended?.text).toMatch(/does not read/);
});

it('a device that floods is cut off', async () => {
  const port = await listen((socket) => socket.write(Buffer.alloc(200_000)));
  const { told } = open(pair({ limits: { bytesPerSecond: 50_000 } }).client, port);
  await until(() => told.ended !== null);
  expect(told.ended?.kind).toBe('limit');
});

it('a page that floods is cut off', async () => {
  const port = await listen(() => undefined);
  const { client } = pair({ limits: { bytesPerSecond: 3000 } });
  const { told, socket } = open(client, port);
  await until(() => told.opened);
  client.write(socket, new Uint8Array(2000));
  client.write(socket, new Uint8Array(2000));
  await until(() => told.ended !== null);
  expect(told.ended?.kind).toBe('limit');
});

it('a socket that nobody uses is closed', async () => {
  const port = await listen(() => undefined);
  const { told } = open(pair({ limits: { idleMs: 80 } }).client, port);
  await until(() => told.ended !== null);
  expect(told.ended?.kind).toBe('idle');
});

it('the page leaving closes every socket of it', async () => {
  let closed = 0;
  const port = await listen((socket) => socket.on('close', () => closed++));
  const { client, bridge, leave } = bridgePair();
  const [a, b] = [open(client, port), open(client, port)];
  await until(() => a.told.opened && b.told.opened);
  leave();
  await until(() => closed === 2);
  expect(bridge.openSockets()).toBe(0);
});

it('closing by hand is clean and tells nothing', async () => {
  let ended = false;
  const port = await listen((socket) => socket.on('end', () => (ended = true)));
  const { client, bridge } = pair();
  const { told, socket } = open(client, port);
  await until(() => told.opened);
  client.close(socket);
  await until(() => ended && bridge.openSockets() === 0);
  expect(told.ended).toBeNull();
});

it('a command without the tab’s token is refused', () => {
  const { bridge } = pair();
  expect(bridge.obey(null, [{ kind: 'open', socket: 's1', host: '127.0.0.1', port: 502 }])).toMatchObject({
    status: 403,
  });
  expect(bridge.obey('guess', [{ kind: 'close', socket: 's1' }])).toMatchObject({ status: 403 });
});

it('what waits goes up together and in its order, and a refusal ends its own socket only', async () => {
  const heard: number[] = [];
  const port = await listen((socket) => socket.on('data', (bytes) => heard.push(...bytes)));
  const { client, posts } = pair();
  const [a, b] = [open(client, port), open(client, port)];
  await until(() => a.told.opened && b.told.opened);
  const before = posts();
  for (let i = 0; i < 100; i++) client.write(a.socket, Uint8Array.of(i));
  client.write('s99', Uint8Array.of(1));
  await until(() => heard.length === 100);
  expect(heard).toEqual(Array.from({ length: 100 }, (_, i) => i));
  // The first is on its way while the others are asked for, or waits for them.
  expect(posts() - before).toBeLessThanOrEqual(2);
  expect([a.told.ended, b.told.ended]).toEqual([null, null]);
});

it('a command that the server cannot read ends its own socket, and the line beside it goes on', async () => {
  const heard: number[] = [];
  const port = await listen((socket) => socket.on('data', (bytes) => heard.push(...bytes)));
  const { client } = pair();
  const good = open(client, port);
  await until(() => good.told.opened);
  client.write(good.socket, Uint8Array.of(1));
  const bad = open(client, port, 'a'.repeat(100));
  client.write(good.socket, Uint8Array.of(2));
  await until(() => heard.length === 2 && bad.told.ended !== null);
  expect(heard).toEqual([1, 2]);
  expect(bad.told.ended?.text).toBe('these are no commands of the bridge');
  expect(good.told.ended).toBeNull();
});

it('one write that is longer than a command takes goes in several, in its order', async () => {
  const heard: number[] = [];
  const port = await listen((socket) => socket.on('data', (bytes) => heard.push(...bytes)));
  const { client } = pair();
  const { told, socket } = open(client, port);
  await until(() => told.opened);
  const long = Uint8Array.from({ length: 3 * WRITE_MAX + 7 }, (_, i) => (i * 13) % 256);
  client.write(socket, long);
  await until(() => heard.length === long.length);
  expect(heard).toEqual([...long]);
  expect(told.ended).toBeNull();
});

it('long writes are spread over as many posts as they need, and none is lost', async () => {
  let heard = 0;
  const port = await listen((socket) => socket.on('data', (bytes) => (heard += bytes.length)));
  const { client, posts } = pair({ limits: { bytesPerSecond: 1e9, unread: 1e9 } });
  const { told, socket } = open(client, port);
  await until(() => told.opened);
  const before = posts();
  for (let i = 0; i < 20; i++) client.write(socket, new Uint8Array(WRITE_MAX));
  await until(() => heard === 20 * WRITE_MAX);
  expect(posts() - before).toBeGreaterThanOrEqual(5);
  expect(told.ended).toBeNull();
});
