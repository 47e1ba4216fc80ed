import ipaddr from 'ipaddr.js';
import { done, failed, type Result } from '../result';
import { ipv4Text, parseIpv4 } from './ipv4';

/** Ranges that a drive can be in; the bench goes nowhere else (RFC 1918, RFC 3927, RFC 4193, RFC 4291). */
const ALLOWED: ReadonlySet<string> = new Set(['loopback', 'private', 'linkLocal', 'uniqueLocal']);

/**
 * Where clouds give a virtual machine its own keys, on addresses of local ranges: no drive is there, and nobody should be able to make this
 * program ask (common practice of several providers, no source).
 */
const METADATA: ReadonlySet<string> = new Set(['169.254.169.254', '169.254.170.2', '169.254.169.253', 'fd00:ec2::254']);

/** A host and port that the bench may connect to. */
export interface Target {
  /** An IP address as it is written normally. */
  readonly host: string;
  readonly port: number;
}

/**
 * Whether a target may be connected to. Names are not looked up: what a name means can change between the check and the connection.
 * The error is one sentence for the field.
 */
export function checkTarget(host: string, port: number, ownPorts: readonly number[] = []): Result<Target, string> {
  const typed = parseIpv4(host);
  const text = typed.ok ? ipv4Text(typed.value) : host.trim();
  if (!ipaddr.IPv4.isValidFourPartDecimal(text) && !(text.includes(':') && ipaddr.IPv6.isValid(text)))
    return failed(`“${text}” is no IP address; names are not looked up`);
  const address = ipaddr.process(text);
  const plain = address.toString();
  if (!ALLOWED.has(address.range()))
    return failed(`${plain} is not on this machine nor on a local network; the bench connects to nothing else`);
  if (METADATA.has(plain)) return failed(`${plain} is where a cloud keeps a machine’s keys; no drive is there`);
  if (!Number.isInteger(port) || port < 1 || port > 65535) return failed(`port ${port} does not exist: 1 to 65535`);
  if (address.range() === 'loopback' && ownPorts.includes(port))
    return failed(`${plain} port ${port} is this program itself`);
  return done({ host: plain, port });
}
