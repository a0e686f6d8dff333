import { nanoid } from 'nanoid';
import type { Instant } from '@/core/base/time';
import { type Db, database } from '@/db/client';
import { serverNow } from './installation';

/** Who asks. Roles are looked up per course by the use-case. */
export type Actor = { userId: string; name: string };

/** What every use-case takes: who asks, when it is, and the database. Nothing else reaches it from outside. */
export type Context = {
  actor: Actor;
  now: Instant;
  db: Db;
  /** The address the request comes from, as the server around the framework saw it; absent where there is no request. */
  address?: string;
};

/** A new id: 126 random bits, safe in addresses. */
export const newId = () => nanoid(21);

/** The house itself as an actor, for what the clock does. */
export const house: Actor = { userId: 'house', name: 'Wuzzen' };

/** The context in which this server acts for a person now. */
export const contextFor = (actor: Actor, headers?: Headers): Context => {
  const address = headers?.get('x-forwarded-for');
  return { actor, now: serverNow(), db: database(), ...(address ? { address } : {}) };
};
