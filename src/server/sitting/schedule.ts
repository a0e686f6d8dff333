import { and, eq, isNull } from 'drizzle-orm';
import { notFound, ok, type Problem, type Result, refused } from '@/core/base/result';
import { usualPurpose } from '@/core/exam/design';
import { unacknowledged } from '@/core/sitting/preflight';
import { examRevision, markerAssignment, sitting } from '@/db/schema';
import { examWithRevision } from '../exam/exams';
import { record } from '../house/audit';
import { tell } from '../house/bus';
import type { Context } from '../house/context';
import { admit } from '../people/permission';
import { audienceOf, sittingOf } from './audience';
import { whoOf } from './openSitting';
import { preflightOf } from './preflightOf';
import { tellScheduled } from './tellStudents';

/**
 * Schedules a draft: pins the exam's revision as it stands and tells the students. Errors of the preflight block; its
 * warnings are taken by whoever schedules upon themselves, one by one.
 *
 * @param acknowledged the keys of the warnings that the person has read
 */
export function scheduleSitting(
  context: Context,
  courseId: string,
  sittingId: string,
  acknowledged: readonly string[] = [],
): Result<{ students: number }> {
  const admitted = admit(context, courseId, 'sitting.change');
  if (!admitted.ok) return admitted;
  const { actor, now } = context;
  const scheduled = context.db.transaction(
    (tx): Result<{ students: number }> => {
      const row = sittingOf(tx, courseId, sittingId);
      const found = row && examWithRevision(tx, courseId, row.examId);
      if (!row || !found) return notFound('sitting');
      if (row.state === 'scheduled') return refused('conflict', 'This sitting is scheduled already.');
      const { design } = found.revision;
      const purpose = design.purpose ?? usualPurpose;
      const audience = audienceOf(tx, row);
      const byLink = whoOf(tx, sittingId).link !== null;
      const markers = tx.select().from(markerAssignment).where(eq(markerAssignment.sittingId, sittingId)).all().length;
      const { timeZone } = admitted.value;
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
        .map(({ key }) => ({ key, by: actor.userId, name: actor.name, at: now }));
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
      tellScheduled(tx, context, { row, audience, ...admitted.value });
      record(tx, context, {
        action: 'sitting.schedule',
        courseId,
        subjectId: sittingId,
        detail: { revision: found.revision.number, acknowledged: taken.map((one) => one.key) },
      });
      return ok({ students: audience.length });
    },
    { behavior: 'immediate' },
  );
  if (scheduled.ok) tell({ sittingId, what: 'rules' });
  return scheduled;
}

/** Takes a warning that came up after a sitting was scheduled upon oneself. */
export function acknowledge(context: Context, courseId: string, sittingId: string, key: string): Result<null> {
  const admitted = admit(context, courseId, 'sitting.change');
  if (!admitted.ok) return admitted;
  return context.db.transaction(
    (tx): Result<null> => {
      const row = sittingOf(tx, courseId, sittingId);
      if (!row) return notFound('sitting');
      const before = (row.acknowledged ?? []).filter((one) => one.key !== key);
      const taken = { key: key.slice(0, 200), by: context.actor.userId, name: context.actor.name, at: context.now };
      tx.update(sitting)
        .set({ acknowledged: [...before, taken] })
        .where(eq(sitting.id, sittingId))
        .run();
      record(tx, context, { action: 'sitting.acknowledge', courseId, subjectId: sittingId, detail: { key } });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}
