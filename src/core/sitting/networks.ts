/** An address of the internet protocol as a number of 32 or 128 bits. */
type Address = { bits: 32 | 128; value: bigint };

function readFour(text: string): bigint | null {
  const parts = text.split('.');
  if (parts.length !== 4) return null;
  let value = 0n;
  for (const part of parts) {
    if (!/^(0|[1-9]\d{0,2})$/.test(part) || Number(part) > 255) return null;
    value = value * 256n + BigInt(part);
  }
  return value;
}

function readSix(text: string): bigint | null {
  const halves = text.split('::');
  if (halves.length > 2) return null;
  const groups = (half: string): bigint[] | null => {
    if (half === '') return [];
    const read: bigint[] = [];
    const parts = half.split(':');
    for (const [i, part] of parts.entries()) {
      if (part.includes('.') && i === parts.length - 1) {
        const four = readFour(part);
        if (four === null) return null;
        read.push(four >> 16n, four & 0xffffn);
      } else if (/^[0-9a-f]{1,4}$/i.test(part)) read.push(BigInt(`0x${part}`));
      else return null;
    }
    return read;
  };
  const head = groups(halves[0] ?? '');
  const tail = groups(halves[1] ?? '');
  if (!head || !tail) return null;
  const missing = 8 - head.length - tail.length;
  if (halves.length === 2 ? missing < 1 : missing !== 0) return null;
  return [...head, ...Array<bigint>(missing).fill(0n), ...tail].reduce((value, group) => (value << 16n) | group, 0n);
}

/** @returns null for a text that is no address; an IPv4 address written as IPv6 (`::ffff:10.0.0.1`) is the IPv4 address */
export function readAddress(text: string): Address | null {
  const four = readFour(text);
  if (four !== null) return { bits: 32, value: four };
  const six = readSix(text);
  if (six === null) return null;
  return six >> 32n === 0xffffn ? { bits: 32, value: six & 0xffffffffn } : { bits: 128, value: six };
}

/** @returns null for a text that is no CIDR range (RFC 4632, RFC 4291); a bare address is the range of itself */
export function readNetwork(text: string): { bits: 32 | 128; prefix: number; value: bigint } | null {
  const [address = '', length, ...more] = text.trim().split('/');
  const read = readAddress(address);
  if (!read || more.length) return null;
  if (length !== undefined && !/^\d{1,3}$/.test(length)) return null;
  const prefix = length === undefined ? read.bits : Number(length);
  return prefix > read.bits ? null : { bits: read.bits, prefix, value: read.value };
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
    if (!network || network.bits !== read.bits) return false;
    const shift = BigInt(network.bits - network.prefix);
    return network.value >> shift === read.value >> shift;
  });
}
