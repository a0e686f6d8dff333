import { inArray } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import { inPassagePool, inPool, type PoolSnapshot } from '@/core/exam/snapshot';
import { definitionOf, typesMarkedByHand } from '@/core/question/definitions';
import { ownTimes } from '@/core/sitting/myClock';
import { type PreflightFinding, preflight } from '@/core/sitting/preflight';
import type { Db, Tx } from '@/db/client';
import { questionVersion } from '@/db/schema';
import { checkedPlan } from '../exam/checkedPlan';
import { audienceOf, rulesOf, type SittingRow } from '../records/audience';
import { heldElsewhereBy, leaksOf } from './leaksOf';

type Asked = {
  row: SittingRow;
  design: ExamDesign;
  timeZone: string;
  /** Null for whoever comes by the link. */
  students: number | null;
  markers: number;
};

/** The preflight of a sitting by its rules, its exam over the bank of today, and all other sittings that share questions. */
export function preflightOf(
  db: Db | Tx,
  { row, design, timeZone, students, markers }: Asked,
  now: Instant,
): PreflightFinding[] {
  const { snapshot, check } = checkedPlan(db, { courseId: row.courseId, examId: row.examId, design, now });
  return preflight(
    {
      rules: rulesOf(row),
      zone: timeZone,
      students,
      planProblems: check.problems.map((problem) => problem.message),
      byHand: mostByHand(db, design, snapshot),
      markers,
      scored: row.scored,
      releasePlan: row.releasePlan,
      leaks: leaksOf(db, row, design, now),
      neverStart: neverStartIn(db, row),
      expectedMinutes: check.spread?.minutes ?? null,
      heldElsewhere: row.state === 'draft' ? heldElsewhereBy(db, row, design, now) : [],
      scheduled: row.state === 'scheduled',
    },
    now,
  );
}

/** The students whose own opening lies behind their last start. */
function neverStartIn(db: Db | Tx, row: SittingRow): string[] {
  const rules = rulesOf(row);
  return audienceOf(db, row)
    .filter(({ arrangement }) => {
      const { opens, lastStart, closes } = ownTimes(rules, arrangement);
      const ends = [lastStart, closes].filter((end) => end !== null);
      const isOwn = arrangement.opens !== null || arrangement.lastStart !== null;
      return isOwn && !arrangement.excused && opens !== null && ends.length > 0 && opens >= Math.min(...ends);
    })
    .map(({ name }) => name);
}

/** How many questions of a paper are marked by hand, at most. */
function mostByHand(db: Db | Tx, design: ExamDesign, { entries }: PoolSnapshot): number {
  const waiting = waitingVersions(
    db,
    entries.flatMap((entry) => (typesMarkedByHand.includes(entry.type) ? entry.versionId : [])),
  );
  const byHand = entries.filter((entry) => waiting.has(entry.versionId));
  const most = (line: ExamDesign['parts'][number]['lines'][number]): number => {
    if (line.kind === 'fixed') return byHand.some((entry) => entry.questionId === line.questionId) ? 1 : 0;
    const fits = line.kind === 'draw' ? inPool : inPassagePool;
    const drawn = line.kind === 'draw' ? line.count : line.count * line.questions;
    return Math.min(drawn, byHand.filter((entry) => fits(entry, line.pool)).length);
  };
  if (byHand.length === 0) return 0;
  return design.parts.flatMap((part) => part.lines).reduce((sum, line) => sum + most(line), 0);
}

/** Of some versions, those whose answers all wait for a person. */
function waitingVersions(db: Db | Tx, versionIds: readonly string[]): Set<string> {
  if (versionIds.length === 0) return new Set();
  const rows = db
    .select({ id: questionVersion.id, content: questionVersion.content })
    .from(questionVersion)
    .where(inArray(questionVersion.id, [...versionIds]))
    .all();
  return new Set(rows.flatMap(({ id, content }) => (definitionOf(content.type).waitsForMark(content) ? id : [])));
}
