import { eq } from 'drizzle-orm';
import { notFound, ok, type Result } from '@/core/base/result';
import { course, sitting } from '@/db/schema';
import type { Context } from '../house/context';
import { admit } from '../people/permission';
import type { SittingRow } from '../sitting/audience';
import { type Whom, whomIn } from './releaseFacts';

/** A sitting as one of its students stands to it. */
export type Looked = { row: SittingRow; whom: Whom; timeZone: string; courseName: string };

/** A sitting of a course the actor is a student of. Unknown and foreign ones are answered alike. */
export function ownSitting(context: Context, sittingId: string): Result<Looked> {
  const found = context.db
    .select({ row: sitting, courseName: course.name })
    .from(sitting)
    .innerJoin(course, eq(course.id, sitting.courseId))
    .where(eq(sitting.id, sittingId))
    .get();
  if (!found) return notFound('result');
  const admitted = admit(context, found.row.courseId, 'results.see-own', true);
  const whom = whomIn(context.db, found.row, context.actor.userId);
  if (!admitted.ok || !whom) return notFound('result');
  return ok({ ...found, whom, timeZone: whom.timeZone });
}
