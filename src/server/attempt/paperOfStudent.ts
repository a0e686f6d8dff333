import { and, asc, desc, eq, ne } from 'drizzle-orm';
import { id } from '@/core/base/id';
import { seededRandom } from '@/core/base/random';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { drawPaper } from '@/core/exam/drawPaper';
import type { QuestionContent } from '@/core/question/content';
import { present } from '@/core/question/score';
import { attempt, paperSlot } from '@/db/schema';
import { currentPassages, passageContents } from '../bank/passages';
import { forReading, type SampleSlot } from '../exam/samplePaper';
import { query } from '../house/useCase';
import { audienceOf } from '../records/audience';
import { frozenContents } from '../records/paperContent';
import { toSitting } from '../sitting/toSitting';
import { paperSeed, poolOf } from './sittingPool';

type PaperOfStudent = {
  title: string;
  student: string;
  /** Which attempt it belongs to; null where the student has not started, and this is what they would get. */
  attempt: number | null;
  /** Whether the questions it is drawn from can still change, and the paper with them. */
  mayChange: boolean;
  slots: SampleSlot[];
};

/**
 * The paper of one student of a scheduled sitting, with its key: that of the latest attempt, or, before the first, the one
 * that it will get. Looking at it fixes and stores nothing.
 */
export const paperOfStudent = query({
  admits: toSitting('sitting.change'),
  takes: [id('user')],
  does({ db, now, sittingId, sitting: row }, userId): Result<PaperOfStudent> {
    const student = audienceOf(db, row).find((one) => one.userId === userId);
    if (!student) return notFound('student of this sitting');
    if (row.state !== 'scheduled') return refused('conflict', 'A student has a paper once the sitting is scheduled.');
    if (row.anonymous) return refused('conflict', 'Nobody’s paper is known in an anonymous sitting.');
    const begun = db
      .select()
      .from(attempt)
      .where(and(eq(attempt.sittingId, sittingId), eq(attempt.userId, userId), ne(attempt.state, 'voided')))
      .orderBy(desc(attempt.number))
      .get();
    const head = { title: row.title, student: student.name };
    if (begun) {
      const slots = db
        .select()
        .from(paperSlot)
        .where(eq(paperSlot.attemptId, begun.id))
        .orderBy(asc(paperSlot.position))
        .all();
      const contents = frozenContents(
        db,
        slots.map((slot) => slot.versionId),
      );
      const passages = passageContents(
        db,
        slots.flatMap((slot) => slot.passageVersionId ?? []),
      );
      return ok({
        ...head,
        attempt: begun.number,
        mayChange: false,
        slots: forReading(
          slots.map((slot) => ({
            ...slot,
            passageId: slot.passageVersionId,
            content: contents.get(slot.versionId) as QuestionContent,
          })),
          passages,
        ),
      });
    }
    const pool = poolOf(db, db, row, now, false);
    const seed = paperSeed(db, sittingId, userId, 1);
    const slots = drawPaper(pool.design, pool.snapshot, seed, new Set(), pool.plan);
    if (!slots) return refused('conflict', 'No paper can be drawn: the plan check says why.');
    const contents = frozenContents(
      db,
      slots.map((slot) => slot.versionId),
    );
    const passages = currentPassages(
      db,
      slots.flatMap((slot) => slot.passageId ?? []),
    );
    const titles = new Map(pool.design.parts.map((part) => [part.id, part.title]));
    return ok({
      ...head,
      attempt: null,
      mayChange: pool.id === '',
      slots: forReading(
        slots.map((slot, i) => {
          const content = contents.get(slot.versionId) as QuestionContent;
          return {
            ...slot,
            partTitle: titles.get(slot.partId) ?? '',
            content,
            presentation: present(content, seededRandom(seed, `slot/${i}`), pool.design),
          };
        }),
        passages,
      ),
    });
  },
});
