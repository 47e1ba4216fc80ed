import ipaddr from 'ipaddr.js';
import { fault, type Fault } from '../fault';
import { done, failed, type Result } from '../result';

/** An address with its subnet, both as numbers of 32 bits. */
export interface Ipv4Net {
  readonly address: number;
  readonly prefix: number;
}

export interface Ipv4Facts {
  readonly network: string;
  readonly broadcast: string;
  readonly firstHost: string;
  readonly lastHost: string;
  /** /31 has 2 (RFC 3021), /32 has 1. */
  readonly usableHosts: number;
  /** Nobody gave an address (RFC 3927). */
  readonly linkLocal: boolean;
  readonly rfc1918: boolean;
  readonly loopback: boolean;
  readonly multicast: boolean;
}

const numberOf = (octets: readonly number[]): number => octets.reduce((value, octet) => value * 256 + octet, 0);
/** An address of 32 bits as four decimal parts. */
export const ipv4Text = (value: number): string =>
  [24, 16, 8, 0].map((shift) => Math.floor(value / 2 ** shift) % 256).join('.');

/**
 * Reads four decimal parts, padded with zeros as displays show them (`192.168.010.037`) or not; 300.1.2.3 and short forms are named as wrong,
 * for they are slips. What is open about a padded one says `doubtOfIpv4`.
 */
export function parseIpv4(text: string): Result<number, Fault> {
  const trimmed = text.trim();
  if (!/^\d{1,3}(\.\d{1,3}){3}$/.test(trimmed))
    return failed(fault('bad-token', 0, text.length, `“${text}” is no IPv4 address: four numbers with points between`));
  const wrong = trimmed.split('.').findIndex((part) => Number(part) > 255);
  if (wrong >= 0)
    return failed(
      fault(
        'value-out-of-range',
        0,
        text.length,
        `“${trimmed.split('.')[wrong]}”, part ${wrong + 1} of the address, is not 0 to 255`,
      ),
    );
  return done(numberOf(trimmed.split('.').map(Number)));
}

const PADDED = /(?:^|\.)0\d/;

/** What to know of an address with a zero before a part: read as decimal here, as octal by some programs. Empty where there is nothing. */
export function doubtOfIpv4(text: string): string {
  const parsed = parseIpv4(text);
  return parsed.ok && PADDED.test(text.trim())
    ? `read as ${ipv4Text(parsed.value)}; some programs take a leading zero for octal`
    : '';
}

/** A prefix length from `24`, `/24` or a mask `255.255.255.0`; a mask with holes is named as such. */
export function parsePrefix(text: string): Result<number, Fault> {
  const digits = /^\s*\/?(\d{1,3})\s*$/.exec(text)?.[1];
  if (digits !== undefined) {
    const prefix = parseInt(digits, 10);
    return prefix <= 32
      ? done(prefix)
      : failed(fault('value-out-of-range', 0, text.length, `/${prefix}: a prefix has 0 to 32 bits`));
  }
  const mask = parseIpv4(text);
  if (!mask.ok) return mask;
  const prefix = ipaddr.IPv4.parse(ipv4Text(mask.value)).prefixLengthFromSubnetMask();
  return prefix === null
    ? failed(
        fault('value-out-of-range', 0, text.length, `${text} is no mask: its ones must stand together at the left`),
      )
    : done(prefix);
}

const sizeOf = (prefix: number): number => 2 ** (32 - prefix);
const networkOf = ({ address, prefix }: Ipv4Net): number => address - (address % sizeOf(prefix));

/** What follows from an address and its prefix: network, broadcast, first and last host, kind of network. */
export function ipv4Facts(net: Ipv4Net): Ipv4Facts {
  const { address, prefix } = net;
  const network = networkOf(net);
  const broadcast = network + sizeOf(prefix) - 1;
  const plain = prefix >= 31;
  const range = ipaddr.IPv4.parse(ipv4Text(address)).range();
  return {
    network: ipv4Text(network),
    broadcast: ipv4Text(broadcast),
    firstHost: ipv4Text(plain ? network : network + 1),
    lastHost: ipv4Text(plain ? broadcast : broadcast - 1),
    usableHosts: plain ? sizeOf(prefix) : sizeOf(prefix) - 2,
    linkLocal: range === 'linkLocal',
    rfc1918: range === 'private',
    loopback: range === 'loopback',
    multicast: range === 'multicast',
  };
}

/** Whether two addresses are in one subnet, by the first one's mask. */
export const sameSubnet = (net: Ipv4Net, other: number): boolean =>
  networkOf(net) === networkOf({ address: other, prefix: net.prefix });
