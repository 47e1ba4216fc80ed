import type { IpField, IpHost } from './ip-plan';
import { doubtOfIpv4, ipv4Facts, parseIpv4, parsePrefix, sameSubnet, type Ipv4Net } from './ipv4';

export interface IpNote {
  readonly host: number;
  readonly field: IpField;
  readonly weight: 'fault' | 'warning' | 'good';
  readonly text: string;
}

const netOf = ({ address, mask }: IpHost): Ipv4Net | null => {
  const [parsed, prefix] = [parseIpv4(address), parsePrefix(mask)];
  return parsed.ok && prefix.ok ? { address: parsed.value, prefix: prefix.value } : null;
};

/** What is right and wrong with a plan: each address by itself, against the laptop, and against the others. */
export function checkIpPlan(hosts: readonly IpHost[]): readonly IpNote[] {
  const laptop = hosts.findIndex(({ role }) => role === 'laptop');
  return hosts.flatMap((host, i) => {
    const note = (field: IpField, weight: IpNote['weight'], text: string): IpNote => ({ host: i, field, weight, text });
    const net = netOf(host);
    return [
      ...fieldNotes(host, note),
      ...(net ? ownNotes(host, net, note) : []),
      ...(net
        ? twins(hosts, i, net).map((other) =>
            note('address', 'fault', `${hosts[other]?.name ?? ''} has this address too`),
          )
        : []),
      ...(net && i !== laptop && laptop >= 0 ? subnetNotes(host, net, hosts[laptop] as IpHost, note) : []),
    ];
  });
}

type Note = (field: IpField, weight: IpNote['weight'], text: string) => IpNote;

function fieldNotes(host: IpHost, note: Note): readonly IpNote[] {
  const address = parseIpv4(host.address);
  const mask = parsePrefix(host.mask);
  const doubt = doubtOfIpv4(host.address);
  return [
    ...(address.ok ? [] : [note('address', 'fault', address.error.text)]),
    ...(doubt ? [note('address', 'warning', doubt)] : []),
    ...(mask.ok ? [] : [note('mask', 'fault', mask.error.text)]),
    ...numberNote(host.port, 1, 65_535, 'a port has', (text) => note('port', 'fault', text)),
    ...numberNote(host.timeoutMs, 1, 3_600_000, 'a time-out in ms has', (text) => note('timeoutMs', 'fault', text)),
  ];
}

function numberNote(
  text: string | undefined,
  least: number,
  most: number,
  what: string,
  note: (text: string) => IpNote,
): readonly IpNote[] {
  if (text === undefined || text.trim() === '') return [];
  const value = /^\s*-?\d+\s*$/.test(text) ? parseInt(text, 10) : NaN;
  return value >= least && value <= most ? [] : [note(`“${text.trim()}”: ${what} ${least} to ${most}`)];
}

function ownNotes(host: IpHost, net: Ipv4Net, note: Note): readonly IpNote[] {
  const facts = ipv4Facts(net);
  const plain = host.address.trim();
  const hostPart = net.prefix < 31;
  return [
    ...(hostPart && plain === facts.network
      ? [
          note(
            'address',
            'fault',
            `${plain} is the network itself, no device; hosts are ${facts.firstHost} to ${facts.lastHost}`,
          ),
        ]
      : []),
    ...(hostPart && plain === facts.broadcast
      ? [
          note(
            'address',
            'fault',
            `${plain} is the broadcast address; hosts are ${facts.firstHost} to ${facts.lastHost}`,
          ),
        ]
      : []),
    ...(facts.multicast
      ? [note('address', 'fault', `${plain} is a multicast address, which no device has as its own`)]
      : []),
    ...(facts.linkLocal
      ? [
          note(
            'address',
            'warning',
            'nobody gave this address: the device took it itself (RFC 3927). It works with another one of 169.254/16 on the same cable',
          ),
        ]
      : []),
    ...(!facts.rfc1918 && !facts.linkLocal && !facts.loopback && !facts.multicast
      ? [note('address', 'warning', `${plain} is a public address (not RFC 1918); the bench does not connect to it`)]
      : []),
    ...gatewayNotes(host, net, note),
  ];
}

function gatewayNotes({ gateway, address }: IpHost, net: Ipv4Net, note: Note): readonly IpNote[] {
  if (gateway === undefined || gateway.trim() === '' || gateway.trim() === '0.0.0.0') return [];
  const parsed = parseIpv4(gateway);
  if (!parsed.ok) return [note('gateway', 'fault', parsed.error.text)];
  if (gateway.trim() === address.trim()) return [note('gateway', 'warning', 'the gateway is the device itself')];
  return sameSubnet(net, parsed.value)
    ? []
    : [
        note(
          'gateway',
          'fault',
          `${gateway.trim()} is not in the device’s own subnet ${ipv4Facts(net).network}/${net.prefix}, so it is never reached`,
        ),
      ];
}

function twins(hosts: readonly IpHost[], i: number, { address }: Ipv4Net): readonly number[] {
  return hosts.flatMap((other, k) => (k !== i && netOf(other)?.address === address ? [k] : []));
}

function subnetNotes(host: IpHost, net: Ipv4Net, laptop: IpHost, note: Note): readonly IpNote[] {
  const own = netOf(laptop);
  if (!own) return [];
  const [there, back] = [sameSubnet(own, net.address), sameSubnet(net, own.address)];
  const master = host.master?.trim() ?? '';
  return [
    there && back
      ? note('address', 'good', `in one subnet with ${laptop.name}: ${ipv4Facts(own).network}/${own.prefix}`)
      : note('address', 'fault', whyApart(host, net, laptop, own, there, back)),
    ...(master === '' || master === '0.0.0.0'
      ? []
      : parseIpv4(master).ok
        ? master === laptop.address.trim()
          ? []
          : [note('master', 'warning', `the device lets ${master} in, and ${laptop.name} is ${laptop.address.trim()}`)]
        : [note('master', 'fault', `“${master}” is no IPv4 address`)]),
  ];
}

function whyApart(host: IpHost, net: Ipv4Net, laptop: IpHost, own: Ipv4Net, there: boolean, back: boolean): string {
  const [far, near] = [ipv4Facts(net), ipv4Facts(own)];
  if (there !== back)
    return `the masks differ (/${net.prefix} and /${own.prefix}): ${there ? host.name : laptop.name} does not take the other one for a neighbour`;
  if (far.linkLocal !== near.linkLocal)
    return `${far.linkLocal ? host.name : laptop.name} has an address that nobody gave it, the other one has a fixed address: give both one of the same subnet`;
  return `not in one subnet: ${near.network}/${own.prefix} here, ${far.network}/${net.prefix} there`;
}
