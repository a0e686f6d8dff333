import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { APIError, createAuthEndpoint } from 'better-auth/api';
import { setSessionCookie } from 'better-auth/cookies';
import { hashPassword, verifyPassword } from 'better-auth/crypto';
import { and, eq, ne } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result, refused } from '@/core/base/result';
import { tidySignInName } from '@/core/people/names';
import { type Db, database, type Tx } from '@/db/client';
import { account, session, user, verification } from '@/db/schema';
import { type Actor, newId } from '../house/context';
import { installationSecret, serverNow } from '../house/installation';
import { isKnown, knownCookie, lanes, signInTries } from './signInTries';

const tries = signInTries();

/** Checking a password takes a processor's core for a tenth of a second: two lanes of two, and a class may wait in each. */
const checking = lanes(2, 600);

/** How long somebody stays in who was let in without a password, in seconds. */
const letInFor = 7 * 24 * 3600;

/** How somebody comes in: by a password, for as long as the browser is open or longer; or let in without one. */
const comesIn = z.enum(['for-now', 'stays', 'without-password']);

/**
 * Signs in whom the house has recognised or let in. It has no path: no request of the web leads to it. Making and checking a
 * password that nobody knows would take a server longer than the start of an attempt.
 */
const lettingIn = {
  id: 'let-in',
  endpoints: {
    letIn: createAuthEndpoint({ method: 'POST', body: z.object({ userId: z.string(), comesIn }) }, async (ctx) => {
      const { internalAdapter } = ctx.context;
      const found = await internalAdapter.findUserById(ctx.body.userId);
      if (!found) throw new APIError('UNAUTHORIZED');
      if (ctx.body.comesIn !== 'without-password') {
        const ends = ctx.body.comesIn === 'for-now';
        const own = await internalAdapter.createSession(found.id, ends);
        await setSessionCookie(ctx, { session: own, user: found }, ends);
        return ctx.json(null);
      }
      // Without a password there is no other way back to what they have begun: a closed browser must not end it.
      const expiresAt = new Date(Date.now() + letInFor * 1_000);
      const own = await internalAdapter.createSession(found.id, false, { expiresAt }, true);
      await setSessionCookie(ctx, { session: own, user: found }, false, { maxAge: letInFor });
      return ctx.json(null);
    }),
  },
};

/** How long somebody may be away who asked to stay signed in, in seconds. */
const idleFor = 12 * 3600;

const create = (db: Db) =>
  betterAuth({
    appName: 'Wuzzen',
    secret: installationSecret(db),
    baseURL: process.env.WUZZEN_ORIGIN,
    database: drizzleAdapter(db, { provider: 'sqlite', schema: { user, session, account, verification } }),
    // Whoever asks to stay signed in stays until they have not come by for so long; all others until the browser closes.
    session: { expiresIn: idleFor, updateAge: idleFor / 12 },
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
    plugins: [lettingIn],
    advanced: { cookiePrefix: 'wuzzen', database: { generateId: newId } },
  });

type SharedAuth = {
  wuzzenAuth?: ReturnType<typeof create>;
  wuzzenSessions?: Map<string, { actor: Actor; until: number }>;
};
const shared = globalThis as typeof globalThis & SharedAuth;

export function auth() {
  shared.wuzzenAuth ??= create(database());
  return shared.wuzzenAuth;
}

/** How long a looked-up session is believed without looking again; signing out forgets it at once. */
const believedFor = 20_000;
const mostKept = 5_000;

const sessionCookies = ['wuzzen.session_token=', '__Secure-wuzzen.session_token='];

/** The signed session among the cookies of a request; undefined for none. */
function sessionIn(cookies: string): string | undefined {
  const pairs = cookies.split(';').map((pair) => pair.trimStart());
  for (const pair of pairs)
    for (const name of sessionCookies)
      if (pair.startsWith(name) && pair.length > name.length) return pair.slice(name.length);
  return undefined;
}

/**
 * Who sends a request. Looking the session up costs more than the save of an answer, so a found one is kept for a short
 * while under the whole signed cookie.
 */
export async function actorOf(headers: Headers): Promise<Actor | null> {
  const cookie = sessionIn(headers.get('cookie') ?? '');
  if (!cookie) return null;
  shared.wuzzenSessions ??= new Map();
  const kept = shared.wuzzenSessions.get(cookie);
  const real = Date.now();
  if (kept && kept.until > real) return kept.actor;
  const found = await auth().api.getSession({ headers });
  if (!found) {
    shared.wuzzenSessions.delete(cookie);
    return null;
  }
  if (shared.wuzzenSessions.size >= mostKept) shared.wuzzenSessions.clear();
  const actor = { userId: found.user.id, name: found.user.name, sessionId: found.session.id };
  shared.wuzzenSessions.set(cookie, { actor, until: real + believedFor });
  return actor;
}

const said = (wait: number): string => {
  const seconds = Math.ceil(wait / 1_000);
  return `Too many wrong passwords. Wait ${seconds === 1 ? 'a second' : `${seconds} seconds`}, then try again.`;
};

/** Whose account somebody means by an email, a student number or the name they sign in with; null where it is nobody's. */
export function accountMeant(db: Db, typed: string): { userId: string; hash: string | null } | null {
  const name = tidySignInName(typed);
  return (
    db
      .select({ userId: user.id, hash: account.password })
      .from(user)
      .leftJoin(account, eq(account.userId, user.id))
      .where(name.includes('@') ? eq(user.email, name) : eq(user.signInName, name))
      .get() ?? null
  );
}

/**
 * Signs in by email, student number or chosen name, and password. The answer carries the session cookie, and a mark by which
 * this browser is known.
 *
 * @param stays whether the browser stays signed in when it is closed
 */
export async function signIn(
  typed: string,
  password: string,
  address: string,
  headers: Headers,
  stays: boolean,
): Promise<Result<Response>> {
  const db = database();
  const meant = accountMeant(db, typed);
  const account = meant?.userId ?? tidySignInName(typed);
  const known = isKnown(db, account, headers);
  const from = known ? 'a browser that is known' : address;
  const wait = tries.wait(account, from, serverNow());
  if (wait > 0) return refused('busy', said(wait), 'password');
  const isRight = await checking(known ? 'known' : 'unknown', async () => {
    // Many tries may have come at once: those before this one count.
    const now = tries.wait(account, from, serverNow());
    if (now > 0) return now;
    // Who is unknown, or has not chosen a password, takes as long as a wrong one.
    if (!meant?.hash) {
      await hashPassword(password);
      return false;
    }
    return verifyPassword({ hash: meant.hash, password });
  });
  if (isRight === null) return refused('busy', 'Many people are signing in just now. Try again in a moment.');
  if (typeof isRight === 'number') return refused('busy', said(isRight), 'password');
  if (!isRight || !meant) {
    tries.failed(account, from, serverNow());
    return refused('not-allowed', 'Name and password do not belong together.', 'password');
  }
  tries.succeeded(account, from);
  const response = await letIn(meant.userId, stays ? 'stays' : 'for-now', headers);
  response.headers.append('Set-Cookie', knownCookie(db, account, headers));
  return ok(response);
}

/** Lets somebody try again at once, whoever has guessed at their password before. */
export const forgiveTries = (userId: string): void => tries.forgive(userId);

/** Whose accounts somebody has to wait at just now, after wrong passwords. */
export const slowedAccounts = (now: number): Set<string> => tries.slowed(now);

/** Begins a session of a person whom the house knows to be it. The answer carries its cookie. */
export const letIn = (userId: string, how: z.infer<typeof comesIn>, headers: Headers): Promise<Response> =>
  auth().api.letIn({ body: { userId, comesIn: how }, headers, asResponse: true });

/** Ends the session and forgets it at once. */
export async function signOut(headers: Headers): Promise<Response> {
  shared.wuzzenSessions?.clear();
  return auth().api.signOut({ headers, asResponse: true });
}

/** Sets a person's password and ends the sessions they had. */
export async function setPassword(db: Db, userId: string, password: string): Promise<void> {
  const hash = await hashPassword(password);
  db.transaction((tx) => keepPassword(tx, userId, hash));
}

/**
 * Keeps the hash of a person's password and ends the sessions they had.
 *
 * @param besides the session that goes on
 */
export function keepPassword(tx: Tx, userId: string, hash: string, besides: string | null = null): void {
  const at = new Date(serverNow());
  tx.delete(account).where(eq(account.userId, userId)).run();
  tx.insert(account)
    .values({
      id: newId(),
      accountId: userId,
      providerId: 'credential',
      userId,
      password: hash,
      createdAt: at,
      updatedAt: at,
    })
    .run();
  endSessions(tx, userId, besides);
}

/** Ends sessions of a person, at once. */
export function endSessions(tx: Tx, userId: string, besides: string | null): void {
  const own = eq(session.userId, userId);
  tx.delete(session)
    .where(besides === null ? own : and(own, ne(session.id, besides)))
    .run();
  forgetSessions();
}

/** What is believed of sessions is looked up anew. */
export const forgetSessions = (): void => shared.wuzzenSessions?.clear();
