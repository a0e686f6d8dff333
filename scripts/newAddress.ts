import { existsSync } from 'node:fs';
import { databaseFile, openDatabase } from '../src/db/client';
import { accountMeant } from '../src/server/people/auth';
import { invitationAddress, invite, invitedPerson } from '../src/server/people/invitations';

/**
 * A new address at which somebody chooses a password, for whoever nobody else can help: the last instructor. Whoever may
 * read the data folder may make one. The server may run meanwhile.
 */
const [name = ''] = process.argv.slice(2);
const folder = process.env.WUZZEN_DATA;
if (!folder || !name) {
  console.error(
    'Name the data folder, and what they sign in with (email, student number or name): WUZZEN_DATA=… WUZZEN_ORIGIN=… npm run new-address -- somebody@school.example',
  );
  process.exit(2);
}
if (!existsSync(databaseFile(folder))) {
  console.error(`${folder} holds no data of Wuzzen.`);
  process.exit(1);
}
const db = openDatabase(databaseFile(folder));
const found = accountMeant(db, name);
if (!found) {
  console.error(`Nobody signs in with ${name}.`);
  process.exit(1);
}
const token = db.transaction((tx) => invite(tx, found.userId, Date.now()));
console.log(
  `${invitedPerson(db, token, Date.now())?.name} chooses a password here, once, within 30 days:\n  ${invitationAddress(token)}`,
);
db.$client.close();
