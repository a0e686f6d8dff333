import { and, eq, isNull } from 'drizzle-orm';
import { z } from 'zod';
import { notFound, ok, type Problem, type Result, refused } from '@/core/base/result';
import { usualPurpose } from '@/core/exam/design';
import { leakKey, leakTaken } from '@/core/release/leakCheck';
import { unacknowledged } from '@/core/sitting/preflight';
import { examRevision, markerAssignment, sitting } from '@/db/schema';
import { examWithRevision } from '../exam/toExam';
import { tell } from '../house/bus';
import { command } from '../house/useCase';
import { audienceOf } from '../records/audience';
import { pinnedDesign } from '../records/pinnedDesign';
import { leaksOf } from './leaksOf';
import { whoOf } from './openSitting';
import { preflightOf } from './preflightOf';
import { tellScheduled } from './tellStudents';
import { toSitting } from './toSitting';

/**
 * Schedules a draft: pins the exam's revision as it stands and tells the students. Errors of the preflight block; its
 * warnings are taken by whoever schedules upon themselves, one by one.
 *
 * @param acknowledged the keys of the warnings that the person has read
 */
export const scheduleSitting = command({
  admits: toSitting('sitting.change'),
  takes: [z.array(z.string().max(200)).max(500).default([])],
  logs: 'sitting.schedule',
  does(
    { tx, actor, now, courseId, record, afterwards, context, timeZone, courseName, sittingId, sitting: row },
    acknowledged,
  ): Result<{ students: number }> {
    afterwards(() => tell({ sittingId, what: 'rules' }));
    const found = examWithRevision(tx, courseId, row.examId);
    if (!found) return notFound('sitting');
    if (row.state === 'scheduled') return refused('conflict', 'This sitting is scheduled already.');
    if (row.state === 'cancelled')
      return refused('conflict', 'This sitting was called off: make a draft of it again first.');
    const { design } = found.revision;
    const purpose = design.purpose ?? usualPurpose;
    const audience = audienceOf(tx, row);
    const byLink = whoOf(tx, sittingId).link !== null;
    const markers = tx.select().from(markerAssignment).where(eq(markerAssignment.sittingId, sittingId)).all().length;
    const asked = {
      row: { ...row, ...purpose },
      design,
      timeZone,
      students: byLink ? null : audience.length,
      markers,
    };
    const findings = preflightOf(tx, asked, now);
    const taken = findings
      .filter(({ kind, key }) => kind === 'warning' && acknowledged.includes(key))
      .map(({ key, leak }) => ({ key, by: actor.userId, name: actor.name, at: now, ...(leak ? { leak } : {}) }));
    const open = [
      ...findings.filter((one) => one.kind === 'error'),
      ...unacknowledged(findings, [...(row.acknowledged ?? []), ...taken]),
    ];
    if (open.length)
      return {
        ok: false,
        problems: open.map(
          ({ kind, message, field }): Problem => ({
            code: kind === 'error' ? 'bad-input' : 'conflict',
            message,
            ...(field ? { field } : {}),
          }),
        ),
      };
    tx.update(examRevision)
      .set({ frozenAt: now })
      .where(and(eq(examRevision.id, found.revision.id), isNull(examRevision.frozenAt)))
      .run();
    tx.update(sitting)
      .set({
        state: 'scheduled',
        revisionId: found.revision.id,
        acknowledged: [...(row.acknowledged ?? []), ...taken],
        ...purpose,
      })
      .where(eq(sitting.id, sittingId))
      .run();
    tellScheduled(tx, context, { row, audience, courseId, timeZone, courseName });
    record({
      subjectId: sittingId,
      detail: { revision: found.revision.number, acknowledged: taken.map((one) => one.key) },
    });
    return ok({ students: audience.length });
  },
});

/** Takes a warning that came up after a sitting was scheduled upon oneself. */
export const acknowledge = command({
  admits: toSitting('sitting.change'),
  takes: [z.string().max(200)],
  logs: 'sitting.acknowledge',
  does({ tx, sittingId, sitting: row, record, context }, key): Result<null> {
    const before = (row.acknowledged ?? []).filter((one) => one.key !== key);
    const leak = leaksOf(tx, row, pinnedDesign(tx, row.revisionId), context.now).find((one) => leakKey(one) === key);
    const taken = {
      key,
      by: context.actor.userId,
      name: context.actor.name,
      at: context.now,
      ...(leak ? { leak: leakTaken(leak) } : {}),
    };
    tx.update(sitting)
      .set({ acknowledged: [...before, taken] })
      .where(eq(sitting.id, sittingId))
      .run();
    record({ subjectId: sittingId, detail: { key } });
    return ok(null);
  },
});
