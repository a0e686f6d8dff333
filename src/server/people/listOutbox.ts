import { and, count, desc, eq, lt, or, sql } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result } from '@/core/base/result';
import { outbox, user } from '@/db/schema';
import { query } from '../house/useCase';
import { toCourse } from './toCourse';

type SentMessage = { id: number; at: number; name: string; email: string; subject: string; body: string };

/** What opens an account stands in the message itself, and for nobody else to read. */
const masked = (body: string): string =>
  body.replace(/\/invitation\/[\w-]+/g, '/invitation/… (only in the message itself)');

/** How many stand on one page. */
const onPage = 100;

const asked = z.object({
  /** Part of a name, an email or a subject. */
  find: z.string().trim().max(100).default(''),
  /** Only those sent before this one. */
  before: z.number().int().positive().nullable().default(null),
});

export type Outbox = {
  messages: SentMessage[];
  /** How many there are of what was asked for, on all pages. */
  all: number;
  /** The message before which the next page begins; null on the last one. */
  older: number | null;
};

/**
 * The messages of a course, the newest first, a page at a time. Addresses that open an account are left out: they are their
 * owner's.
 */
export const listOutbox = query({
  admits: toCourse('people.see'),
  takes: [asked.default({ find: '', before: null })],
  does({ db, courseId }, { find, before }): Result<Outbox> {
    const holds = (column: typeof user.name | typeof outbox.email | typeof outbox.subject) =>
      sql`instr(lower(${column}), ${find.toLowerCase()}) > 0`;
    const wanted = and(
      eq(outbox.courseId, courseId),
      find ? or(holds(user.name), holds(outbox.email), holds(outbox.subject)) : undefined,
    );
    const some = db
      .select({
        id: outbox.id,
        at: outbox.at,
        name: user.name,
        email: outbox.email,
        subject: outbox.subject,
        body: outbox.body,
      })
      .from(outbox)
      .innerJoin(user, eq(user.id, outbox.userId))
      .where(and(wanted, before === null ? undefined : lt(outbox.id, before)))
      .orderBy(desc(outbox.id))
      .limit(onPage + 1)
      .all();
    const messages = some.slice(0, onPage).map((one) => ({ ...one, body: masked(one.body) }));
    const all =
      db.select({ n: count() }).from(outbox).innerJoin(user, eq(user.id, outbox.userId)).where(wanted).get()?.n ?? 0;
    return ok({ messages, all, older: some.length > onPage ? (messages.at(-1)?.id ?? null) : null });
  },
});
