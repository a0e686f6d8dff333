import type { Db } from '@/db/client';

const mostKept = 8;

/**
 * Keeps what is costly to work out, for as long as what it rests on stays the same: the last few per database, by key.
 * Nothing is stored, so that a restart only costs one look.
 *
 * @returns a function that works out `make()` only when `stamp` differs from the last time for this key
 */
export function keptWhile<Value>() {
  const looked = new WeakMap<Db, Map<string, { stamp: string; value: Value }>>();
  return (db: Db, key: string, stamp: string, make: () => Value): Value => {
    const known = looked.get(db) ?? new Map<string, { stamp: string; value: Value }>();
    looked.set(db, known);
    const before = known.get(key);
    const value = before?.stamp === stamp ? before.value : make();
    known.delete(key);
    known.set(key, { stamp, value });
    const [oldest] = known.keys();
    if (known.size > mostKept && oldest !== undefined) known.delete(oldest);
    return value;
  };
}
