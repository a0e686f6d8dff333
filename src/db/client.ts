import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { type BetterSQLite3Database, drizzle } from 'drizzle-orm/better-sqlite3';
import * as schema from './schema';

export type Db = BetterSQLite3Database<typeof schema> & { $client: Database.Database };

/** What a use-case gets inside a transaction; the same queries, without the right to begin another. */
export type Tx = Parameters<Parameters<Db['transaction']>[0]>[0];

/**
 * Opens a database file with the settings that everything relies on: WAL, every commit flushed, foreign keys on.
 *
 * @param file a path, `:memory:`, or the bytes of a database, which is then kept in memory
 */
export function openDatabase(file: string | Buffer): Db {
  const client = new Database(file);
  client.pragma('journal_mode = WAL');
  client.pragma('synchronous = FULL');
  client.pragma('foreign_keys = ON');
  client.pragma('busy_timeout = 5000');
  // What is deleted is overwritten: the papers of anonymous sittings must not stay behind in free pages.
  client.pragma('secure_delete = ON');
  client.pragma('cache_size = -32000');
  return Object.assign(drizzle(client, { schema }), { $client: client });
}

export const databaseFile = (folder: string) => join(folder, 'wuzzen.db');

/**
 * The database of this process. It opens on first use, not while the app is being built, and stands on `globalThis`
 * because the server and the bundled routes are different module graphs of one process.
 */
export function database(): Db {
  const shared = globalThis as typeof globalThis & { wuzzenDatabase?: Db };
  if (!shared.wuzzenDatabase) {
    const folder = process.env.WUZZEN_DATA;
    if (!folder) throw new Error('WUZZEN_DATA is not set: name the folder in which Wuzzen keeps its data.');
    mkdirSync(folder, { recursive: true });
    shared.wuzzenDatabase = openDatabase(databaseFile(folder));
  }
  return shared.wuzzenDatabase;
}
