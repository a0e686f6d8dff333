import { eq } from 'drizzle-orm';
import type { Db } from '@/db/client';
import { installation } from '@/db/schema';

/** What a data folder is for. Only demo and test folders may have their clock moved, and offer people to sign in as. */
type FolderKind = 'production' | 'demo' | 'test';

function read(db: Db, name: string): string | null {
  return db.select().from(installation).where(eq(installation.name, name)).get()?.value ?? null;
}

/** The kind the folder was created as; null while it is new. */
export const folderKind = (db: Db): FolderKind | null => read(db, 'kind') as FolderKind | null;

/** Marks a new folder; an existing one keeps its kind. */
export function claimFolder(db: Db, kind: FolderKind): void {
  db.insert(installation).values({ name: 'kind', value: kind }).onConflictDoNothing().run();
}

const shortestSecret = 32;

/** The secret of the installation: from the environment; a demo or test folder keeps one of its own. */
export function installationSecret(db: Db): string {
  const secret = process.env.WUZZEN_SECRET ?? (folderKind(db) === 'production' ? null : read(db, 'secret'));
  if (!secret) throw new Error('WUZZEN_SECRET is not set.');
  if (secret.length < shortestSecret)
    throw new Error(`WUZZEN_SECRET is too short: give at least ${shortestSecret} random characters.`);
  return secret;
}

export function keepOwnSecret(db: Db, secret: string): void {
  db.insert(installation).values({ name: 'secret', value: secret }).onConflictDoNothing().run();
}

const shared = globalThis as typeof globalThis & { wuzzenClockOffset?: number };

/** The server's clock: the one source of now. */
export const serverNow = (): number => Date.now() + (shared.wuzzenClockOffset ?? 0);

/** Moves the clock of a demo or test folder. @returns false for a production folder, which refuses */
export function moveClock(db: Db, offset: number): boolean {
  const kind = folderKind(db);
  if (kind !== 'demo' && kind !== 'test') return false;
  shared.wuzzenClockOffset = offset;
  return true;
}
