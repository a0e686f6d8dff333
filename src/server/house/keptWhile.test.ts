import { describe, expect, it } from 'vitest';
import type { Db } from '@/db/client';
import { keptWhile } from './keptWhile';

describe('keptWhile', () => {
  it('works a thing out again when its stamp, its key or its database differs, and not else', () => {
    const [one, other] = [{}, {}] as [Db, Db];
    let made = 0;
    const look = keptWhile<number>();
    const make = () => ++made;
    expect([look(one, 'a', '1', make), look(one, 'a', '1', make)]).toEqual([1, 1]);
    expect(look(one, 'a', '2', make)).toBe(2);
    expect(look(one, 'b', '2', make)).toBe(3);
    expect(look(other, 'a', '2', make)).toBe(4);
    expect(look(one, 'a', '2', make)).toBe(2);
  });

  it('lets go of what was looked at longest ago', () => {
    const db = {} as Db;
    const look = keptWhile<string>();
    for (const key of 'abcdefgh') look(db, key, '1', () => key);
    look(db, 'a', '1', () => 'again');
    look(db, 'i', '1', () => 'i');
    expect(look(db, 'a', '1', () => 'again')).toBe('a');
    expect(look(db, 'b', '1', () => 'again')).toBe('again');
  });
});
