import { checkTarget } from './target';

it.each([
  ['127.0.0.1', 502, '127.0.0.1'],
  ['172.22.7.37', 502, '172.22.7.37'],
  ['10.255.0.1', 1, '10.255.0.1'],
  ['172.31.9.9', 65535, '172.31.9.9'],
  ['169.254.3.4', 502, '169.254.3.4'],
  ['::1', 502, '::1'],
  ['fe80::1', 502, 'fe80::1'],
  ['fd00::12', 502, 'fd00::12'],
  [' 172.22.1.1 ', 502, '172.22.1.1'],
  ['172.022.007.037', 502, '172.22.7.37'],
  // An IPv4 address in IPv6 clothes is the IPv4 address.
  ['::ffff:172.22.1.5', 502, '172.22.1.5'],
])('%s port %i may be connected to', (host, port, plain) => {
  expect(checkTarget(host, port)).toEqual({ ok: true, value: { host: plain, port } });
});

it.each([
  ['8.8.4.4', 502, 'not on this machine nor on a local network'],
  ['172.32.0.1', 502, 'not on this machine'],
  ['0.0.0.0', 502, 'not on this machine'],
  ['255.255.255.255', 502, 'not on this machine'],
  ['224.0.0.1', 502, 'not on this machine'],
  ['2001:db8::1', 502, 'not on this machine'],
  ['::ffff:8.8.4.4', 502, 'not on this machine'],
  ['169.254.169.254', 80, 'keeps a machine’s keys'],
  ['::ffff:169.254.169.254', 80, 'keeps a machine’s keys'],
  ['fd00:ec2::254', 80, 'keeps a machine’s keys'],
  ['localhost', 502, 'names are not looked up'],
  ['drive.example', 502, 'names are not looked up'],
  ['300.1.2.3', 502, 'is no IP address'],
  ['0x7f000001', 502, 'is no IP address'],
  ['127.1', 502, 'is no IP address'],
  ['', 502, 'is no IP address'],
  ['127.0.0.1', 0, 'port 0 does not exist'],
  ['127.0.0.1', 65536, 'port 65536 does not exist'],
  ['127.0.0.1', 502.5, 'does not exist'],
  ['127.0.0.1', 4380, 'is this program itself'],
  ['::1', 4380, 'is this program itself'],
  ['127.0.0.9', 4380, 'is this program itself'],
])('%s port %d is refused: %s', (host, port, text) => {
  const target = checkTarget(host, port, [4380]);
  expect(target.ok ? '' : target.error).toContain(text);
});
