import { doubtOfIpv4, ipv4Facts, parseIpv4, parsePrefix, sameSubnet } from './ipv4';

const net = (address: string, prefix: string) => {
  const [a, p] = [parseIpv4(address), parsePrefix(prefix)];
  if (!a.ok || !p.ok) throw new Error('expected a good address');
  return { address: a.value, prefix: p.value };
};

// RFC 4632 (CIDR), RFC 3021 (/31), RFC 1918, RFC 3927, RFC 5771; values worked out by hand.
it.each([
  ['172.22.7.37', '24', '172.22.7.0', '172.22.7.255', '172.22.7.1', '172.22.7.254', 254],
  ['172.22.7.37', '255.255.255.0', '172.22.7.0', '172.22.7.255', '172.22.7.1', '172.22.7.254', 254],
  ['10.1.2.3', '/8', '10.0.0.0', '10.255.255.255', '10.0.0.1', '10.255.255.254', 16777214],
  ['172.16.5.130', '26', '172.16.5.128', '172.16.5.191', '172.16.5.129', '172.16.5.190', 62],
  ['10.0.0.1', '31', '10.0.0.0', '10.0.0.1', '10.0.0.0', '10.0.0.1', 2],
  ['10.0.0.1', '32', '10.0.0.1', '10.0.0.1', '10.0.0.1', '10.0.0.1', 1],
  ['255.255.255.255', '0', '0.0.0.0', '255.255.255.255', '0.0.0.1', '255.255.255.254', 4294967294],
])('%s / %s', (address, prefix, network, broadcast, firstHost, lastHost, usableHosts) => {
  expect(ipv4Facts(net(address, prefix))).toMatchObject({ network, broadcast, firstHost, lastHost, usableHosts });
});

it.each([
  ['169.254.3.4', 'linkLocal'],
  ['10.9.9.9', 'rfc1918'],
  ['172.31.255.1', 'rfc1918'],
  ['192.168.0.1', 'rfc1918'],
  ['127.0.0.1', 'loopback'],
  ['239.1.1.1', 'multicast'],
  ['172.32.0.1', ''],
  ['8.8.4.4', ''],
])('%s is %s', (address, kind) => {
  const { linkLocal, rfc1918, loopback, multicast } = ipv4Facts(net(address, '24'));
  const kinds = Object.entries({ linkLocal, rfc1918, loopback, multicast }).flatMap(([name, is]) => (is ? [name] : []));
  expect(kinds.join()).toBe(kind);
});

it.each([
  ['172.22.7.37', '24', '172.22.7.200', true],
  ['172.22.7.37', '24', '172.22.8.37', false],
  ['172.16.5.130', '26', '172.16.5.127', false],
])('%s/%s and %s in one subnet: %s', (address, prefix, other, same) => {
  const second = parseIpv4(other);
  expect(second.ok && sameSubnet(net(address, prefix), second.value)).toBe(same);
});

it.each(['300.1.2.3', '1.2.3', '1.2.3.4.5', '', 'drive', '0x7f.0.0.1', '1.2.3.-4'])(
  '“%s” is told as no address',
  (text) => {
    expect(parseIpv4(text).ok).toBe(false);
  },
);

it.each([
  ['192.168.010.037', 'read as 192.168.10.37; some programs take a leading zero for octal'],
  ['010.1.1.1', 'read as 10.1.1.1; some programs take a leading zero for octal'],
  ['10.0.0.100', ''],
  ['300.01.1.1', ''],
])('of %s there is to know “%s”', (text, said) => {
  expect(doubtOfIpv4(text)).toBe(said);
});

it.each(['33', '/33', '-1', '255.0.255.0', '255.255.255.300', 'x', ''])('“%s” is told as no mask', (text) => {
  expect(parsePrefix(text).ok).toBe(false);
});
