import { createHash, randomBytes } from 'node:crypto';
import { and, eq, isNull } from 'drizzle-orm';
import { ok, type Result, refused } from '@/core/base/result';
import { day, type Instant } from '@/core/base/time';
import type { Db, Tx } from '@/db/client';
import { invitation, user } from '@/db/schema';
import { setPassword } from './auth';

const validFor = 30 * day;

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** Makes a one-time token with which a person sets a password. Only its hash is kept. */
export function invite(tx: Tx, userId: string, now: Instant): string {
  const token = randomBytes(24).toString('base64url');
  tx.insert(invitation)
    .values({ tokenHash: hashOf(token), userId, expiresAt: now + validFor })
    .run();
  return token;
}

/** Whom an invitation is for; null when it is unknown, used or too old. */
export function invitedPerson(
  db: Db,
  token: string,
  now: Instant,
): { userId: string; name: string; email: string } | null {
  const row = db
    .select({ userId: user.id, name: user.name, email: user.email, expiresAt: invitation.expiresAt })
    .from(invitation)
    .innerJoin(user, eq(user.id, invitation.userId))
    .where(and(eq(invitation.tokenHash, hashOf(token)), isNull(invitation.usedAt)))
    .get();
  return row && row.expiresAt >= now ? { userId: row.userId, name: row.name, email: row.email } : null;
}

/** Uses an invitation up and sets the password. */
export async function acceptInvitation(
  db: Db,
  token: string,
  password: string,
  now: Instant,
): Promise<Result<{ email: string }>> {
  if (password.length < 10) return refused('bad-input', 'Choose a password of at least 10 characters.', 'password');
  if (password.length > 200) return refused('bad-input', 'Choose a password of at most 200 characters.', 'password');
  const person = invitedPerson(db, token, now);
  if (!person) return refused('not-found', 'This invitation has been used or is too old. Ask for a new one.');
  const used = db
    .update(invitation)
    .set({ usedAt: now })
    .where(and(eq(invitation.tokenHash, hashOf(token)), isNull(invitation.usedAt)))
    .run();
  if (used.changes === 0) return refused('not-found', 'This invitation has been used. Ask for a new one.');
  await setPassword(db, person.userId, password);
  return ok({ email: person.email });
}
