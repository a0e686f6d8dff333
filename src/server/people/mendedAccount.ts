import { and, eq, ne } from 'drizzle-orm';
import { ok, type Result, refused } from '@/core/base/result';
import { tidySignInName } from '@/core/people/names';
import type { Tx } from '@/db/client';
import { user } from '@/db/schema';
import { signInNames } from './enrol';

/** What somebody is called and signs in with, and their student number in a course. */
export type Account = {
  name: string;
  lastName: string;
  email: string | null;
  signInName: string | null;
  studentNumber: string | null;
};

/** What of it is to be another; absent: it stays, and empty: there is none. */
type Mend = {
  name?: string | undefined;
  lastName?: string | undefined;
  email?: string | undefined;
  signInName?: string | undefined;
  studentNumber: string;
};

/**
 * The account as it shall be: there is always something to sign in with, and it is nobody else's. Who signs in with their
 * student number signs in with the new one.
 */
export function mendedAccount(
  tx: Tx,
  before: Account & { userId: string },
  input: Mend,
): Result<Omit<Account, 'studentNumber'>> {
  const email = input.email === undefined ? before.email : input.email || null;
  const ownNumber = tidySignInName(before.studentNumber ?? '');
  const followsNumber = input.signInName === undefined || input.signInName === (before.signInName ?? '');
  const kept = input.signInName === undefined ? before.signInName : input.signInName || null;
  const wanted =
    followsNumber && kept !== null && kept === ownNumber && input.studentNumber
      ? tidySignInName(input.studentNumber)
      : kept;
  const name = input.name ?? before.name;
  const signInName =
    wanted ?? (email === null ? signInNames(tx)({ name, email: '', studentNumber: input.studentNumber }) : null);
  const taken = (column: typeof user.email | typeof user.signInName, value: string | null) =>
    value !== null &&
    tx
      .select({ id: user.id })
      .from(user)
      .where(and(eq(column, value), ne(user.id, before.userId)))
      .get() !== undefined;
  if (taken(user.email, email)) return refused('conflict', `Somebody else has the email ${email}.`, 'email');
  if (taken(user.signInName, signInName))
    return refused(
      'conflict',
      `Somebody else signs in with ${signInName} in this school.`,
      wanted === kept ? 'signInName' : 'studentNumber',
    );
  const lastName = input.lastName ?? before.lastName;
  // The part of a name that was mended away is none of it any more, unless somebody says so anew.
  const isGone = lastName === before.lastName && name !== before.name && !` ${name} `.includes(` ${lastName} `);
  return ok({ name, lastName: isGone ? '' : lastName, email, signInName });
}
