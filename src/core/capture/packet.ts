/**
 * A host by a number, which is that of its address where it is one of IPv4; those of IPv6 are counted from there. A connection is looked for with every
 * packet, and a text for each would cost more than all the rest.
 */
export type Host = number;

/** From a packet's link layer to its TCP segment. Sources: IEEE 802.3 and 802.1Q, RFC 791, RFC 8200, RFC 9293. */
export interface Segment {
  readonly from: Host;
  readonly to: Host;
  readonly fromPort: number;
  readonly toPort: number;
  readonly sequence: number;
  readonly opens: boolean;
  readonly closes: boolean;
  readonly payload: Uint8Array;
}

/** Link types by the registry of the two file formats (www.tcpdump.org/linktypes.html). */
const LINK = {
  loopback: 0,
  ethernet: 1,
  rawIp: 101,
  loop: 108,
  linuxCooked: 113,
  ipv4: 228,
  ipv6: 229,
  linuxCooked2: 276,
} as const;
/** Link types left to users: raw bytes of a serial line are kept under them. */
export const isUserLink = (linkType: number): boolean => linkType >= 147 && linkType <= 162;
export const USER_LINK = 147;

const IPV4 = 0x0800;
const IPV6 = 0x86dd;
const VLAN: ReadonlySet<number> = new Set([0x8100, 0x88a8, 0x9100]);
const TCP = 6;
/** Extension headers of IPv6 that stand before the segment. */
const EXTENSIONS: ReadonlySet<number> = new Set([0, 43, 60]);

const u16 = (data: Uint8Array, at: number): number => ((data[at] ?? 0) << 8) | (data[at + 1] ?? 0);
const u32 = (data: Uint8Array, at: number): number => u16(data, at) * 65536 + u16(data, at + 2);

/** Where the IP packet begins, and which one; null where it carries none. */
function ipAt(data: Uint8Array, linkType: number): { readonly at: number; readonly version: 4 | 6 } | null {
  const byVersion = (at: number): { at: number; version: 4 | 6 } | null => {
    const version = (data[at] ?? 0) >> 4;
    return version === 4 || version === 6 ? { at, version } : null;
  };
  const byType = (typeAt: number): { at: number; version: 4 | 6 } | null => {
    let at = typeAt;
    while (VLAN.has(u16(data, at)) && at + 4 < data.length) at += 4;
    const type = u16(data, at);
    return type === IPV4 ? { at: at + 2, version: 4 } : type === IPV6 ? { at: at + 2, version: 6 } : null;
  };
  switch (linkType) {
    case LINK.ethernet:
      return byType(12);
    case LINK.linuxCooked:
      return byType(14);
    case LINK.linuxCooked2:
      return u16(data, 0) === IPV4 ? { at: 20, version: 4 } : u16(data, 0) === IPV6 ? { at: 20, version: 6 } : null;
    case LINK.loopback:
    case LINK.loop:
      return byVersion(4);
    case LINK.rawIp:
    case LINK.ipv4:
    case LINK.ipv6:
      return byVersion(0);
    default:
      return null;
  }
}

/** Hosts of IPv6 by their address. */
export type Hosts6 = Map<string, Host>;

function host6(data: Uint8Array, at: number, known: Hosts6): Host {
  const address = String.fromCharCode(...data.subarray(at, at + 16));
  const host = known.get(address) ?? 2 ** 32 + known.size;
  known.set(address, host);
  return host;
}

/** The TCP segment in a packet, or null: another protocol, a later fragment, or cut short. `hosts6`: those of this capture so far. */
export function segmentOf(data: Uint8Array, linkType: number, hosts6: Hosts6): Segment | null {
  const ip = ipAt(data, linkType);
  if (!ip) return null;
  const { at, version } = ip;
  if (version === 4) {
    const head = ((data[at] ?? 0) & 15) * 4;
    const isFragment = (u16(data, at + 6) & 0x3fff) !== 0;
    if (head < 20 || data[at + 9] !== TCP || isFragment) return null;
    return tcpOf(
      data,
      at + head,
      Math.min(at + u16(data, at + 2), data.length),
      u32(data, at + 12),
      u32(data, at + 16),
    );
  }
  let next = data[at + 6] ?? 0;
  let place = at + 40;
  const end = Math.min(at + 40 + u16(data, at + 4), data.length);
  while (EXTENSIONS.has(next) && place + 8 <= end) {
    next = data[place] ?? 0;
    place += 8 * (1 + (data[place + 1] ?? 0));
  }
  return next === TCP ? tcpOf(data, place, end, host6(data, at + 8, hosts6), host6(data, at + 24, hosts6)) : null;
}

function tcpOf(data: Uint8Array, at: number, end: number, from: Host, to: Host): Segment | null {
  const head = ((data[at + 12] ?? 0) >> 4) * 4;
  if (head < 20 || at + head > end) return null;
  const flags = data[at + 13] ?? 0;
  return {
    from,
    to,
    fromPort: u16(data, at),
    toPort: u16(data, at + 2),
    sequence: u32(data, at + 4),
    opens: (flags & 2) !== 0,
    closes: (flags & 5) !== 0,
    payload: data.subarray(at + head, end),
  };
}
