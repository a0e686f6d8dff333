import { eq } from 'drizzle-orm';
import { minute } from '@/core/base/time';
import { paperSlot } from '@/db/schema';
import { handIn } from '../attempt/handIn';
import { saveResponses } from '../attempt/saveResponses';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import type { Actor } from '../house/context';
import { must, type School } from './school';

/**
 * Takes a sitting as a student would: starts, answers in the order of the paper, hands in.
 *
 * @param values by place on the paper, or what gives them for its slots; null or absent stays empty
 * @param from when it is started, in minutes after the school's clock began; it is handed in nine minutes later
 */
export function takePaper(
  school: School,
  sittingId: string,
  student: Actor,
  values: readonly unknown[] | ((slots: readonly (typeof paperSlot.$inferSelect)[]) => readonly unknown[]),
  from = 1,
): { attemptId: string; slotIds: string[] } {
  const at = (later: number) => school.as(student, (from + later) * minute);
  const { attemptId } = must(startAttempt(at(0), sittingId));
  const { epoch } = must(openForWriting(at(0), attemptId));
  const slots = school.db
    .select()
    .from(paperSlot)
    .where(eq(paperSlot.attemptId, attemptId))
    .orderBy(paperSlot.position)
    .all();
  (typeof values === 'function' ? values(slots) : values).forEach((value, i) => {
    if (value === null || value === undefined) return;
    const save = { attemptId, slotId: slots[i]?.id ?? '', epoch, sequence: i + 1, value, comeBack: false };
    for (const saved of saveResponses(school.db, [{ context: at(1), save }])) must(saved);
  });
  must(handIn(at(9), attemptId));
  return { attemptId, slotIds: slots.map((slot) => slot.id) };
}
