import { existsSync } from 'node:fs';
import { eq } from 'drizzle-orm';
import { databaseFile, openDatabase } from '../src/db/client';
import { user } from '../src/db/schema';
import { invitationAddress, invite } from '../src/server/people/invitations';

/**
 * A new address at which somebody chooses a password, for whoever nobody else can help: the last instructor. Whoever may
 * read the data folder may make one. The server may run meanwhile.
 */
const [email = ''] = process.argv.slice(2);
const folder = process.env.WUZZEN_DATA;
if (!folder || !email) {
  console.error(
    'Name the data folder and the email: WUZZEN_DATA=… WUZZEN_ORIGIN=… npm run new-address -- somebody@school.example',
  );
  process.exit(2);
}
if (!existsSync(databaseFile(folder))) {
  console.error(`${folder} holds no data of Wuzzen.`);
  process.exit(1);
}
const db = openDatabase(databaseFile(folder));
const found = db
  .select({ id: user.id, name: user.name })
  .from(user)
  .where(eq(user.email, email.trim().toLowerCase()))
  .get();
if (!found) {
  console.error(`Nobody has the email ${email}.`);
  process.exit(1);
}
const token = db.transaction((tx) => invite(tx, found.id, Date.now()));
console.log(`${found.name} chooses a password here, once, within 30 days:\n  ${invitationAddress(token)}`);
db.$client.close();
