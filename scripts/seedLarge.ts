import { randomBytes } from 'node:crypto';
import { rmSync } from 'node:fs';
import { loadDemo } from '../demo/load';
import { database } from '../src/db/client';
import { migrateDatabase } from '../src/db/migrate';
import { sitting } from '../src/db/schema';
import { claimFolder, keepOwnSecret } from '../src/server/house/installation';
import { enlarge, large } from './bench/largeSchool';

/** The school of many questions and students that the bench measures, in a folder to be served from: begun anew each time. */
const folder = process.env.WUZZEN_DATA ?? 'data/large';
process.env.WUZZEN_DATA = folder;
rmSync(folder, { recursive: true, force: true });
const db = database();
migrateDatabase(db, folder);
claimFolder(db, 'demo');
keepOwnSecret(db, randomBytes(32).toString('hex'));
await loadDemo(db, Date.now());
enlarge(db, db.select().from(sitting).get()?.courseId ?? '', Date.now());
db.$client.pragma('wal_checkpoint(TRUNCATE)');
console.log(
  `${large.questions} questions and ${large.students} students are in ${folder}. Serve them: WUZZEN_DATA=${folder} npm run dev`,
);
