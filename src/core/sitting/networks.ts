import ipaddr from 'ipaddr.js';

type Address = ipaddr.IPv4 | ipaddr.IPv6;

/** @returns null for a text that is no address; an IPv4 address written as IPv6 (`::ffff:10.0.0.1`) is the IPv4 address */
export function readAddress(text: string): Address | null {
  if (ipaddr.IPv4.isValidFourPartDecimal(text)) return ipaddr.IPv4.parse(text);
  // A zone (`fe80::1%eth0`) names a card of one machine, which means nothing elsewhere.
  return !text.includes('%') && ipaddr.IPv6.isValid(text) ? ipaddr.process(text) : null;
}

/** @returns null for a text that is no CIDR range (RFC 4632, RFC 4291); a bare address is the range of itself */
export function readNetwork(text: string): { address: Address; prefix: number } | null {
  const [written = '', length, ...more] = text.trim().split('/');
  const address = readAddress(written);
  if (!address || more.length) return null;
  if (length !== undefined && !/^\d{1,3}$/.test(length)) return null;
  const bits = address.kind() === 'ipv4' ? 32 : 128;
  const prefix = length === undefined ? bits : Number(length);
  return prefix > bits ? null : { address, prefix };
}

/**
 * Whether an address lies in one of some ranges. No ranges admit every address; an address that cannot be read lies in none.
 *
 * @example isWithin('10.1.2.3', ['10.1.0.0/16']) // true
 */
export function isWithin(address: string, networks: readonly string[]): boolean {
  if (networks.length === 0) return true;
  const read = readAddress(address);
  if (!read) return false;
  return networks.some((text) => {
    const network = readNetwork(text);
    return network?.address.kind() === read.kind() && read.match(network.address as never, network.prefix);
  });
}
