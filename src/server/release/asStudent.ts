import { notFound, ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { planMoments } from '@/core/release/planSaid';
import { overForEveryone } from '@/core/sitting/clock';
import { query } from '../house/useCase';
import { planOf, rulesOf } from '../records/audience';
import { standingsOf } from '../sitting/standings';
import { toSitting } from '../sitting/toSitting';

export type LookAs = {
  title: string;
  timeZone: string;
  students: { userId: string; name: string; section: string | null; attempts: number }[];
  /** Moments worth looking at: the sitting's own, and those of its plan. */
  moments: { at: Instant; label: string }[];
};

/** As whom, and at which moments, a sitting can be looked at. */
export const studentsToLookAs = query({
  admits: toSitting('results.publish'),
  does({ context, timeZone, sitting: row }): Result<LookAs> {
    if (row.state === 'draft') return notFound('sitting');
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
  },
});
