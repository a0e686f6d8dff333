import { eq } from 'drizzle-orm';
import { notFound, ok } from '@/core/base/result';
import { course, sitting } from '@/db/schema';
import type { Door } from '../house/useCase';
import { admit } from '../people/permission';
import type { SittingRow } from '../records/audience';
import { type Whom, whomIn } from './releaseFacts';

/** A sitting as one of its students stands to it. */
export type Looked = { row: SittingRow; whom: Whom; timeZone: string; courseName: string };

/** To what a sitting shows to one of its students. Unknown and foreign ones are answered alike. */
export const toOwnResult: Door<readonly ['sittingId'], Looked & { courseId: string }> = {
  ids: ['sittingId'],
  action: 'results.see-own',
  open(context, sittingId) {
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
    return ok({ ...found, whom, timeZone: whom.timeZone, courseId: found.row.courseId });
  },
};
