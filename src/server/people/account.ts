import { hashPassword, verifyPassword } from 'better-auth/crypto';
import { and, desc, eq, gt, ne, sql } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { deviceSaid } from '@/core/people/deviceSaid';
import { account, membership, session, user } from '@/db/schema';
import { askedWithin } from '../house/askedWithin';
import { command, field, query } from '../house/useCase';
import { endSessions, forgetSessions, keepPassword } from './auth';
import { chosenNameInput } from './personFields';
import { signInTries } from './signInTries';

export type OwnSession = {
  id: string;
  device: string;
  address: string;
  since: number;
  lastUsed: number;
  isThis: boolean;
};

export type OwnAccount = {
  name: string;
  email: string | null;
  /** What one may type instead of an email to sign in. */
  signInName: string | null;
  hasPassword: boolean;
  sessions: OwnSession[];
};

const oneself = askedWithin('the account is that of who asks');

/** Who one is, and where one is signed in: this browser first, then the one used last. */
export const ownAccount = query({
  admits: oneself,
  does({ db, actor: { userId, sessionId }, now }): Result<OwnAccount> {
    const own = db

      .select({ name: user.name, email: user.email, signInName: user.signInName, password: account.password })
      .from(user)
      .leftJoin(account, eq(account.userId, user.id))
      .where(eq(user.id, userId))
      .get();
    if (!own) return notFound('person');
    const sessions = db
      .select()
      .from(session)
      .where(and(eq(session.userId, userId), gt(session.expiresAt, new Date(now))))
      .orderBy(desc(session.updatedAt))
      .all()
      .map((row) => ({
        id: row.id,
        device: deviceSaid(row.userAgent ?? ''),
        address: row.ipAddress ?? '',
        since: row.createdAt.getTime(),
        lastUsed: row.updatedAt.getTime(),
        isThis: row.id === sessionId,
      }))
      .sort((a, b) => Number(b.isThis) - Number(a.isThis));
    const { password, ...known } = own;
    return ok({ ...known, hasPassword: password !== null, sessions });
  },
});

/** A password that somebody chooses. */
export const newPassword = field(
  'password',
  z
    .string()
    .min(10, 'Choose a password of at least 10 characters.')
    .max(200, 'Choose a password of at most 200 characters.'),
);

const tries = signInTries();

/** Changes one's own password, which ends the sessions elsewhere. The one that holds has to be given. */
export const changePassword = command({
  admits: oneself,
  takes: [field('current', z.string().max(200)), newPassword],
  logs: 'account.password',
  async prepares({ db, actor: { userId }, now }, current, password): Promise<Result<{ hash: string }>> {
    const wait = tries.wait(userId, '', now);
    if (wait > 0) return refused('busy', `Wait ${Math.ceil(wait / 1_000)} seconds, then try again.`, 'current');
    const own = db.select({ hash: account.password }).from(account).where(eq(account.userId, userId)).get();
    if (!own?.hash || !(await verifyPassword({ hash: own.hash, password: current }))) {
      tries.failed(userId, '', now);
      return refused('not-allowed', 'This is not your password.', 'current');
    }
    tries.succeeded(userId, '');
    return ok({ hash: await hashPassword(password) });
  },
  does({ tx, actor, record, ready }): Result<null> {
    keepPassword(tx, actor.userId, ready.hash, actor.sessionId ?? null);
    record({ subjectId: actor.userId });
    return ok(null);
  },
});

/**
 * Chooses a name to sign in with instead of an email or a student number. It begins with a letter and is nobody's else, nor
 * anybody's student number: whoever takes a classmate's would keep them out.
 */
export const chooseSignInName = command({
  admits: oneself,
  takes: [field('signInName', chosenNameInput)],
  logs: 'account.sign-in-name',
  does({ tx, actor: { userId }, record }, signInName): Result<null> {
    const taken = tx
      .select({ id: user.id })
      .from(user)
      .where(and(eq(user.signInName, signInName), ne(user.id, userId)))
      .get();
    const isNumber = tx
      .select({ id: membership.id })
      .from(membership)
      .where(and(eq(sql`lower(${membership.studentNumber})`, signInName), ne(membership.userId, userId)))
      .limit(1)
      .get();
    if (taken || isNumber) return refused('conflict', 'Somebody else has this name. Choose another one.', 'signInName');
    tx.update(user).set({ signInName }).where(eq(user.id, userId)).run();
    record({ subjectId: userId });
    return ok(null);
  },
});

/** Ends one of one's own sessions: whoever uses it is signed out at once. */
export const endSession = command({
  admits: oneself,
  takes: [id('session')],
  logs: 'account.session-ended',
  does({ tx, actor, record, afterwards }, sessionId): Result<null> {
    const gone = tx
      .delete(session)
      .where(and(eq(session.id, sessionId), eq(session.userId, actor.userId)))
      .run();
    if (gone.changes === 0) return notFound('session');
    record({ subjectId: sessionId });
    afterwards(forgetSessions);
    return ok(null);
  },
});

/** Ends all of one's own sessions but this one. */
export const endOtherSessions = command({
  admits: oneself,
  logs: 'account.sessions-ended',
  does({ tx, actor, record }): Result<null> {
    endSessions(tx, actor.userId, actor.sessionId ?? '');
    record({ subjectId: actor.userId });
    return ok(null);
  },
});
