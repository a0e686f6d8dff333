import { and, eq, isNull } from 'drizzle-orm';
import { notFound, ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { designCount, designPoints, type ExamPurpose, usualPurpose } from '@/core/exam/design';
import { overForEveryone } from '@/core/sitting/clock';
import { noUsualRules, sameUsual, usualFrom } from '@/core/sitting/lastingRules';
import type { PreflightFinding } from '@/core/sitting/preflight';
import type { Arrangement } from '@/core/sitting/rules';
import type { Db, Tx } from '@/db/client';
import { exam, examRevision, markerAssignment, membership, section, sittingAudience, user } from '@/db/schema';
import { type LookState, looksAt, openRemarks } from '../exam/lookState';
import { examWithRevision } from '../exam/toExam';
import { query } from '../house/useCase';
import { phaseOf, rulesOf, type SittingPhase, type SittingRow } from '../records/audience';
import { preflightOf } from './preflightOf';
import type { Who } from './rulesInput';
import { standingsOf } from './standings';
import { toSitting } from './toSitting';

export type SittingStudent = {
  userId: string;
  name: string;
  section: string | null;
  arrangement: Arrangement;
  /** Whether what differs comes from a standing arrangement. */
  standing: boolean;
  attempts: number;
  running: boolean;
};

export type OpenSitting = {
  sitting: SittingRow;
  phase: SittingPhase;
  timeZone: string;
  examTitle: string;
  points: number;
  questions: number;
  purpose: ExamPurpose;
  who: Who;
  /** The secret in the address by which anyone can take it; null where it is not given by link. */
  link: string | null;
  sections: { id: string; name: string }[];
  /** Everyone in the course who could be named. */
  course: { id: string; name: string; section: string | null }[];
  audience: SittingStudent[];
  markers: { userId: string; name: string; assigned: boolean }[];
  /** What stands in its way, or has to be taken upon oneself. */
  findings: PreflightFinding[];
  /** When the last who may still be writing is done; null where it never is over. */
  overAt: Instant | null;
  /** The colleagues who looked at its exam, and how many remarks are open. */
  looks: LookState[];
  remarks: number;
  /** Whether its rules differ from those the exam is usually given under. */
  unusual: boolean;
};

/** A draft follows the exam as it is edited; a scheduled sitting stays with the revision it pinned. */
export function designOf(db: Db | Tx, row: SittingRow) {
  const examRow = db.select().from(exam).where(eq(exam.id, row.examId)).get();
  const revisionId = row.state === 'draft' ? (examRow?.currentRevisionId ?? row.revisionId) : row.revisionId;
  const revision = db.select().from(examRevision).where(eq(examRevision.id, revisionId)).get();
  return examRow && revision ? { examRow, revision } : null;
}

/** Whom a sitting is given to, as its rows say. */
export function whoOf(db: Db | Tx, sittingId: string): { who: Who; link: string | null } {
  const rows = db.select().from(sittingAudience).where(eq(sittingAudience.sittingId, sittingId)).all();
  const link = rows.find((one) => one.kind === 'link')?.refId ?? null;
  if (link !== null) return { who: { kind: 'link' }, link };
  if (rows.some((one) => one.kind === 'course')) return { who: { kind: 'course' }, link };
  const ids = (kind: string) => rows.filter((one) => one.kind === kind).map((one) => one.refId);
  return { who: { kind: 'some', sectionIds: ids('section'), studentIds: ids('student') }, link };
}

/** A guest reads the rules, not the word that opens the door. */
const withoutCode = (row: SittingRow): SittingRow =>
  row.further?.entryCode ? { ...row, further: { ...row.further, entryCode: '…' } } : row;

/** A sitting with all that decides who takes it, when and under which rules. */
export const openSitting = query({
  admits: toSitting('sitting.see'),
  does({ db, now, courseId, sittingId, sitting: row, timeZone, role }): Result<OpenSitting> {
    const found = designOf(db, row);
    if (!found) return notFound('exam');
    const { examRow, revision } = found;
    const assigned = new Set(
      db
        .select()
        .from(markerAssignment)
        .where(eq(markerAssignment.sittingId, sittingId))
        .all()
        .map((one) => one.userId),
    );
    const people = db
      .select({
        userId: user.id,
        name: user.name,
        role: membership.role,
        section: section.name,
        standing: membership.standing,
      })
      .from(membership)
      .innerJoin(user, eq(user.id, membership.userId))
      .leftJoin(section, eq(section.id, membership.sectionId))
      .where(and(eq(membership.courseId, courseId), isNull(membership.removedAt), isNull(membership.onlySitting)))
      .orderBy(user.name)
      .all();
    const standing = new Set(people.filter((one) => one.standing).map((one) => one.userId));
    const students = standingsOf(db, row);
    const { who, link } = whoOf(db, sittingId);
    const hidden = role === 'guest';
    const current = examWithRevision(db, courseId, row.examId)?.revision.design ?? revision.design;
    return ok({
      sitting: hidden ? withoutCode(row) : row,
      phase: phaseOf(row, now),
      timeZone,
      examTitle: examRow.title,
      points: designPoints(revision.design),
      questions: designCount(revision.design),
      purpose: revision.design.purpose ?? usualPurpose,
      who,
      link: hidden ? null : link,
      sections: db
        .select({ id: section.id, name: section.name })
        .from(section)
        .where(eq(section.courseId, courseId))
        .all(),
      course: hidden
        ? []
        : people
            .filter((one) => one.role === 'student')
            .map(({ userId, name, section: own }) => ({ id: userId, name, section: own })),
      audience: hidden
        ? []
        : students.map(({ userId, name, section: own, arrangement, soFar }) => ({
            userId,
            name,
            section: own,
            arrangement,
            standing: standing.has(userId),
            attempts: soFar.used,
            running: soFar.running !== null,
          })),
      markers: hidden
        ? []
        : people
            .filter((one) => one.role === 'marker')
            .map(({ userId, name }) => ({ userId, name, assigned: assigned.has(userId) })),
      findings: hidden
        ? []
        : preflightOf(
            db,
            {
              row,
              design: revision.design,
              timeZone,
              students: link === null ? students.length : null,
              markers: assigned.size,
            },
            now,
          ),
      overAt: overForEveryone(rulesOf(row), timeZone, students, now),
      looks: looksAt(db, row.examId, current),
      remarks: openRemarks(db, row.examId),
      unusual: !sameUsual(usualFrom(rulesOf(row), row.releasePlan), current.usual ?? noUsualRules),
    });
  },
});
