import { betterAuth } from 'better-auth';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { APIError, createAuthEndpoint } from 'better-auth/api';
import { setSessionCookie } from 'better-auth/cookies';
import { hashPassword } from 'better-auth/crypto';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result, refused } from '@/core/base/result';
import { type Db, database } from '@/db/client';
import { account, session, user, verification } from '@/db/schema';
import { type Actor, newId } from '../house/context';
import { installationSecret, serverNow } from '../house/installation';
import { limitGuesses } from '../house/limitGuesses';

/**
 * Failed sign-ins are counted by account and address together: a whole class sits behind one address and signs in within
 * the same minute, so the address alone must not lock anyone out.
 */
const signIns = limitGuesses(8, 15 * 60_000);

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
      await setSessionCookie(ctx, { session: await internalAdapter.createSession(found.id), user: found });
      return ctx.json(null);
    }),
  },
};

const create = (db: Db) =>
  betterAuth({
    appName: 'Wuzzen',
    secret: installationSecret(db),
    baseURL: process.env.WUZZEN_ORIGIN,
    database: drizzleAdapter(db, { provider: 'sqlite', schema: { user, session, account, verification } }),
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 10, maxPasswordLength: 200 },
    session: { expiresIn: 7 * 24 * 3600, updateAge: 24 * 3600 },
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
  const actor = { userId: found.user.id, name: found.user.name };
  shared.wuzzenSessions.set(cookie, { actor, until: real + believedFor });
  return actor;
}

/** Signs in by email and password. The answer carries the session cookie. */
export async function signIn(
  email: string,
  password: string,
  address: string,
  headers: Headers,
): Promise<Result<Response>> {
  const now = serverNow();
  const key = `${email.toLowerCase()}\n${address}`;
  const wait = signIns.wait(key, now);
  if (wait > 0)
    return refused(
      'busy',
      `Too many tries. Wait ${Math.ceil(wait / 60_000)} minutes, or ask your instructor for a new invitation.`,
    );
  const response = await auth().api.signInEmail({ body: { email, password }, headers, asResponse: true });
  if (!response.ok) return refused('not-allowed', 'Email and password do not belong together.', 'password');
  signIns.forget(key);
  return ok(response);
}

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
  db.transaction((tx) => {
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
    tx.delete(session).where(eq(session.userId, userId)).run();
  });
  shared.wuzzenSessions?.clear();
}
