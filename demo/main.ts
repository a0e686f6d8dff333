import { randomBytes } from 'node:crypto';
import { database } from '../src/db/client';
import { migrateDatabase } from '../src/db/migrate';
import { user } from '../src/db/schema';
import { keepToOneself } from '../src/server/house/dataFolder';
import { claimFolder, folderKind, keepOwnSecret } from '../src/server/house/installation';
import { loadDemo } from './load';

/** Loads the demo into the folder named by WUZZEN_DATA, once; a folder that holds people already is left as it is. */
const folder = process.env.WUZZEN_DATA;
if (!folder) throw new Error('WUZZEN_DATA is not set.');
keepToOneself();
const kind = process.env.WUZZEN_KIND === 'test' ? 'test' : 'demo';
const db = database();
migrateDatabase(db, folder);
claimFolder(db, kind);
if (folderKind(db) !== kind)
  throw new Error(`${folder} was created as ${folderKind(db)}; the demo is not loaded into it.`);
keepOwnSecret(db, randomBytes(32).toString('hex'));
if (!db.select({ id: user.id }).from(user).limit(1).get()) {
  console.log('Loading the demo …');
  await loadDemo(db, Date.now());
}
db.$client.pragma('wal_checkpoint(TRUNCATE)');
