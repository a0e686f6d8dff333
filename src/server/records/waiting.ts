import { sql } from 'drizzle-orm';
import { reasonsToDecide } from '@/core/attempt/standing';
import { nothingWaits, type Waiting } from '@/core/attempt/waiting';
import type { Db, Tx } from '@/db/client';

/** A sitting, all of a course, or all that one student takes. */
type Where = { sittingId: string } | { courseId: string } | { userId: string };

const inside = (where: Exclude<Where, { userId: string }>) =>
  'sittingId' in where
    ? sql`= ${where.sittingId}`
    : sql`in (select id from sitting where course_id = ${where.courseId} and state = 'scheduled')`;

/**
 * The newest undecided answer that was kept aside of each question, where it is not what counts anyway. What is undecided is
 * little: it is where the statement begins.
 */
const waitingAsides = (where: Where) => sql`
  from response_aside a indexed by response_aside_open
  cross join paper_slot s on s.id = a.slot_id
  cross join attempt t on t.id = s.attempt_id
  left join response r on r.slot_id = s.id
  where ${'userId' in where ? sql`t.user_id = ${where.userId}` : sql`t.sitting_id ${inside(where)}`} and t.state <> 'voided' and a.decision is null and a.reason in ${reasonsToDecide}
    and a.value is not r.value
    and not exists (
      select 1 from response_aside b
      where b.slot_id = a.slot_id and b.decision is null and b.reason in ${reasonsToDecide}
        and (b.epoch, b.sequence) > (a.epoch, a.sequence))`;

/** How many questions of each attempt have an answer that was kept aside and waits for a decision. */
export function asidesWaiting(db: Db | Tx, where: Where): Map<string, number> {
  const rows = db.all<{ attemptId: string; n: number }>(
    sql`select t.id as attemptId, count(*) as n ${waitingAsides(where)} group by t.id`,
  );
  return new Map(rows.map((one) => [one.attemptId, one.n]));
}

const nothing = (): Waiting => ({ ...nothingWaits, asidesOf: [] });

/** What waits for the decision of a person, by sitting; sittings of which nothing waits are left out. */
export function waitingIn(db: Db | Tx, where: Exclude<Where, { userId: string }>): Map<string, Waiting> {
  const found = new Map<string, Waiting>();
  const of = (sittingId: string): Waiting => {
    const known = found.get(sittingId) ?? nothing();
    found.set(sittingId, known);
    return known;
  };
  const asides = db.all<{ sittingId: string; userId: string; n: number }>(
    sql`select t.sitting_id as sittingId, t.user_id as userId, count(*) as n ${waitingAsides(where)} group by 1, 2`,
  );
  for (const { sittingId, userId, n } of asides) {
    const waiting = of(sittingId);
    waiting.asides += n;
    waiting.asidesOf.push(userId);
  }
  const reports = db.all<{ sittingId: string; n: number }>(sql`
    select sitting_id as sittingId, count(*) as n from question_report
    where sitting_id ${inside(where)} and answered_at is null group by 1`);
  for (const { sittingId, n } of reports) of(sittingId).reports = n;
  const incidents = db.all<{ sittingId: string; n: number }>(sql`
    select sitting_id as sittingId, count(*) as n from sitting_note
    where sitting_id ${inside(where)} and kind = 'incident' and settled_at is null group by 1`);
  for (const { sittingId, n } of incidents) of(sittingId).incidents = n;
  for (const { sittingId, n } of unsettled(db, where)) of(sittingId).differences = n;
  const sheets = db.all<{ sittingId: string; n: number }>(sql`
    select r.sitting_id as sittingId, count(*) as n from sheet_reading r join sheet_page p on p.reading_id = r.id
    where r.sitting_id ${inside(where)} and r.applied_at is null and r.ended_at is null and p.left_out = 0 group by 1`);
  for (const { sittingId, n } of sheets) of(sittingId).sheets = n;
  return found;
}

/**
 * How many answers of each sitting two markers have given points further apart than its threshold, and nobody has settled.
 * Second marks are few: they are where the statement begins.
 */
const unsettled = (db: Db | Tx, where: Exclude<Where, { userId: string }>) =>
  db.all<{ sittingId: string; n: number }>(sql`
    select t.sitting_id as sittingId, count(*) as n
    from second_mark m
    cross join paper_slot s on s.id = m.slot_id
    cross join attempt t on t.id = s.attempt_id
    join mark f on f.id = (
      select max(id) from mark
      where slot_id = s.id and kind in ('hand', 'adjusted') and outdated = 0 and taken_back_at is null)
    left join response r on r.slot_id = s.id
    left join second_marking rule on rule.sitting_id = t.sitting_id
    where t.sitting_id ${inside(where)} and t.state = 'handed-in'
      and m.id = (select max(id) from second_mark n where n.slot_id = s.id)
      and m.response_revision = coalesce(r.revision, 0) and f.marker_id <> m.marker_id
      and abs(f.points - m.points) > coalesce(rule.threshold, 0) + 1e-9
      and not exists (
        select 1 from mark x
        where x.slot_id = s.id and x.kind = 'settled' and x.id > f.id and x.outdated = 0 and x.taken_back_at is null)
    group by 1`);

/** What waits in one sitting. */
export const waitingInSitting = (db: Db | Tx, sittingId: string): Waiting =>
  waitingIn(db, { sittingId }).get(sittingId) ?? nothing();
