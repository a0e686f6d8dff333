import { nanoid } from 'nanoid';
import type { Instant } from '@/core/base/time';
import { type Db, database } from '@/db/client';
import { serverNow } from './installation';

/** Who asks. Roles are looked up per course by the use-case. */
export type Actor = {
  userId: string;
  name: string;
  /** The session in which they ask; absent where nobody signed in, as in what the house does by itself. */
  sessionId?: string;
};

/** The outermost transaction under way, which all that is written within it shares. */
export type Under = {
  /** What is done once it is committed: telling live pages. */
  later: (() => void)[];
  /** What is done when it ends, whether committed or refused: writing down who was refused. */
  anyway: (() => void)[];
  /** How many lines of the log were written in it. */
  lines: number;
};

/** What every use-case takes: who asks, when it is, and the database. Nothing else reaches it from outside. */
export type Context = {
  actor: Actor;
  now: Instant;
  db: Db;
  /** The address the request comes from, as the server around the framework saw it; absent where there is no request. */
  address?: string;
  /** Names the request in the log and on error pages; absent where there is no request. */
  requestId?: string;
  /** The name under which what is asked is carried out once, however often it arrives; absent where its sender gave none. */
  once?: string;
  /** Where files of every kind are kept; the data folder of this process unless a test names another. */
  files?: string;
  /** The transaction this is done within, if it is (see `writing`). */
  under?: Under;
};

/** A new id: 126 random bits, safe in addresses. */
export const newId = () => nanoid(21);

/** The house itself as an actor, for what the clock does. */
export const house: Actor = { userId: 'house', name: 'Wuzzen' };

/** The context in which this server acts for a person now. */
export const contextFor = (actor: Actor, headers?: Headers): Context => {
  const address = headers?.get('x-forwarded-for');
  const requestId = headers?.get('x-request-id');
  return {
    actor,
    now: serverNow(),
    db: database(),
    ...(address ? { address } : {}),
    ...(requestId ? { requestId } : {}),
  };
};
