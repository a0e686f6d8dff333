import type { Db } from '@/db/client';
import { audit } from '@/db/schema';
import type { Context } from './context';

/** The same refusal of the same person is written down once in so long, so that a script cannot fill the log. */
const onceIn = 60_000;
const mostKept = 20_000;
const logged = new WeakMap<Db, Map<string, number>>();

/** What was asked for and not allowed, for the log. */
type Refusal = { action: string; courseId: string | null; subjectId: string; detail?: Record<string, unknown> };

/** Writes a refusal into the log, once what was refused has been rolled back. */
export function logRefusal(context: Context, refusal: Refusal): void {
  const { db, now, actor, address } = context;
  const known = logged.get(db) ?? new Map<string, number>();
  logged.set(db, known);
  const key = `${actor.userId}\n${refusal.action}\n${refusal.subjectId}`;
  const last = known.get(key);
  if (last !== undefined && now - last < onceIn) return;
  if (known.size > mostKept) known.clear();
  known.set(key, now);
  const write = () =>
    db
      .insert(audit)
      .values({
        at: now,
        actorId: actor.userId,
        ...refusal,
        action: `refused.${refusal.action}`,
        detail: { ...refusal.detail, ...(address ? { address } : {}) },
      })
      .run();
  if (context.under) context.under.anyway.push(write);
  else write();
}
