import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { APIError, createAuthEndpoint } from 'better-auth/api';
import { setSessionCookie } from 'better-auth/cookies';
import { hashPassword } from 'better-auth/crypto';
import { and, eq, ne } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result, refused } from '@/core/base/result';
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

/**
 * Signs in whom the house itself has let in, without a password. It has no path: no request of the web leads to it.
 * Making and checking a password that nobody knows would take a server longer than the start of an attempt.
 */
const letIn = {
  id: 'let-in',
  endpoints: {
    letIn: createAuthEndpoint({ method: 'POST', body: z.object({ userId: z.string() }) }, async (ctx) => {
      const { internalAdapter } = ctx.context;
      const found = await internalAdapter.findUserById(ctx.body.userId);
      if (!found) throw new APIError('UNAUTHORIZED');
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
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 10, maxPasswordLength: 200 },
    // Whoever asks to stay signed in stays until they have not come by for so long; all others until the browser closes.
    session: { expiresIn: idleFor, updateAge: idleFor / 12 },
    rateLimit: { enabled: false },
    telemetry: { enabled: false },
    plugins: [letIn],
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

const sessionCookie = /(?:^|;\s*)(?:__Secure-)?wuzzen\.session_token=([^;]+)/;

/**
 * Who sends a request. Looking the session up costs more than the save of an answer, so a found one is kept for a short
 * while under the whole signed cookie.
 */
export async function actorOf(headers: Headers): Promise<Actor | null> {
  const cookie = sessionCookie.exec(headers.get('cookie') ?? '')?.[1];
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

/**
 * Signs in by email and password. The answer carries the session cookie, and a mark by which this browser is known.
 *
 * @param stays whether the browser stays signed in when it is closed
 */
export async function signIn(
  email: string,
  password: string,
  address: string,
  headers: Headers,
  stays: boolean,
): Promise<Result<Response>> {
  const db = database();
  const known = isKnown(db, email, headers);
  const from = known ? 'a browser that is known' : address;
  const wait = tries.wait(email, from, serverNow());
  if (wait > 0) return refused('busy', said(wait), 'password');
  const response = await checking(known ? 'known' : 'unknown', async () => {
    // Many tries may have come at once: those before this one count.
    const now = tries.wait(email, from, serverNow());
    if (now > 0) return now;
    return auth().api.signInEmail({ body: { email, password, rememberMe: stays }, headers, asResponse: true });
  });
  if (response === null) return refused('busy', 'Many people are signing in just now. Try again in a moment.');
  if (typeof response === 'number') return refused('busy', said(response), 'password');
  if (!response.ok) {
    tries.failed(email, from, serverNow());
    return refused('not-allowed', 'Email and password do not belong together.', 'password');
  }
  tries.succeeded(email, from);
  response.headers.append('Set-Cookie', knownCookie(db, email, headers));
  return ok(response);
}

/** Lets somebody try again at once, whoever has guessed at their password before. */
export const forgiveTries = (email: string): void => tries.forgive(email);

/** Signs in a person the house has just let in. The answer carries the session cookie. */
export const signInLetIn = (userId: string, headers: Headers): Promise<Response> =>
  auth().api.letIn({ body: { userId }, headers, asResponse: true });

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
