import { and, desc, eq, gt, inArray, isNotNull, notInArray, or, sql } from 'drizzle-orm';
import { z } from 'zod';
import { notFound, ok, type Result } from '@/core/base/result';
import { day, type Instant } from '@/core/base/time';
import { permits } from '@/core/people/policy';
import type { Db } from '@/db/client';
import { audit, bank, courseBank, exam, sitting, user } from '@/db/schema';
import { query } from './house/useCase';
import { toMarking } from './marking/toMarking';
import { undoables } from './undoChange';

/** Within what something was done: a bank, an exam, a sitting; the course itself where it is null. */
export type Within = { kind: 'bank' | 'exam' | 'sitting'; id: string; name: string };

/** Something that was done, and can be taken back or was. */
export type DoneChange = {
  auditId: number;
  at: Instant;
  by: string;
  said: string;
  within: Within | null;
  undoneAt: Instant | null;
};

/** So long and so many of them stand in the list. */
const listed = { back: 60 * day, most: 200 };

const unlisted = () => [...undoables.values()].filter((one) => !one.isListed).map((one) => one.kind);

/** The banks, exams and sittings of a course by their ids. */
function placesOf(db: Db, courseId: string): Map<string, Within> {
  const banks = db
    .select({ id: bank.id, name: bank.name })
    .from(courseBank)
    .innerJoin(bank, eq(bank.id, courseBank.bankId))
    .where(eq(courseBank.courseId, courseId))
    .all();
  const exams = db.select({ id: exam.id, name: exam.title }).from(exam).where(eq(exam.courseId, courseId)).all();
  const sittings = db
    .select({ id: sitting.id, name: exam.title })
    .from(sitting)
    .innerJoin(exam, eq(exam.id, sitting.examId))
    .where(eq(sitting.courseId, courseId))
    .all();
  return new Map([
    ...banks.map((one): [string, Within] => [one.id, { kind: 'bank', ...one }]),
    ...exams.map((one): [string, Within] => [one.id, { kind: 'exam', ...one }]),
    ...sittings.map((one): [string, Within] => [one.id, { kind: 'sitting', ...one }]),
  ]);
}

/**
 * What was done lately in a course, a bank, an exam or a sitting and can be taken back, the newest first: by everybody; for a
 * marker by themselves. What was done to a bank from another course stands there too.
 */
export const doneLately = query({
  admits: toMarking,
  takes: [z.string().max(40).nullable().default(null)],
  does({ db, context, courseId, role, sittings }, within): Result<{ within: Within | null; changes: DoneChange[] }> {
    const places = placesOf(db, courseId);
    const place = within === null ? null : places.get(within);
    if (place === undefined) return notFound('place');
    const banks = [...places.values()].filter((one) => one.kind === 'bank').map((one) => one.id);
    const rows = db
      .select({ audit, by: user.name })
      .from(audit)
      .leftJoin(user, eq(user.id, audit.actorId))
      .where(
        and(
          isNotNull(audit.undo),
          notInArray(sql`${audit.undo} ->> 'kind'`, unlisted()),
          gt(audit.at, context.now - listed.back),
          within === null ? or(eq(audit.courseId, courseId), inArray(audit.within, banks)) : eq(audit.within, within),
          sittings === null ? undefined : eq(audit.actorId, context.actor.userId),
        ),
      )
      .orderBy(desc(audit.at), desc(audit.id))
      .limit(listed.most)
      .all();
    return ok({
      within: place,
      changes: rows.flatMap(({ audit: row, by }): DoneChange[] => {
        const one = undoables.get(String(row.undo?.kind));
        if (!one || !row.undo || !permits(one.action, role, true)) return [];
        return [
          {
            auditId: row.id,
            at: row.at,
            by: by ?? '',
            said: one.says(row.undo, row.detail ?? {}),
            within: row.within === null ? null : (places.get(row.within) ?? null),
            undoneAt: row.undoneAt,
          },
        ];
      }),
    });
  },
});
