import { and, asc, desc, eq, isNull, ne, sql } from 'drizzle-orm';
import { z } from 'zod';
import { grouped } from '@/core/base/grouped';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import { linesOf } from '@/core/exam/design';
import { type DesignSaid, designSaid } from '@/core/exam/designSaid';
import { permits, type Role } from '@/core/people/policy';
import { rulesSaid } from '@/core/sitting/rulesSaid';
import type { Db, Tx } from '@/db/client';
import { exam, examLook, examRemark, membership, sitting, user } from '@/db/schema';
import { type Context, newId } from '../house/context';
import { send } from '../house/outbox';
import { command, query } from '../house/useCase';
import { phaseOf, rulesOf, type SittingPhase } from '../records/audience';
import { checkedPlan } from './checkedPlan';
import { designNames } from './designNames';
import { fingerprint, type LookState, looksAt } from './lookState';
import { toExam } from './toExam';
import { toLook } from './toLook';

export type Remark = {
  id: string;
  author: string;
  /** The part, line or sitting it is about; null for the exam as a whole. */
  aboutId: string | null;
  text: string;
  at: Instant;
  settled: boolean;
  own: boolean;
};

export type LookPage = {
  title: string;
  revision: number;
  timeZone: string;
  said: DesignSaid;
  instructions: Rich;
  /** What the plan check finds. */
  problems: string[];
  sittings: { id: string; title: string; phase: SittingPhase; said: string[] }[];
  remarks: Remark[];
  looks: LookState[];
  /** Whether this person composes the exam, and so asks and settles. */
  composes: boolean;
  /** The look this person was asked for. */
  mine: LookState | null;
  /** Who can be asked. */
  colleagues: { userId: string; name: string; role: Role }[];
};

/** An exam to be looked through: all of it in words, the rules of its sittings, and what was remarked. */
export const openLook = query({
  admits: toLook,
  does({ db, now, actor, courseId, examId, exam: row, revision, timeZone, role }): Result<LookPage> {
    const { design } = revision;
    const composes = permits('exam.change', role);
    const looks = looksAt(db, examId, design);
    const sittings = db
      .select()
      .from(sitting)
      .where(and(eq(sitting.examId, examId), ne(sitting.state, 'cancelled')))
      .orderBy(asc(sitting.opens))
      .all();
    const remarks = db
      .select({ remark: examRemark, name: user.name })
      .from(examRemark)
      .innerJoin(user, eq(user.id, examRemark.authorId))
      .where(eq(examRemark.examId, examId))
      .orderBy(asc(examRemark.at), sql`exam_remark.rowid`)
      .all();
    const asked = new Set(looks.map((look) => look.colleagueId));
    return ok({
      title: row.title,
      revision: revision.number,
      timeZone,
      instructions: design.instructions,
      said: designSaid(design, designNames(db, courseId, [design])),
      problems: checkedPlan(db, { courseId, examId, design, now }).check.problems.map((one) => one.message),
      sittings: sittings.map((one) => ({
        id: one.id,
        title: one.title,
        phase: phaseOf(one, now),
        said: rulesSaid(rulesOf(one), timeZone),
      })),
      remarks: remarks.map(({ remark, name }) => ({
        id: remark.id,
        author: name,
        aboutId: remark.aboutId,
        text: remark.text,
        at: remark.at,
        settled: remark.settledAt !== null,
        own: remark.authorId === actor.userId,
      })),
      looks,
      composes,
      mine: looks.find((look) => look.colleagueId === actor.userId) ?? null,
      colleagues: composes
        ? staffOf(db, courseId).filter((one) => one.userId !== actor.userId && !asked.has(one.userId))
        : [],
    });
  },
});

/** Everyone in a course who is no student, by name. */
const staffOf = (db: Db | Tx, courseId: string) =>
  db
    .select({ userId: user.id, name: user.name, email: user.email, role: membership.role })
    .from(membership)
    .innerJoin(user, eq(user.id, membership.userId))
    .where(and(eq(membership.courseId, courseId), isNull(membership.removedAt), ne(membership.role, 'student')))
    .orderBy(asc(user.name))
    .all();

const askInput = z.object({
  colleagueId: id('user', 'Choose whom to ask.'),
  note: z.string().trim().max(2_000, 'At most 2,000 characters.'),
});

/** Asks a colleague of the course to look through an exam and its sittings. They are told by message. */
export const askForLook = command({
  admits: toExam('exam.change'),
  takes: [askInput],
  logs: 'exam.ask-look',
  does(
    { tx, courseId, examId, revision, exam, courseName, record, context },
    { colleagueId, note },
  ): Result<{ lookId: string }> {
    const colleague = staffOf(tx, courseId).find((one) => one.userId === colleagueId);
    if (!colleague || colleagueId === context.actor.userId) return notFound('colleague');
    if (looksAt(tx, examId, revision.design).some((look) => look.colleagueId === colleagueId))
      return refused('conflict', `${colleague.name} has been asked already.`, 'colleagueId');
    const lookId = newId();
    tx.insert(examLook)
      .values({ id: lookId, examId, colleagueId, askedBy: context.actor.userId, askedAt: context.now, note })
      .run();
    send(tx, context, courseId, [
      {
        userId: colleagueId,
        email: colleague.email,
        subject: `Please look at “${exam.title}”`,
        body: `${context.actor.name} asks you to look through the exam “${exam.title}” of ${courseName}. You will find it on your desk.${note ? `\n\n${note}` : ''}`,
      },
    ]);
    record({ subjectId: examId, detail: { colleagueId } });
    return ok({ lookId });
  },
});

/** Asks no longer: the exam does not exist for the colleague any more; what they remarked stays. */
export const withdrawLook = command({
  admits: toExam('exam.change'),
  takes: [id('look')],
  logs: 'exam.withdraw-look',
  does({ tx, examId, record, context }, lookId): Result<null> {
    const { changes } = tx
      .update(examLook)
      .set({ withdrawnAt: context.now })
      .where(and(eq(examLook.id, lookId), eq(examLook.examId, examId), isNull(examLook.withdrawnAt)))
      .run();
    if (changes === 0) return notFound('look');
    record({ subjectId: examId });
    return ok(null);
  },
});

const remarkInput = z.object({
  aboutId: z.string().max(60).nullable(),
  text: z.string().trim().min(1, 'Write what you remark.').max(5_000, 'At most 5,000 characters.'),
});

/** Remarks on an exam, one of its parts or lines, or one of its sittings. */
export const remark = command({
  admits: toLook,
  takes: [remarkInput],
  logs: 'exam.remark',
  does({ tx, examId, revision, record, context }, { aboutId, text }): Result<{ remarkId: string }> {
    const { design } = revision;
    const places = new Set(linesOf(design).flatMap(({ part, line }) => [part.id, line.id]));
    for (const part of design.parts) places.add(part.id);
    for (const one of context.db.select({ id: sitting.id }).from(sitting).where(eq(sitting.examId, examId)).all())
      places.add(one.id);
    if (aboutId !== null && !places.has(aboutId)) return notFound('line');
    const remarkId = newId();
    tx.insert(examRemark)
      .values({ id: remarkId, examId, authorId: context.actor.userId, aboutId, text, at: context.now })
      .run();
    record({ subjectId: examId });
    return ok({ remarkId });
  },
});

/** Settles a remark, or opens it again: who composes the exam decides, and who made the remark. */
export const settleRemark = command({
  admits: toLook,
  takes: [id('remark'), z.boolean()],
  logs: 'exam.settle-remark',
  does({ tx, examId, role, record, context }, remarkId, settled): Result<null> {
    const own = permits('exam.change', role) ? undefined : eq(examRemark.authorId, context.actor.userId);
    const { changes } = tx
      .update(examRemark)
      .set(settled ? { settledAt: context.now, settledBy: context.actor.userId } : { settledAt: null, settledBy: null })
      .where(and(eq(examRemark.id, remarkId), eq(examRemark.examId, examId), own))
      .run();
    if (changes === 0) return notFound('remark');
    record({ subjectId: examId, detail: { settled } });
    return ok(null);
  },
});

/** Signs an exam off as it stands now, or takes that back. Only the colleague who was asked can. */
export const signOff = command({
  admits: toLook,
  takes: [z.boolean()],
  logs: 'exam.sign-off',
  does({ tx, courseId, examId, context, revision, exam: row, record }, signed): Result<null> {
    const [look] = tx
      .select({ id: examLook.id, askedBy: examLook.askedBy, email: user.email })
      .from(examLook)
      .innerJoin(user, eq(user.id, examLook.askedBy))
      .where(
        and(eq(examLook.examId, examId), eq(examLook.colleagueId, context.actor.userId), isNull(examLook.withdrawnAt)),
      )
      .all();
    if (!look) return refused('not-allowed', 'You have not been asked to look at this exam.');
    const over = { revision: revision.number, fingerprint: fingerprint(tx, examId, revision.design) };
    tx.update(examLook)
      .set(signed ? { signedAt: context.now, signedOver: over } : { signedAt: null, signedOver: null })
      .where(eq(examLook.id, look.id))
      .run();
    if (signed)
      send(tx, context, courseId, [
        {
          userId: look.askedBy,
          email: look.email,
          subject: `“${row.title}” is signed off`,
          body: `${context.actor.name} has looked through “${row.title}” and signs it off.`,
        },
      ]);
    record({ subjectId: examId, ...(signed ? {} : { action: 'exam.unsign' }) });
    return ok(null);
  },
});

export type OpenRemarks = { examId: string; title: string; count: number; by: string; text: string };

/** What colleagues have remarked on exams of a course and nobody has settled, by exam, with the newest of it. */
export function openRemarks(context: Context, courseId: string): OpenRemarks[] {
  const rows = context.db
    .select({ examId: exam.id, title: exam.title, by: user.name, text: examRemark.text })
    .from(examRemark)
    .innerJoin(exam, eq(exam.id, examRemark.examId))
    .innerJoin(user, eq(user.id, examRemark.authorId))
    .where(
      and(
        eq(exam.courseId, courseId),
        isNull(exam.archivedAt),
        isNull(examRemark.settledAt),
        ne(examRemark.authorId, context.actor.userId),
      ),
    )
    .orderBy(desc(examRemark.at))
    .all();
  return [...grouped(rows, (row) => row.examId).values()].map((own) => {
    const [newest] = own as [(typeof own)[number], ...typeof own];
    return { ...newest, count: own.length };
  });
}

export type AskedLook = { examId: string; title: string; by: string; askedAt: Instant; changedSince: boolean };

/** The exams of a course that wait for this person's look: asked and not signed off, or changed since. */
export function looksWaiting(context: Context, courseId: string): AskedLook[] {
  const rows = context.db
    .select({ look: examLook, exam, by: user.name })
    .from(examLook)
    .innerJoin(exam, eq(exam.id, examLook.examId))
    .innerJoin(user, eq(user.id, examLook.askedBy))
    .where(
      and(
        eq(examLook.colleagueId, context.actor.userId),
        eq(exam.courseId, courseId),
        isNull(examLook.withdrawnAt),
        isNull(exam.archivedAt),
      ),
    )
    .orderBy(desc(examLook.askedAt))
    .all();
  return rows.flatMap(({ look, exam: row, by }): AskedLook[] => {
    if (look.signedAt === null)
      return [{ examId: row.id, title: row.title, by, askedAt: look.askedAt, changedSince: false }];
    const found = toLook.open(context, courseId, row.id);
    const changed =
      found.ok && look.signedOver?.fingerprint !== fingerprint(context.db, row.id, found.value.revision.design);
    return changed ? [{ examId: row.id, title: row.title, by, askedAt: look.askedAt, changedSince: true }] : [];
  });
}
