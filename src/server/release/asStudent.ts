import { notFound, ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { planMoments } from '@/core/release/planSaid';
import { overForEveryone } from '@/core/sitting/clock';
import type { Context } from '../house/context';
import { admit } from '../people/permission';
import { rulesOf, sittingOf } from '../sitting/audience';
import { standingsOf } from '../sitting/standings';
import { planOf } from './releaseFacts';

export type LookAs = {
  title: string;
  timeZone: string;
  students: { userId: string; name: string; section: string | null; attempts: number }[];
  /** Moments worth looking at: the sitting's own, and those of its plan. */
  moments: { at: Instant; label: string }[];
};

/** As whom, and at which moments, a sitting can be looked at. */
export function studentsToLookAs(context: Context, courseId: string, sittingId: string): Result<LookAs> {
  const admitted = admit(context, courseId, 'results.publish');
  if (!admitted.ok) return admitted;
  const row = sittingOf(context.db, courseId, sittingId);
  if (!row || row.state === 'draft') return notFound('sitting');
  const { timeZone } = admitted.value;
  const standings = standingsOf(context.db, row);
  const overAt = overForEveryone(rulesOf(row), timeZone, standings, context.now);
  const own = [
    { at: row.opens, label: 'it opens' },
    { at: row.closes, label: 'it closes' },
    { at: overAt, label: 'over for everyone' },
  ].flatMap(({ at, label }) => (at === null ? [] : [{ at, label }]));
  const planned = planMoments(planOf(row), row, overAt).filter(({ at }) => !own.some((one) => one.at === at));
  return ok({
    title: row.title,
    timeZone,
    students: standings.map(({ userId, name, section, soFar }) => ({ userId, name, section, attempts: soFar.used })),
    moments: [...own, ...planned].sort((a, b) => a.at - b.at),
  });
}
