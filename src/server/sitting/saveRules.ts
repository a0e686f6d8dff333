import { randomBytes } from 'node:crypto';
import { and, eq, inArray, isNull } from 'drizzle-orm';
import { readLocal } from '@/core/base/localTime';
import { notFound, ok, type Problem, type Result, refused } from '@/core/base/result';
import { type Instant, minute } from '@/core/base/time';
import { preflight } from '@/core/sitting/preflight';
import type { Tx } from '@/db/client';
import { markerAssignment, membership, section, sitting, sittingAudience } from '@/db/schema';
import { tell } from '../house/bus';
import { command } from '../house/useCase';
import { rulesOf, type SittingRow } from '../records/audience';
import { whoOf } from './openSitting';
import { type RulesInput, rulesInput, type Who } from './rulesInput';
import { tellMoved } from './tellStudents';
import { toSitting } from './toSitting';

/**
 * Changes rules of a sitting; what the input does not name stays. Those of a scheduled sitting may be changed too, also
 * while students write: deadlines are worked out anew for everyone from then on, and open pages hear of it.
 */
export const saveSitting = command({
  admits: toSitting('sitting.change'),
  takes: [rulesInput],
  logs: 'sitting.save',
  does(
    { tx, courseId, sittingId, timeZone, sitting: row, record, afterwards, context, courseName },
    input,
  ): Result<null> {
    const read = readMoments(input, timeZone);
    if (!read.ok) return read;
    const {
      timeLimitMinutes,
      who,
      markerIds,
      further,
      opens: _o,
      lastStart: _l,
      due: _d,
      closes: _c,
      ...fields
    } = input;
    afterwards(() => tell({ sittingId, what: 'rules' }));
    const next = {
      ...fields,
      ...read.value,
      ...(timeLimitMinutes === undefined
        ? {}
        : { timeLimit: timeLimitMinutes === null ? null : timeLimitMinutes * minute }),
      ...(further ? { further: { ...row.further, ...further } } : {}),
    };
    const merged = { ...row, ...next };
    const problems = row.state === 'scheduled' ? blocking(merged, row, timeZone, context.now) : [];
    if (problems.length) return { ok: false, problems };
    if (!allBelong(tx, courseId, who, markerIds ?? [])) return notFound('section, student or marker');
    if (Object.keys(next).length) tx.update(sitting).set(next).where(eq(sitting.id, sittingId)).run();
    if (who) giveTo(tx, courseId, sittingId, who);
    if (markerIds) {
      tx.delete(markerAssignment).where(eq(markerAssignment.sittingId, sittingId)).run();
      for (const userId of new Set(markerIds)) tx.insert(markerAssignment).values({ sittingId, userId }).run();
    }
    if (row.state === 'scheduled')
      tellMoved(tx, context, { before: row, after: merged, courseId, timeZone, courseName });
    // The log never holds a code.
    const hidden = next.further?.entryCode ? { further: { ...next.further, entryCode: 'set' } } : {};
    record({
      subjectId: sittingId,
      detail: { ...next, ...hidden, ...(who ? { who } : {}), ...(markerIds ? { markerIds } : {}) },
    });
    return ok(null);
  },
});

/** The errors of the rules of a scheduled sitting. What has closed meanwhile may stay closed. */
function blocking(after: SittingRow, before: SittingRow, zone: string, now: Instant): Problem[] {
  const staysClosed = before.closes !== null && before.closes <= now && before.closes === after.closes;
  if (staysClosed) return [];
  const { releasePlan } = after;
  const facts = {
    planProblems: [],
    byHand: { least: 0, most: 0 },
    markers: 0,
    scored: false,
    releasePlan,
    leaks: [],
    scheduled: true,
    ...nothingElse,
  };
  return preflight({ rules: rulesOf(after), zone, students: 1, ...facts }, now)
    .filter((finding) => finding.kind === 'error')
    .map(({ message, field }) => ({ code: 'bad-input' as const, message, ...(field ? { field } : {}) }));
}

/** What of a preflight a change of the rules alone does not look at. */
const nothingElse = { neverStart: [], expectedMinutes: null, heldElsewhere: [] };

type Moments = Partial<Record<'opens' | 'lastStart' | 'due' | 'closes', Instant | null>>;

function readMoments(input: RulesInput, zone: string): Result<Moments> {
  const moments: Moments = {};
  for (const name of ['opens', 'lastStart', 'due', 'closes'] as const) {
    const text = input[name];
    if (text === undefined) continue;
    if (text === '') moments[name] = null;
    else {
      const read = readLocal(text, zone);
      if (!read.ok) return refused('bad-input', read.why, name);
      moments[name] = read.at;
    }
  }
  return ok(moments);
}

/** Gives a sitting to others. Its link stays the same for as long as it is given by link. */
function giveTo(tx: Tx, courseId: string, sittingId: string, who: Who): void {
  const { link } = whoOf(tx, sittingId);
  tx.delete(sittingAudience).where(eq(sittingAudience.sittingId, sittingId)).run();
  const rows =
    who.kind === 'course'
      ? [{ kind: 'course' as const, refId: courseId }]
      : who.kind === 'link'
        ? [{ kind: 'link' as const, refId: link ?? randomBytes(18).toString('base64url') }]
        : [
            ...[...new Set(who.sectionIds)].map((refId) => ({ kind: 'section' as const, refId })),
            ...[...new Set(who.studentIds)].map((refId) => ({ kind: 'student' as const, refId })),
          ];
  if (rows.length)
    tx.insert(sittingAudience)
      .values(rows.map((one) => ({ sittingId, ...one })))
      .run();
}

function allBelong(tx: Tx, courseId: string, who: Who | undefined, markerIds: string[]): boolean {
  const people = (role: 'student' | 'marker', ids: string[]) =>
    tx
      .select({ id: membership.userId })
      .from(membership)
      .where(
        and(
          eq(membership.courseId, courseId),
          eq(membership.role, role),
          isNull(membership.removedAt),
          inArray(membership.userId, ids),
        ),
      )
      .all().length === new Set(ids).size;
  if (!people('marker', markerIds)) return false;
  if (who?.kind !== 'some') return true;
  const sections = tx
    .select({ id: section.id })
    .from(section)
    .where(and(eq(section.courseId, courseId), inArray(section.id, who.sectionIds)))
    .all();
  return sections.length === new Set(who.sectionIds).size && people('student', who.studentIds);
}
