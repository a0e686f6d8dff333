import { and, count, eq } from 'drizzle-orm';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import type { Db, Tx } from '@/db/client';
import { membership, sitting, sittingAudience, user } from '@/db/schema';
import { record } from '../house/audit';
import { tell } from '../house/bus';
import { newId } from '../house/context';
import { paced } from '../house/limitGuesses';
import { afterwards, writing } from '../house/writing';

/** A link found on the street must not fill the house: so many may come by one link. */
const mostByLink = 2_000;
/** A whole class comes within a minute from one address; a script that types names comes oftener, and then waits. */
const joins = paced(600, 500);

type LinkedSitting = { sittingId: string; title: string; courseId: string; anonymous: boolean };

/** The scheduled sitting a link leads to; null where it leads nowhere. */
export function sittingOfLink(db: Db | Tx, secret: string): LinkedSitting | null {
  if (secret.length < 16) return null;
  const row = db
    .select({
      sittingId: sitting.id,
      title: sitting.title,
      courseId: sitting.courseId,
      anonymous: sitting.anonymous,
    })
    .from(sittingAudience)
    .innerJoin(sitting, eq(sitting.id, sittingAudience.sittingId))
    .where(and(eq(sittingAudience.kind, 'link'), eq(sittingAudience.refId, secret), eq(sitting.state, 'scheduled')))
    .get();
  return row ?? null;
}

type Joined = { userId: string; sittingId: string };

/**
 * Takes in whoever comes by a sitting's link and types a name: they may take this one sitting and see nothing else. They
 * have no password, so that nobody can sign in as them, and stand on no list of the course.
 */
export function joinByLink(db: Db, secret: string, typed: string, address: string, now: Instant): Result<Joined> {
  const found = sittingOfLink(db, secret);
  if (!found) return notFound('exam');
  const name = typed.trim().replace(/\s+/g, ' ');
  if (name === '') return refused('bad-input', 'Type your name.', 'name');
  if (name.length > 80) return refused('bad-input', 'At most 80 characters.', 'name');
  if (joins(`${address}\n${found.sittingId}`, now) > 0)
    return refused('busy', 'Very many have come by this link at once. Try again in a second.');
  const userId = newId();
  return writing({ db, now, actor: { userId, name } }, (tx, within): Result<Joined> => {
    const so = tx.select({ n: count() }).from(membership).where(eq(membership.onlySitting, found.sittingId)).get();
    if ((so?.n ?? 0) >= mostByLink) return refused('conflict', 'This exam takes nobody more by its link.');
    const at = new Date(now);
    tx.insert(user).values({ id: userId, name, createdAt: at, updatedAt: at }).run();
    tx.insert(membership)
      .values({
        id: newId(),
        courseId: found.courseId,
        userId,
        role: 'student',
        onlySitting: found.sittingId,
        addedAt: now,
      })
      .run();
    record(tx, within, { action: 'people.join-by-link', courseId: found.courseId, subjectId: found.sittingId });
    afterwards(within, () => tell({ sittingId: found.sittingId, what: 'attempt', userId }));
    return ok({ userId, sittingId: found.sittingId });
  });
}
