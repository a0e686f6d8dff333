import { and, desc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { typedTitle } from '@/core/question/content';
import type { Tx } from '@/db/client';
import { courseBank, questionDraft } from '@/db/schema';
import type { Context } from '../house/context';
import { command } from '../house/useCase';
import { toBank } from './toBank';

/** The most characters one draft may hold as JSON. */
const longestDraft = 500_000;

const draftInput = z.object({
  /** The question, or `new/` and a type. */
  subject: z.string().min(1).max(80),
  edit: z.number().int(),
  fields: z
    .record(z.string(), z.unknown())
    .refine((fields) => JSON.stringify(fields).length <= longestDraft, 'This is too long to be kept.'),
});

/** Keeps what a person is typing, complete or not. It is theirs alone and never counts as the question. */
export const keepDraft = command({
  admits: toBank('bank.change'),
  takes: [draftInput],
  unlogged: 'what somebody is typing is theirs alone',
  does({ tx, bankId, context }, input): Result<{ savedAt: Instant }> {
    const values = { userId: context.actor.userId, bankId, ...input, savedAt: context.now };
    tx.insert(questionDraft)
      .values(values)
      .onConflictDoUpdate({
        target: [questionDraft.userId, questionDraft.bankId, questionDraft.subject],
        set: { edit: values.edit, fields: values.fields, savedAt: values.savedAt },
      })
      .run();
    return ok({ savedAt: context.now });
  },
});

export type Draft = { edit: number; fields: Record<string, unknown>; savedAt: Instant };

/** What this person has typed into a sheet and not saved. */
export function draftOf(context: Context, bankId: string, subject: string): Draft | null {
  const row = context.db
    .select()
    .from(questionDraft)
    .where(
      and(
        eq(questionDraft.userId, context.actor.userId),
        eq(questionDraft.bankId, bankId),
        eq(questionDraft.subject, subject),
      ),
    )
    .get();
  return row ? { edit: row.edit, fields: row.fields as Record<string, unknown>, savedAt: row.savedAt } : null;
}

/** Drops a draft: its question has been saved, or its author does not want it. */
export function dropDraft(tx: Tx, context: Context, bankId: string, subject: string): void {
  tx.delete(questionDraft)
    .where(
      and(
        eq(questionDraft.userId, context.actor.userId),
        eq(questionDraft.bankId, bankId),
        eq(questionDraft.subject, subject),
      ),
    )
    .run();
}

/** Gives up what was typed. */
export const giveUpDraft = command({
  admits: toBank('bank.change'),
  takes: [draftInput.shape.subject],
  unlogged: 'what somebody is typing is theirs alone',
  does({ tx, bankId, context }, subject): Result<null> {
    dropDraft(tx, context, bankId, subject);
    return ok(null);
  },
});

/** A sheet that was begun and not saved, as the Desk names it. */
export type UnsavedSheet = Pick<Draft, 'savedAt'> & { bankId: string; subject: string; title: string };

/** What this person has typed into the sheets of a course's banks and not saved, at whatever browser; the latest first. */
export function unsavedSheets({ db, actor }: Context, courseId: string): UnsavedSheet[] {
  return db
    .select({
      bankId: questionDraft.bankId,
      subject: questionDraft.subject,
      fields: questionDraft.fields,
      savedAt: questionDraft.savedAt,
    })
    .from(questionDraft)
    .innerJoin(courseBank, and(eq(courseBank.bankId, questionDraft.bankId), eq(courseBank.courseId, courseId)))
    .where(eq(questionDraft.userId, actor.userId))
    .orderBy(desc(questionDraft.savedAt))
    .all()
    .map(({ fields, ...row }) => ({ ...row, title: typedTitle(fields as Draft['fields']) }));
}
