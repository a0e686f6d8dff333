import type { Db, Tx } from '@/db/client';

const mostKept = 8;

/**
 * Keeps what is costly to work out, for as long as what it rests on stays the same: the last few per database, by key.
 * Nothing is stored, so that a restart only costs one look.
 *
 * Within a transaction nothing is kept and nothing kept is given: what it rests on may just be changing.
 *
 * @returns a function that works out `make()` only when `stamp` differs from the last time for this key; `make` gets what was
 *   kept under the stamp before, to go on from, and must not change it
 */
export function keptWhile<Value>() {
  const looked = new WeakMap<Db, Map<string, { stamp: string; value: Value }>>();
  return (db: Db | Tx, key: string, stampOf: (db: Db) => string, make: (before?: Value) => Value): Value => {
    if (!('$client' in db) || db.$client.inTransaction) return make();
    const stamp = stampOf(db);
    const known = looked.get(db) ?? new Map<string, { stamp: string; value: Value }>();
    looked.set(db, known);
    const before = known.get(key);
    const value = before?.stamp === stamp ? before.value : make(before?.value);
    known.delete(key);
    known.set(key, { stamp, value });
    const [oldest] = known.keys();
    if (known.size > mostKept && oldest !== undefined) known.delete(oldest);
    return value;
  };
}
