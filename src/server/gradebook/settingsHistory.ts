import { and, desc, eq, inArray } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import type { Instant } from '@/core/base/time';
import { type BookSettings, settingsChanged } from '@/core/gradebook/settingsSaid';
import type { Tx } from '@/db/client';
import { audit, user } from '@/db/schema';
import { query } from '../house/useCase';
import { toCourse } from '../people/toCourse';
import { gradebookRulesOf } from '../records/bandsHeld';
import { columnsOf, groupsOf } from './bookData';

/** Everything by which totals are computed and shown, as it is now. */
function settingsOf(tx: Tx, courseId: string): BookSettings {
  const groups = groupsOf(tx, courseId);
  return {
    rules: gradebookRulesOf(tx, courseId),
    groups,
    columns: columnsOf(tx, courseId, groups.length > 0),
  };
}

/**
 * Watches what a change does to the settings of a gradebook.
 *
 * @returns what says, once it is made, what it changed: for its line in the log
 */
export function watchSettings(tx: Tx, courseId: string): () => { said: string[] } {
  const before = settingsOf(tx, courseId);
  return () => ({ said: settingsChanged(before, settingsOf(tx, courseId)) });
}

/** What kinds of change stand in the history, and what is said of one from which nothing is known but that. */
const kinds: Readonly<Record<string, string>> = {
  'gradebook.numbers': 'Numbers, groups or columns were changed.',
  'gradebook.sitting-bands': 'The bands of a sitting were changed.',
  'gradebook.add-column': 'A column was added.',
  'gradebook.remove-column': 'A column was taken out.',
  'gradebook.restore-column': 'A column was put back.',
  'gradebook.move-column': 'A column was moved.',
};

/** So many changes are listed. */
const most = 100;

/** One change of how a gradebook is computed or shown: who made it, when, and what is otherwise since. */
export type SettingsChange = { id: number; at: Instant; by: string; said: string[] };

/** What was changed in how the gradebook of a course is computed and shown, the newest first. */
export const settingsHistory = query({
  admits: toCourse('gradebook.see'),
  does: ({ db, courseId, timeZone }): Result<{ changes: SettingsChange[]; timeZone: string }> =>
    ok({
      timeZone,
      changes: db
        .select({ id: audit.id, at: audit.at, action: audit.action, detail: audit.detail, by: user.name })
        .from(audit)
        .leftJoin(user, eq(user.id, audit.actorId))
        .where(and(eq(audit.subjectId, courseId), inArray(audit.action, Object.keys(kinds))))
        .orderBy(desc(audit.id))
        .limit(most)
        .all()
        .flatMap(({ action, detail, by, ...row }) => {
          const said = (detail?.said as string[] | undefined) ?? [kinds[action] as string];
          // What was kept as it was is no change.
          return said.length > 0 ? [{ ...row, by: by ?? 'by itself', said }] : [];
        }),
    }),
});
