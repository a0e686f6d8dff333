import { and, count, eq, gt, max } from 'drizzle-orm';
import type { Instant } from '@/core/base/time';
import { noSelfPublish, type ReleasePlan } from '@/core/release/plan';
import { nextChange, type ReleaseFacts, releasesScoreItself, visibleTo } from '@/core/release/visibleTo';
import { overForEveryone } from '@/core/sitting/clock';
import type { Db, Tx } from '@/db/client';
import { attempt, audit, course, mark, paperSlot, publication, sitting } from '@/db/schema';
import { uponHandIn } from '../attempt/uponHandIn';
import { record } from '../house/audit';
import { tell } from '../house/bus';
import { type Context, house } from '../house/context';
import { logFailure } from '../house/log';
import { planOf, rulesOf, type SittingRow, takersOf } from '../records/audience';
import { differs, standingPublications } from '../records/published';
import { standingsOf } from '../sitting/standings';
import { type Entry, writePublications } from './publish';
import { releaseFactsForAll } from './releaseFacts';
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
  /** To whom something was shown just now. */
  const shown = new Set<string>();
  const next = db.transaction(
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
      const students = takersOf(tx, row).filter((one) => userId === undefined || one.userId === userId);
      const entryOf = (student: { userId: string; email: string | null }): Entry[] => {
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
          for (const one of due) shown.add(one.userId);
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
              told: null,
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
        for (const one of due) shown.add(one.userId);
      }
      const ahead = moments.filter((at) => at !== null && at > now && Number.isFinite(at)) as Instant[];
      return ahead.length ? Math.min(...ahead) : null;
    },
    { behavior: 'immediate' },
  );
  // Devices in a round wait for it with their page open.
  if (asked.isRound) for (const one of shown) tell({ sittingId, what: 'attempt', userId: one });
  return next;
}

/** What is shown on hand-in is there when its student looks for it. Where that fails, the sweeper does it a little later. */
uponHandIn(({ db, now, actor, requestId }, sittingId) => {
  try {
    releaseSitting(db, sittingId, now, actor.userId);
  } catch (why) {
    logFailure(why, requestId, 'What is shown on hand-in could not be shown yet; it is tried again.');
  }
});

type Looked = {
  /** The newest mark and the newest line of the log that were looked at. */
  mark: number;
  log: number;
  /** By sitting: how many had handed in, and when it has to be looked at again although nothing happens. */
  sittings: Map<string, { ended: number; next: Instant | null }>;
};
const looked = new WeakMap<Db, Looked>();

/** What is done in a course at large and can move any result in it; everything else names its sitting, or adds a mark. */
const atLarge = ['marking.taken-back', 'marking.adjust-paper', 'people.change', 'people.remove', 'people.add'];

/** The sittings whose results or rules may have moved since the last look. */
function touchedSince(db: Db, since: Looked, rows: readonly SittingRow[]): Set<string> {
  const touched = new Set(
    db
      .selectDistinct({ id: attempt.sittingId })
      .from(mark)
      .innerJoin(paperSlot, eq(paperSlot.id, mark.slotId))
      .innerJoin(attempt, eq(attempt.id, paperSlot.attemptId))
      .where(gt(mark.id, since.mark))
      .all()
      .map((one) => one.id),
  );
  const log = db
    .selectDistinct({ subjectId: audit.subjectId, courseId: audit.courseId, action: audit.action })
    .from(audit)
    .where(gt(audit.id, since.log))
    .all();
  for (const one of log) {
    touched.add(one.subjectId);
    if (atLarge.includes(one.action)) for (const row of rows) if (row.courseId === one.courseId) touched.add(row.id);
  }
  return touched;
}

/**
 * Looks at the sittings that show results by themselves, and acts where something has happened in one or a moment of it has
 * come: the sweeper's work, done without anyone's browser. A server that has just started looks at all of them.
 *
 * @returns how many it has looked through
 */
export function releaseDue(db: Db, now: Instant): number {
  const rows = db.select().from(sitting).where(eq(sitting.state, 'scheduled')).all().filter(actsByItself);
  if (rows.length === 0) return 0;
  const before = looked.get(db);
  const newest = {
    mark:
      db
        .select({ last: max(mark.id) })
        .from(mark)
        .get()?.last ?? 0,
    log:
      db
        .select({ last: max(audit.id) })
        .from(audit)
        .get()?.last ?? 0,
  };
  const ended = new Map(
    db
      .select({ sittingId: attempt.sittingId, n: count() })
      .from(attempt)
      .where(eq(attempt.state, 'handed-in'))
      .groupBy(attempt.sittingId)
      .all()
      .map((one) => [one.sittingId, one.n]),
  );
  const touched = before ? touchedSince(db, before, rows) : new Set<string>();
  const sittings = before?.sittings ?? new Map();
  looked.set(db, { ...newest, sittings });
  let done = 0;
  for (const row of rows) {
    const known = sittings.get(row.id);
    const count = ended.get(row.id) ?? 0;
    const same = known && !touched.has(row.id) && known.ended === count;
    if (same && (known.next === null || now < known.next)) continue;
    sittings.set(row.id, { ended: count, next: releaseSitting(db, row.id, now) });
    done += 1;
  }
  return done;
}
