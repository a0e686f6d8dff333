/**
 * Failed sign-ins are counted by account and address together: a whole class sits behind one address and signs in within
 * the same minute, so the address alone must not lock anyone out.
 */
const mostTries = 8;
const window = 15 * 60_000;

const tries = new Map<string, { count: number; since: number }>();

/** Counts a try. @returns 0 when it may be made, else the milliseconds to wait */
export function mayTrySignIn(email: string, address: string, now: number): number {
  const key = `${email.toLowerCase()}\n${address}`;
  if (tries.size > 20_000) tries.clear();
  const known = tries.get(key);
  if (!known || now - known.since > window) {
    tries.set(key, { count: 1, since: now });
    return 0;
  }
  known.count += 1;
  return known.count > mostTries ? known.since + window - now : 0;
}

export const forgetAttempts = (email: string, address: string) => tries.delete(`${email.toLowerCase()}\n${address}`);
