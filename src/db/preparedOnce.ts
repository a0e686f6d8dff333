import type { Db } from './client';

/**
 * A statement that is built once per database and then only run: for what happens on every save or start. The database is
 * one synchronous connection, so a statement run inside a transaction's callback belongs to that transaction.
 */
export function preparedOnce<Statement>(build: (db: Db) => Statement): (db: Db) => Statement {
  const built = new WeakMap<Db, Statement>();
  return (db) => {
    const known = built.get(db);
    if (known) return known;
    const statement = build(db);
    built.set(db, statement);
    return statement;
  };
}
