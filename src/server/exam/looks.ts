import { and, asc, desc, eq, isNull, ne, sql } from 'drizzle-orm';
import { z } from 'zod';
import { parse } from '@/core/base/parse';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import type { Rich } from '@/core/base/rich';
import type { Instant } from '@/core/base/time';
import { linesOf } from '@/core/exam/design';
import { type DesignSaid, designSaid } from '@/core/exam/designSaid';
import { permits, type Role } from '@/core/people/policy';
import { rulesSaid } from '@/core/sitting/rulesSaid';
import type { Db, Tx } from '@/db/client';
import { exam, examLook, examRemark, membership, sitting, user } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, newId } from '../house/context';
import { send } from '../house/outbox';
import { phaseOf, rulesOf, type SittingPhase } from '../sitting/audience';
import { admitToLook } from './admitToLook';
import { checkedPlan } from './checkedPlan';
import { designNames } from './designNames';
import { admitToExam } from './exams';
import { fingerprint, type LookState, looksAt } from './lookState';

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
export function openLook(context: Context, courseId: string, examId: string): Result<LookPage> {
  const found = admitToLook(context, courseId, examId);
  if (!found.ok) return found;
  const { db, now, actor } = context;
  const { exam: row, revision, timeZone, role } = found.value;
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
}

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
  colleagueId: z.string().min(1, 'Choose whom to ask.').max(40),
  note: z.string().trim().max(2_000, 'At most 2,000 characters.'),
});

/** Asks a colleague of the course to look through an exam and its sittings. They are told by message. */
export function askForLook(
  context: Context,
  courseId: string,
  examId: string,
  input: unknown,
): Result<{ lookId: string }> {
  const found = admitToExam(context, courseId, examId, 'exam.change');
  if (!found.ok) return found;
  const parsed = parse(askInput, input);
  if (!parsed.ok) return parsed;
  const { colleagueId, note } = parsed.value;
  return context.db.transaction(
    (tx): Result<{ lookId: string }> => {
      const colleague = staffOf(tx, courseId).find((one) => one.userId === colleagueId);
      if (!colleague || colleagueId === context.actor.userId) return notFound('colleague');
      if (looksAt(tx, examId, found.value.revision.design).some((look) => look.colleagueId === colleagueId))
        return refused('conflict', `${colleague.name} has been asked already.`, 'colleagueId');
      const lookId = newId();
      tx.insert(examLook)
        .values({ id: lookId, examId, colleagueId, askedBy: context.actor.userId, askedAt: context.now, note })
        .run();
      send(tx, context, courseId, [
        {
          userId: colleagueId,
          email: colleague.email,
          subject: `Please look at “${found.value.exam.title}”`,
          body: `${context.actor.name} asks you to look through the exam “${found.value.exam.title}” of ${found.value.courseName}. You will find it on your desk.${note ? `\n\n${note}` : ''}`,
        },
      ]);
      record(tx, context, { action: 'exam.ask-look', courseId, subjectId: examId, detail: { colleagueId } });
      return ok({ lookId });
    },
    { behavior: 'immediate' },
  );
}

/** Asks no longer: the exam does not exist for the colleague any more; what they remarked stays. */
export function withdrawLook(context: Context, courseId: string, examId: string, lookId: string): Result<null> {
  const found = admitToExam(context, courseId, examId, 'exam.change');
  if (!found.ok) return found;
  return context.db.transaction(
    (tx): Result<null> => {
      const { changes } = tx
        .update(examLook)
        .set({ withdrawnAt: context.now })
        .where(and(eq(examLook.id, lookId), eq(examLook.examId, examId), isNull(examLook.withdrawnAt)))
        .run();
      if (changes === 0) return notFound('look');
      record(tx, context, { action: 'exam.withdraw-look', courseId, subjectId: examId });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}

const remarkInput = z.object({
  aboutId: z.string().max(40).nullable(),
  text: z.string().trim().min(1, 'Write what you remark.').max(5_000, 'At most 5,000 characters.'),
});

/** Remarks on an exam, one of its parts or lines, or one of its sittings. */
export function remark(
  context: Context,
  courseId: string,
  examId: string,
  input: unknown,
): Result<{ remarkId: string }> {
  const found = admitToLook(context, courseId, examId);
  if (!found.ok) return found;
  const parsed = parse(remarkInput, input);
  if (!parsed.ok) return parsed;
  const { aboutId, text } = parsed.value;
  const { design } = found.value.revision;
  const places = new Set(linesOf(design).flatMap(({ part, line }) => [part.id, line.id]));
  for (const part of design.parts) places.add(part.id);
  for (const one of context.db.select({ id: sitting.id }).from(sitting).where(eq(sitting.examId, examId)).all())
    places.add(one.id);
  if (aboutId !== null && !places.has(aboutId)) return notFound('line');
  return context.db.transaction(
    (tx) => {
      const remarkId = newId();
      tx.insert(examRemark)
        .values({ id: remarkId, examId, authorId: context.actor.userId, aboutId, text, at: context.now })
        .run();
      record(tx, context, { action: 'exam.remark', courseId, subjectId: examId });
      return ok({ remarkId });
    },
    { behavior: 'immediate' },
  );
}

/** Settles a remark, or opens it again: who composes the exam decides, and who made the remark. */
export function settleRemark(
  context: Context,
  courseId: string,
  examId: string,
  remarkId: string,
  settled: boolean,
): Result<null> {
  const found = admitToLook(context, courseId, examId);
  if (!found.ok) return found;
  const own = permits('exam.change', found.value.role) ? undefined : eq(examRemark.authorId, context.actor.userId);
  return context.db.transaction(
    (tx): Result<null> => {
      const { changes } = tx
        .update(examRemark)
        .set(
          settled ? { settledAt: context.now, settledBy: context.actor.userId } : { settledAt: null, settledBy: null },
        )
        .where(and(eq(examRemark.id, remarkId), eq(examRemark.examId, examId), own))
        .run();
      if (changes === 0) return notFound('remark');
      record(tx, context, { action: 'exam.settle-remark', courseId, subjectId: examId, detail: { settled } });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}

/** Signs an exam off as it stands now, or takes that back. Only the colleague who was asked can. */
export function signOff(context: Context, courseId: string, examId: string, signed: boolean): Result<null> {
  const found = admitToLook(context, courseId, examId);
  if (!found.ok) return found;
  const { revision, exam: row } = found.value;
  return context.db.transaction(
    (tx): Result<null> => {
      const [look] = tx
        .select({ id: examLook.id, askedBy: examLook.askedBy, email: user.email })
        .from(examLook)
        .innerJoin(user, eq(user.id, examLook.askedBy))
        .where(
          and(
            eq(examLook.examId, examId),
            eq(examLook.colleagueId, context.actor.userId),
            isNull(examLook.withdrawnAt),
          ),
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
      record(tx, context, { action: signed ? 'exam.sign-off' : 'exam.unsign', courseId, subjectId: examId });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
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
    const found = admitToLook(context, courseId, row.id);
    const changed =
      found.ok && look.signedOver?.fingerprint !== fingerprint(context.db, row.id, found.value.revision.design);
    return changed ? [{ examId: row.id, title: row.title, by, askedAt: look.askedAt, changedSince: true }] : [];
  });
}
