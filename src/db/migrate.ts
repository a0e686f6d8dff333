import { createHash } from 'node:crypto';
import { copyFileSync, existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { migrate } from 'drizzle-orm/better-sqlite3/migrator';
import { type Db, databaseFile } from './client';

const migrationsFolder = join(process.cwd(), 'src/db/migrations');

/**
 * Brings the database to the schema of this version. Foreign keys are off meanwhile, because a table rebuilt with them
 * on would take its children along, and are checked afterwards. A copy of the file is kept before anything changes.
 *
 * @param folder the data folder, for the copy; without one (a database in memory) none is made
 */
export function migrateDatabase(db: Db, folder: string | null): void {
  const applied = appliedMigrations(db);
  if (applied > 0 && !beganHere(db))
    throw new Error(
      'The data folder was written before the first release, and cannot be taken over: begin it anew (the demo with --fresh).',
    );
  const known = readdirSync(migrationsFolder).filter((name) => name.endsWith('.sql')).length;
  if (applied === known) return;
  if (applied > known) throw new Error('The data folder was written by a newer version of Wuzzen.');
  if (folder && applied > 0 && existsSync(databaseFile(folder))) {
    db.$client.pragma('wal_checkpoint(TRUNCATE)');
    copyFileSync(databaseFile(folder), join(folder, `before-migration-${applied + 1}.db`));
  }
  db.$client.pragma('foreign_keys = OFF');
  migrate(db, { migrationsFolder });
  const broken = db.$client.pragma('foreign_key_check') as unknown[];
  if (broken.length > 0) throw new Error(`The migration left ${broken.length} rows without the row they point to.`);
  db.$client.pragma('foreign_keys = ON');
}

/** Whether the first migration that was applied is the first of this version. */
function beganHere(db: Db): boolean {
  const [first] = readdirSync(migrationsFolder)
    .filter((name) => name.endsWith('.sql'))
    .sort();
  const hash = createHash('sha256')
    .update(readFileSync(join(migrationsFolder, first ?? '')))
    .digest('hex');
  return db.$client.prepare('select hash from __drizzle_migrations order by created_at limit 1').pluck().get() === hash;
}

function appliedMigrations(db: Db): number {
  const table = db.$client.prepare("select 1 from sqlite_master where name = '__drizzle_migrations'").get();
  if (!table) return 0;
  return (db.$client.prepare('select count(*) as n from __drizzle_migrations').get() as { n: number }).n;
}
