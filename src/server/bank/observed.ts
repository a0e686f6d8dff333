import { type SQL, sql } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import type { ObservedTime } from '@/core/exam/expectedMinutes';
import type { Success } from '@/core/question/successRange';
import type { Db, Tx } from '@/db/client';
import { newestMarkId } from '../records/newestMarks';

/** What papers have shown of a question. */
export type Observed = {
  /** Mean credit over first attempts that count, in [0, 1], and over how many. Null while there is none. */
  success: Success | null;
  /** How often it has stood on a paper, and when last. */
  drawn: number;
  lastUsed: Instant | null;
  /** How long it stood alone in view; null while that has not been counted. */
  time: ObservedTime | null;
};

/**
 * First attempts that count: for each student and sitting the handed-in attempt of the lowest number. Voided attempts
 * never count.
 */
const firstAttempts = sql`
  select a.id from attempt a
  where a.state = 'handed-in' and a.number = (
    select min(b.number) from attempt b
    where b.sitting_id = a.sitting_id and b.user_id = a.user_id and b.state = 'handed-in'
  )`;

/**
 * Mean credit of each question over first attempts that count, as `question_id`, `n` and `mean`. Only marks count that are
 * observations (`isObservation`, here in the words of the database); credit above the full points counts as 1.
 *
 * @param which a condition on `ps`, the places on papers
 */
export const successTable = (which: SQL = sql`1`): SQL => sql`
  select ps.question_id, count(*) as n, avg(max(0, min(1, m.points / ps.points))) as mean
  from paper_slot ps
  join mark m on m.id = ${newestMarkId(sql`ps.id`)}
  where ps.attempt_id in (${firstAttempts}) and ps.points > 0 and m.kind <> 'left-out'
and m.unobserved is null and ${which}
  group by ps.question_id`;

/** How often each question has stood on a paper and when last, as `question_id`, `drawn` and `last_used`. */
export const usageTable = (which: SQL = sql`1`): SQL => sql`
  select ps.question_id, count(*) as drawn, max(a.started_at) as last_used
  from paper_slot ps join attempt a on a.id = ps.attempt_id
  where a.state <> 'voided' and ${which}
  group by ps.question_id`;

/** The median time for which each question stood alone in view, as `question_id`, `n` and `median` in milliseconds. */
const timeTable = (which: SQL): SQL => sql`
  select question_id, n, avg(in_view) as median
  from (
    select ps.question_id, ps.in_view, count(*) over (partition by ps.question_id) as n,
      row_number() over (partition by ps.question_id order by ps.in_view) as place
    from paper_slot ps
    where ps.in_view is not null and ${which}
  )
  where place in ((n + 1) / 2, (n + 2) / 2)
  group by question_id`;

/**
 * What papers have shown of some questions.
 *
 * @param usage whether it is also asked how often each was used and when last
 */
export function observed(
  db: Db | Tx,
  questionIds: readonly string[],
  { usage = true }: { usage?: boolean } = {},
): Map<string, Observed> {
  if (questionIds.length === 0) return new Map();
  const which = sql`ps.question_id in (select value from json_each(${JSON.stringify(questionIds)}))`;
  const found = new Map<string, Observed>();
  const of = (questionId: string): Observed => {
    const known = found.get(questionId) ?? { success: null, drawn: 0, lastUsed: null, time: null };
    found.set(questionId, known);
    return known;
  };
  if (usage)
    for (const row of db.all<{ question_id: string; drawn: number; last_used: number }>(usageTable(which)))
      Object.assign(of(row.question_id), { drawn: row.drawn, lastUsed: row.last_used });
  for (const row of db.all<{ question_id: string; n: number; mean: number }>(successTable(which))) {
    of(row.question_id).success = { mean: row.mean, n: row.n };
  }
  for (const row of db.all<{ question_id: string; n: number; median: number }>(timeTable(which))) {
    of(row.question_id).time = { n: row.n, median: row.median / 60_000 };
  }
  return found;
}
