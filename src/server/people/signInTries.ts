import { createHmac, timingSafeEqual } from 'node:crypto';
import { minute } from '@/core/base/time';
import { delayAfter } from '@/core/people/signInDelay';
import type { Db } from '@/db/client';
import { installationSecret } from '../house/installation';

/** After so long without a try, those before are forgotten. */
const forgottenAfter = 15 * minute;
const mostKept = 20_000;

type Tried = { failures: number; last: number };

/**
 * Wrong passwords, by account and by where they come from: a whole class sits behind one address and signs in within the
 * same minute, so that an address alone says nothing; and a browser in which somebody has signed in before has a count of
 * its own, so that whoever guesses beside it does not slow it down.
 */
export function signInTries() {
  const tries = new Map<string, Tried>();
  const known = (key: string, now: number): Tried => {
    const found = tries.get(key);
    return found && now - found.last <= forgottenAfter ? found : { failures: 0, last: 0 };
  };
  return {
    /** How long is to be waited before the next try, in milliseconds. */
    wait(account: string, from: string, now: number): number {
      const { failures, last } = known(`${account}\n${from}`, now);
      return Math.max(0, last + delayAfter(failures) - now);
    },
    failed(account: string, from: string, now: number): void {
      if (tries.size > mostKept) for (const [key, { last }] of tries) if (now - last > minute) tries.delete(key);
      const key = `${account}\n${from}`;
      tries.set(key, { failures: known(key, now).failures + 1, last: now });
    },
    succeeded: (account: string, from: string): void => void tries.delete(`${account}\n${from}`),
    /** The accounts at which somebody somewhere has to wait. */
    slowed(now: number): Set<string> {
      const accounts = new Set<string>();
      for (const [key, { failures, last }] of tries)
        if (last + delayAfter(failures) > now) accounts.add(key.slice(0, key.indexOf('\n')));
      return accounts;
    },
    /** Forgets all wrong passwords for an account, wherever they came from. */
    forgive(account: string): void {
      for (const key of tries.keys()) if (key.startsWith(`${account}\n`)) tries.delete(key);
    },
  };
}

/**
 * Does what costs a processor's time for a few at a time, in two lanes: who is known does not stand in line behind who may
 * be guessing.
 *
 * @param atOnce how many in each lane
 * @param most how many may wait in each
 */
export function lanes(atOnce: number, most: number) {
  const lane = () => ({ running: 0, waiting: [] as (() => void)[] });
  const all = { known: lane(), unknown: lane() };
  /** @returns null where too many wait already */
  return async <T>(which: keyof typeof all, act: () => Promise<T>): Promise<T | null> => {
    const own = all[which];
    if (own.running >= atOnce) {
      if (own.waiting.length >= most) return null;
      // Whoever is done hands its place on.
      await new Promise<void>((resolve) => own.waiting.push(resolve));
    } else own.running += 1;
    try {
      return await act();
    } finally {
      const next = own.waiting.shift();
      if (next) next();
      else own.running -= 1;
    }
  };
}

/** The cookie by which a browser is known in which somebody has signed in before: a mark for each of the last few. */
const markCookie = 'wuzzen.known';
const mostMarks = 8;
const markLives = 180 * 24 * 3600;

const markOf = (db: Db, account: string): string =>
  createHmac('sha256', installationSecret(db)).update(`known/${account}`).digest('base64url');

const marksIn = (headers: Headers): string[] =>
  (headers.get('cookie') ?? '')
    .split(';')
    .map((one) => one.trim())
    .find((one) => one.startsWith(`${markCookie}=`))
    ?.slice(markCookie.length + 1)
    .split('.')
    .slice(0, mostMarks) ?? [];

/** Whether somebody has signed in to this account in this browser before. */
export function isKnown(db: Db, account: string, headers: Headers): boolean {
  const own = Buffer.from(markOf(db, account));
  return marksIn(headers).some((mark) => {
    const sent = Buffer.from(mark);
    return sent.length === own.length && timingSafeEqual(sent, own);
  });
}

/** The cookie that keeps it in mind. */
export function knownCookie(db: Db, account: string, headers: Headers): string {
  const mark = markOf(db, account);
  const marks = [mark, ...marksIn(headers).filter((one) => one !== mark && /^[\w-]+$/.test(one))].slice(0, mostMarks);
  const secure = process.env.WUZZEN_ORIGIN?.startsWith('https:') ? '; Secure' : '';
  return `${markCookie}=${marks.join('.')}; Path=/api/sign-in; HttpOnly; SameSite=Lax; Max-Age=${markLives}${secure}`;
}
