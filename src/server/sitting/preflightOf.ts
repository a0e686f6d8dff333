import { inArray } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import type { ExamDesign } from '@/core/exam/design';
import { inPassagePool, inPool, type PoolSnapshot } from '@/core/exam/snapshot';
import { definitionOf, typesMarkedByHand } from '@/core/question/definitions';
import { ownTimes } from '@/core/sitting/myClock';
import { type PreflightFacts, type PreflightFinding, preflight } from '@/core/sitting/preflight';
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
      byHand: byHandOn(db, design, snapshot),
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

/** How many questions of a paper are marked by hand, at least and at most. */
function byHandOn(db: Db | Tx, design: ExamDesign, { entries }: PoolSnapshot): PreflightFacts['byHand'] {
  const waiting = waitingVersions(
    db,
    entries.flatMap((entry) => (typesMarkedByHand.includes(entry.type) ? entry.versionId : [])),
  );
  const byHand = entries.filter((entry) => waiting.has(entry.versionId));
  if (byHand.length === 0) return { least: 0, most: 0 };
  const lines = design.parts.flatMap((part) => part.lines);
  // Fixed questions leave the pools first.
  const fixed = new Set(lines.flatMap((line) => (line.kind === 'fixed' ? line.questionId : [])));
  const found = { least: 0, most: 0 };
  for (const line of lines) {
    if (line.kind === 'fixed') {
      const one = byHand.some((entry) => entry.questionId === line.questionId) ? 1 : 0;
      found.least += one;
      found.most += one;
      continue;
    }
    const drawn = line.kind === 'draw' ? line.count : line.count * line.questions;
    const pool = entries.filter(
      (entry) =>
        !fixed.has(entry.questionId) &&
        (line.kind === 'draw' ? inPool(entry, line.pool) : inPassagePool(entry, line.pool)),
    );
    const own = pool.filter((entry) => waiting.has(entry.versionId)).length;
    found.least += Math.max(0, drawn - (pool.length - own));
    found.most += Math.min(drawn, own);
  }
  return found;
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
