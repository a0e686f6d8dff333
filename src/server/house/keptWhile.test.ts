import { describe, expect, it } from 'vitest';
import type { Db, Tx } from '@/db/client';
import { keptWhile } from './keptWhile';

const opened = (inTransaction = false) => ({ $client: { inTransaction } }) as unknown as Db;

describe('keptWhile', () => {
  it('works a thing out again when its stamp, its key or its database differs, and not else', () => {
    const [one, other] = [opened(), opened()];
    let made = 0;
    const look = keptWhile<number>();
    const make = () => ++made;
    expect([look(one, 'a', () => '1', make), look(one, 'a', () => '1', make)]).toEqual([1, 1]);
    expect(look(one, 'a', () => '2', make)).toBe(2);
    expect(look(one, 'b', () => '2', make)).toBe(3);
    expect(look(other, 'a', () => '2', make)).toBe(4);
    expect(look(one, 'a', () => '2', make)).toBe(2);
  });

  it('gives what was kept before, to go on from', () => {
    const db = opened();
    const look = keptWhile<number[]>();
    const grow = (before?: number[]) => [...(before ?? []), (before ?? []).length];
    look(db, 'a', () => '1', grow);
    expect(look(db, 'a', () => '2', grow)).toEqual([0, 1]);
    expect(look(db, 'b', () => '2', grow)).toEqual([0]);
  });

  it('lets go of what was looked at longest ago', () => {
    const db = opened();
    const look = keptWhile<string>();
    for (const key of 'abcdefgh')
      look(
        db,
        key,
        () => '1',
        () => key,
      );
    look(
      db,
      'a',
      () => '1',
      () => 'again',
    );
    look(
      db,
      'i',
      () => '1',
      () => 'i',
    );
    expect(
      look(
        db,
        'a',
        () => '1',
        () => 'again',
      ),
    ).toBe('a');
    expect(
      look(
        db,
        'b',
        () => '1',
        () => 'again',
      ),
    ).toBe('again');
  });

  it('keeps nothing within a transaction, and gives nothing kept', () => {
    const db = opened();
    let made = 0;
    const look = keptWhile<number>();
    const make = () => ++made;
    look(db, 'a', () => '1', make);
    Object.assign(db.$client, { inTransaction: true });
    expect(look(db, 'a', () => '1', make)).toBe(2);
    expect(look({} as Tx, 'a', () => '1', make)).toBe(3);
    Object.assign(db.$client, { inTransaction: false });
    expect(look(db, 'a', () => '1', make)).toBe(1);
  });
});
