import { and, desc, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { id } from '@/core/base/id';
import { notFound, ok, type Result, refused } from '@/core/base/result';
import { designCount } from '@/core/exam/design';
import { drawPaper } from '@/core/exam/drawPaper';
import { beganLed } from '@/core/round/ledRound';
import {
  furtherOfRound,
  planOfRound,
  type RoundRules,
  roundRules,
  rulesThatHold,
  usualRound,
} from '@/core/round/roundRules';
import type { Tx } from '@/db/client';
import { exam, examRevision, round, section, sitting, sittingAudience } from '@/db/schema';
import { roundPaper } from '../attempt/roundPaper';
import { poolOf } from '../attempt/sittingPool';
import { freezeVersions } from '../attempt/startAttempt';
import { examWithRevision } from '../exam/toExam';
import { tell } from '../house/bus';
import { type Context, newId } from '../house/context';
import { prefer, preferred } from '../house/preferences';
import { command, query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { type RoundRow, roundOf } from '../records/roundOf';
import { doorOf, ensureDoor } from './doors';
import { toRound } from './toRound';

/** The choices somebody made last time they began a round. */
export function lastRules(tx: Tx | Context['db'], userId: string): RoundRules {
  const read = roundRules.safeParse(preferred(tx, userId, 'round'));
  return read.success ? read.data : usualRound;
}

export type RoundBeginning = {
  rules: RoundRules;
  door: string | null;
  exams: { id: string; title: string; questions: number; offScreen: boolean; lastHeld: number | null }[];
  sections: { id: string; name: string }[];
};

/** What is chosen from to begin a round: the exams, those held last first, and the choices of last time. */
export const beforeRound = query({
  admits: toCourse('sitting.change'),
  does({ db, courseId, actor }): Result<RoundBeginning> {
    const exams = db
      .select({ id: exam.id, title: exam.title, design: examRevision.design })
      .from(exam)
      .innerJoin(examRevision, eq(examRevision.id, exam.currentRevisionId))
      .where(and(eq(exam.courseId, courseId), isNull(exam.archivedAt)))
      .orderBy(desc(exam.createdAt))
      .all();
    const held = new Map(
      db
        .select({ examId: sitting.examId, opens: sitting.opens })
        .from(sitting)
        .where(and(eq(sitting.courseId, courseId), eq(sitting.isRound, true)))
        .orderBy(sitting.opens)
        .all()
        .map((one) => [one.examId, one.opens]),
    );
    return ok({
      rules: lastRules(db, actor.userId),
      door: doorOf(db, courseId),
      exams: exams.map(({ design, ...one }) => ({
        ...one,
        questions: designCount(design),
        offScreen: design.offScreen !== undefined,
        lastHeld: held.get(one.id) ?? null,
      })),
      sections: db
        .select({ id: section.id, name: section.name })
        .from(section)
        .where(eq(section.courseId, courseId))
        .orderBy(section.position)
        .all(),
    });
  },
});

const beginning = z.object({
  examId: id('exam', 'Choose an exam.'),
  rules: roundRules,
  /** The section it is for; null for the whole course. */
  sectionId: id('section').nullable().default(null),
});

/** Begins a round of an exam: it is open from now on, and its exam stays as it is now for as long as it goes on. */
export const beginRound = command({
  admits: toCourse('sitting.change'),
  takes: [beginning],
  logs: 'round.begin',
  does({ tx, context, courseId, record, actor }, { examId, rules: chosen, sectionId }): Result<{ sittingId: string }> {
    const found = examWithRevision(tx, courseId, examId);
    if (!found) return notFound('exam');
    if (found.exam.archivedAt !== null)
      return refused('conflict', 'This exam is archived: bring it back before it is given.', 'examId');
    if (sectionId !== null && !hasSection(tx, courseId, sectionId)) return notFound('section');
    if (found.revision.design.purpose?.anonymous)
      return refused(
        'conflict',
        'This exam is anonymous, and in a round everybody’s answers are seen as they come.',
        'examId',
      );
    const rules = rulesThatHold(chosen);
    const begun = openRound(tx, context, {
      courseId,
      examId,
      revisionId: found.revision.id,
      title: found.exam.title,
      rules,
      sectionId,
      onTheSpot: false,
    });
    if (!begun.ok) return begun;
    prefer(tx, actor.userId, 'round', chosen);
    record({ subjectId: begun.value.sittingId, detail: { examId } });
    return begun;
  },
});

const hasSection = (tx: Tx, courseId: string, sectionId: string): boolean =>
  tx
    .select({ id: section.id })
    .from(section)
    .where(and(eq(section.id, sectionId), eq(section.courseId, courseId)))
    .get() !== undefined;

/** What a round is opened with. */
export type Opening = {
  courseId: string;
  examId: string;
  revisionId: string;
  title: string;
  rules: RoundRules;
  sectionId: string | null;
  onTheSpot: boolean;
};

/** Opens a round: a sitting that is open until somebody stops it, with its pool and, where it is led, its paper fixed. */
export function openRound(
  tx: Tx,
  context: Context,
  { courseId, examId, revisionId, title, rules, sectionId, onTheSpot }: Opening,
): Result<{ sittingId: string }> {
  const { db, now, actor } = context;
  const sittingId = newId();
  tx.update(examRevision)
    .set({ frozenAt: now })
    .where(and(eq(examRevision.id, revisionId), isNull(examRevision.frozenAt)))
    .run();
  const row = tx
    .insert(sitting)
    .values({
      id: sittingId,
      courseId,
      examId,
      revisionId,
      title,
      state: 'scheduled',
      opens: now,
      attemptsAllowed: 1,
      further: furtherOfRound(rules),
      releasePlan: planOfRound(rules),
      counts: rules.counts,
      isRound: true,
      createdBy: actor.userId,
      createdAt: now,
    })
    .returning()
    .get();
  tx.insert(sittingAudience)
    .values([
      sectionId === null
        ? { sittingId, kind: 'course' as const, refId: courseId }
        : { sittingId, kind: 'section' as const, refId: sectionId },
      { sittingId, kind: 'door' as const, refId: sittingId },
    ])
    .run();
  const held: RoundRow = {
    sittingId,
    rules,
    led: null,
    onTheSpot,
    stoppedAt: null,
    walkedTo: null,
    madeUpKey: null,
  };
  const pool = poolOf(tx, db, row, now);
  const paper =
    rules.pace === 'led'
      ? roundPaper(tx, db, row, held)
      : drawPaper(pool.design, pool.snapshot, 'can a paper be drawn?');
  if (!paper || (paper.length === 0 && !onTheSpot))
    return refused('conflict', 'No paper can be drawn from this exam: its plan check says what is missing.', 'examId');
  if (rules.pace === 'led')
    freezeVersions(
      tx,
      paper.map((slot) => slot.versionId),
      now,
    );
  tx.insert(round)
    .values({ ...held, led: rules.pace === 'led' ? beganLed(paper.length) : null })
    .run();
  ensureDoor(tx, context, courseId);
  return ok({ sittingId });
}

const changeable = roundRules.pick({ learning: true, score: true, counts: true, vote: true, seconds: true }).partial();

/** Changes what of a round can still be chosen while it goes on or afterwards: when people learn, their score, what counts. */
export const changeRound = command({
  admits: toRound('sitting.change'),
  takes: [changeable],
  logs: 'round.change',
  does({ tx, sittingId, held, record, afterwards }, changes): Result<null> {
    const now = roundOf(tx, sittingId)?.rules ?? held.rules;
    const rules = rulesThatHold({ ...now, ...changes });
    if (rules.pace === 'own' && rules.learning !== now.learning && held.stoppedAt === null)
      if (rules.learning === 'each' || now.learning === 'each')
        return refused(
          'conflict',
          'Whether each question is checked as it is answered is chosen before a round begins.',
        );
    if (rules.vote !== now.vote && held.stoppedAt !== null)
      return refused('conflict', 'Which of two answers counts is chosen before a round is stopped.');
    tx.update(round).set({ rules }).where(eq(round.sittingId, sittingId)).run();
    tx.update(sitting)
      .set({
        releasePlan: planOfRound(rules),
        counts: rules.counts,
        selfPublish: held.stoppedAt === null ? null : publishesItself(rules),
      })
      .where(eq(sitting.id, sittingId))
      .run();
    record({ subjectId: sittingId, detail: changes });
    afterwards(() => tell({ sittingId, what: 'round' }));
    return ok(null);
  },
});

/** Once it is stopped, what counts is published as soon as it is marked; where nothing counts, nobody waits for it. */
export const publishesItself = ({ counts }: RoundRules) =>
  counts === 'no' ? null : { kind: 'each' as const, notBefore: null };
