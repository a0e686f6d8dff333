import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isWithin, readAddress, readNetwork } from './networks';

describe('a network range', () => {
  it('holds the addresses that share its first bits', () => {
    const at = (address: string) => isWithin(address, ['10.1.0.0/16', '192.168.7.130/25', '2001:db8::/32']);
    expect(['10.1.0.0', '10.1.255.255', '192.168.7.128', '192.168.7.255', '2001:db8:1::5'].map(at)).toEqual(
      Array(5).fill(true),
    );
    expect(['10.2.0.0', '10.0.255.255', '192.168.7.127', '2001:db9::1', '::1'].map(at)).toEqual(Array(5).fill(false));
  });

  it('of no bits holds all of its kind, a bare address itself, an empty list everything', () => {
    expect([isWithin('8.8.8.8', ['0.0.0.0/0']), isWithin('::1', ['0.0.0.0/0']), isWithin('::1', ['::/0'])]).toEqual([
      true,
      false,
      true,
    ]);
    expect([isWithin('10.0.0.1', ['10.0.0.1']), isWithin('10.0.0.2', ['10.0.0.1'])]).toEqual([true, false]);
    expect(isWithin('anything', [])).toBe(true);
  });

  it('reads an IPv4 address that comes as IPv6', () => {
    expect(isWithin('::ffff:10.1.2.3', ['10.1.0.0/16'])).toBe(true);
    expect(isWithin('10.1.2.3', ['::ffff:10.1.2.3'])).toBe(true);
  });

  it('that cannot be read is none, and an address that cannot be read lies in none', () => {
    const wrong = [
      '10.1.0.0/33',
      '10.1.0/16',
      '10.01.0.0',
      '256.0.0.1',
      '10.0.0.1/',
      '::1/129',
      '1::2::3',
      'room',
      '',
      '1.2.3.4/8/8',
      '12345::',
    ];
    expect(wrong.map((text) => readNetwork(text))).toEqual(wrong.map(() => null));
    expect(isWithin('unknown', ['0.0.0.0/0'])).toBe(false);
    expect(isWithin('', ['10.0.0.0/8'])).toBe(false);
  });

  it('of an address and any prefix holds that address', () => {
    fc.assert(
      fc.property(fc.ipV4(), fc.integer({ min: 0, max: 32 }), (address, prefix) => {
        expect(isWithin(address, [`${address}/${prefix}`])).toBe(true);
      }),
    );
    fc.assert(
      fc.property(fc.ipV6(), fc.integer({ min: 0, max: 128 }), (address, prefix) => {
        const bits = readAddress(address)?.kind() === 'ipv4' ? 32 : 128;
        if (prefix <= bits) expect(isWithin(address, [`${address}/${prefix}`])).toBe(true);
      }),
    );
  });
});
