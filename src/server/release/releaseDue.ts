import { and, count, eq, max } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { noSelfPublish, type ReleasePlan } from '@/core/release/plan';
import { nextChange, type ReleaseFacts, releasesScoreItself, visibleTo } from '@/core/release/visibleTo';
import { overForEveryone } from '@/core/sitting/clock';
import type { Db, Tx } from '@/db/client';
import { attempt, audit, course, mark, publication, sitting } from '@/db/schema';
import { record } from '../house/audit';
import { type Context, house } from '../house/context';
import { audienceOf, rulesOf, type SittingRow } from '../sitting/audience';
import { standingsOf } from '../sitting/standings';
import { type Entry, writePublications } from './publish';
import { differs, standingPublications } from './published';
import { planOf, releaseFactsForAll } from './releaseFacts';
import { resultsOf } from './results';

/** The windows of the score that open without publishing. */
function scoreByItself(plan: ReleasePlan): ReleasePlan {
  return { score: (plan.score ?? []).filter((window) => window.begins.kind !== 'on-publishing') };
}

/** Whether a sitting ever puts results in front of students by itself. */
const actsByItself = (row: SittingRow): boolean =>
  (row.selfPublish ?? noSelfPublish).kind !== 'no' ||
  (row.scored && !row.anonymous && releasesScoreItself(planOf(row)));

/** Students to whom a publication was taken back: nothing publishes itself again for them. */
function withdrawnFrom(tx: Tx, sittingId: string): Set<string> {
  const rows = tx
    .select({ userId: publication.userId, preliminary: publication.preliminary, withdrawnAt: publication.withdrawnAt })
    .from(publication)
    .where(and(eq(publication.sittingId, sittingId), eq(publication.preliminary, false)))
    .orderBy(publication.id)
    .all();
  const newest = new Map(rows.map((row) => [row.userId, row]));
  return new Set([...newest.values()].flatMap((row) => (row.withdrawnAt === null ? [] : [row.userId])));
}

/**
 * Puts in front of students what a sitting shows by itself: results that publish themselves, and preliminary scores whose
 * moment has come. What was published and has changed since stays as it was published, unless its student has handed in
 * another attempt.
 *
 * @param userId only this student's; everyone's where nobody is named
 * @returns when it has to be looked at again although nothing happens
 */
export function releaseSitting(db: Db, sittingId: string, now: Instant, userId?: string): Instant | null {
  const asked = db.select().from(sitting).where(eq(sitting.id, sittingId)).get();
  if (!asked || !actsByItself(asked)) return null;
  return db.transaction(
    (tx) => {
      const found = tx
        .select({ row: sitting, zone: course.timeZone })
        .from(sitting)
        .innerJoin(course, eq(course.id, sitting.courseId))
        .where(eq(sitting.id, sittingId))
        .get();
      if (found?.row.state !== 'scheduled' || !actsByItself(found.row)) return null;
      const { row, zone } = found;
      const context: Context = { db, actor: house, now };
      const results = resultsOf(tx, row, userId);
      const students = audienceOf(tx, row).filter((one) => userId === undefined || one.userId === userId);
      const entryOf = (student: { userId: string; email: string }): Entry[] => {
        const own = results.get(student.userId);
        return own ? [{ userId: student.userId, email: student.email, result: own.result }] : [];
      };
      const published = standingPublications(tx, sittingId, { userId });
      const moments: (Instant | null)[] = [];

      const self = row.selfPublish ?? noSelfPublish;
      if (self.kind !== 'no') {
        const overAt =
          self.kind === 'all'
            ? overForEveryone(rulesOf(row), zone, standingsOf(tx, row), now)
            : Number.NEGATIVE_INFINITY;
        const from = overAt === null ? null : Math.max(overAt, self.notBefore ?? Number.NEGATIVE_INFINITY);
        const all = userId === undefined ? results : resultsOf(tx, row);
        const complete = self.kind === 'each' || [...all.values()].every(({ result }) => result.ready);
        moments.push(from);
        if (from !== null && from <= now && complete) {
          const withdrawn = withdrawnFrom(tx, sittingId);
          const due = students.flatMap(entryOf).filter(({ userId: whose, result }) => {
            if (!result.ready || withdrawn.has(whose)) return false;
            const before = published.get(whose);
            if (!before) return true;
            const ends = results.get(whose)?.attempts.map((one) => one.endedAt) ?? [];
            return differs(before, result) && Math.max(...ends) > before.publishedAt;
          });
          writePublications(tx, context, row, due, { preliminary: false });
          if (due.length)
            record(tx, context, {
              action: 'results.publish',
              courseId: row.courseId,
              subjectId: sittingId,
              detail: { published: due.length, byItself: self.kind },
            });
          for (const one of due)
            published.set(one.userId, {
              ...one.result,
              id: 0,
              preliminary: false,
              attemptIds: one.result.from,
              publishedAt: now,
            });
        }
      }

      const plan = scoreByItself(planOf(row));
      if (releasesScoreItself(plan) && row.scored && !row.anonymous) {
        const facts = releaseFactsForAll(tx, row, students, zone, now);
        const before = standingPublications(tx, sittingId, { preliminary: true, userId });
        const due = students.flatMap(entryOf).filter(({ userId: whose, result }) => {
          const own = facts.get(whose) as ReleaseFacts;
          moments.push(nextChange(plan, own, now));
          if (published.has(whose) || !visibleTo(plan, own, now).has('score')) return false;
          const last = before.get(whose);
          return !last || differs(last, result) || last.waiting !== result.waiting;
        });
        writePublications(tx, context, row, due, { preliminary: true });
      }
      const ahead = moments.filter((at) => at !== null && at > now && Number.isFinite(at)) as Instant[];
      return ahead.length ? Math.min(...ahead) : null;
    },
    { behavior: 'immediate' },
  );
}

type Looked = { stamp: string; next: Instant | null };
const looked = new WeakMap<Db, Map<string, Looked>>();

/**
 * Looks through all sittings that show results by themselves, and acts where something has happened or a moment has come:
 * the sweeper's work, done without anyone's browser.
 *
 * @returns how many it has looked through
 */
export function releaseDue(db: Db, now: Instant): number {
  const rows = db.select().from(sitting).where(eq(sitting.state, 'scheduled')).all().filter(actsByItself);
  if (rows.length === 0) return 0;
  const known = looked.get(db) ?? new Map<string, Looked>();
  looked.set(db, known);
  const marks = db
    .select({ last: max(mark.id) })
    .from(mark)
    .get()?.last;
  const log = db
    .select({ last: max(audit.id) })
    .from(audit)
    .get()?.last;
  const ended = new Map(
    db
      .select({ sittingId: attempt.sittingId, n: count() })
      .from(attempt)
      .where(eq(attempt.state, 'handed-in'))
      .groupBy(attempt.sittingId)
      .all()
      .map((one) => [one.sittingId, one.n]),
  );
  let done = 0;
  for (const row of rows) {
    const stamp = [marks, log, ended.get(row.id)].join('/');
    const before = known.get(row.id);
    if (before?.stamp === stamp && (before.next === null || now < before.next)) continue;
    // What it writes into the log itself is seen with the next look, which then finds nothing to do.
    known.set(row.id, { stamp, next: releaseSitting(db, row.id, now) });
    done += 1;
  }
  return done;
}
