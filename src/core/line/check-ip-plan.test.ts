import { checkIpPlan } from './check-ip-plan';
import type { IpHost } from './ip-plan';

const host = (name: string, address: string, mask = '24', rest: Partial<IpHost> = {}): IpHost => ({
  role: 'drive',
  name,
  address,
  mask,
  ...rest,
});
const LAPTOP = host('laptop', '172.22.7.5', '24', { role: 'laptop' });

const notesOf = (...hosts: readonly IpHost[]): string =>
  checkIpPlan([LAPTOP, ...hosts])
    .map(({ host: at, field, weight, text }) => `${at} ${field} ${weight}: ${text}`)
    .join('\n');

it('a plan that is right says why', () => {
  expect(notesOf(host('lift', '172.22.7.37'))).toBe('1 address good: in one subnet with laptop: 172.22.7.0/24');
  expect(notesOf(host('lift', '172.22.7.37', '255.255.255.0'))).toContain('good');
});

// RFC 4632, RFC 1918, RFC 3927.
it.each<[string, readonly IpHost[], string]>([
  [
    'another subnet',
    [host('lift', '172.22.8.37')],
    '1 address fault: not in one subnet: 172.22.7.0/24 here, 172.22.8.0/24 there',
  ],
  [
    'masks that differ one way',
    [host('lift', '172.22.7.137', '25')],
    '1 address fault: the masks differ (/25 and /24)',
  ],
  [
    'one address twice',
    [host('lift', '172.22.7.37'), host('saw', '172.22.7.37')],
    '1 address fault: saw has this address too',
  ],
  ['the laptop’s own address', [host('lift', '172.22.7.5')], 'laptop has this address too'],
  ['the network as a host', [host('lift', '172.22.7.0')], 'is the network itself'],
  ['the broadcast as a host', [host('lift', '172.22.7.255')], 'is the broadcast address'],
  ['link-local against fixed', [host('lift', '169.254.7.7', '16')], 'lift has an address that nobody gave it'],
  ['a public address', [host('lift', '8.8.4.4')], 'is a public address'],
  ['multicast', [host('lift', '239.1.1.1')], 'is a multicast address'],
  [
    'a gateway outside',
    [host('lift', '172.22.7.37', '24', { gateway: '172.22.1.1' })],
    '1 gateway fault: 172.22.1.1 is not in the device’s own subnet',
  ],
  [
    'itself as gateway',
    [host('lift', '172.22.7.37', '24', { gateway: '172.22.7.37' })],
    'the gateway is the device itself',
  ],
  ['a gateway that is none', [host('lift', '172.22.7.37', '24', { gateway: '300.1.2.3' })], '1 gateway fault:'],
  [
    'another master expected',
    [host('lift', '172.22.7.37', '24', { master: '172.22.7.9' })],
    '1 master warning: the device lets 172.22.7.9 in',
  ],
  ['300.1.2.3', [host('lift', '300.1.2.3')], '1 address fault: “300”, part 1 of the address'],
  ['/33', [host('lift', '172.22.7.37', '/33')], '1 mask fault: /33'],
  ['a mask with holes', [host('lift', '172.22.7.37', '255.0.255.0')], '1 mask fault:'],
  ['port 0', [host('lift', '172.22.7.37', '24', { port: '0' })], '1 port fault: “0”: a port has 1 to 65535'],
  ['port 70000', [host('lift', '172.22.7.37', '24', { port: '70000' })], '1 port fault:'],
  ['a negative time-out', [host('lift', '172.22.7.37', '24', { timeoutMs: '-5' })], '1 timeoutMs fault:'],
])('%s', (_, hosts, text) => {
  expect(notesOf(...hosts)).toContain(text);
});

it('both ends link-local is workable, and so is a /31', () => {
  const both = checkIpPlan([{ ...LAPTOP, address: '169.254.1.1', mask: '16' }, host('lift', '169.254.9.9', '16')]);
  expect(both.filter(({ weight }) => weight === 'fault')).toEqual([]);
  const pair = checkIpPlan([{ ...LAPTOP, address: '10.0.0.0', mask: '31' }, host('lift', '10.0.0.1', '31')]);
  expect(pair.map(({ weight }) => weight)).toEqual(['good']);
});
