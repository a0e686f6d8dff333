import { eq } from 'drizzle-orm';
import { ok, type Result, refused } from '@/core/base/result';
import { emptyRich, type Rich } from '@/core/base/rich';
import { richSchema } from '@/core/base/richSchema';
import type { Db, Tx } from '@/db/client';
import { installation } from '@/db/schema';
import { admit } from '../people/permission';
import { record } from './audit';
import type { Context } from './context';

const name = 'instructions';

/** What the school tells every student before every exam; empty where it tells nothing. */
export function houseInstructions(db: Db | Tx): Rich {
  const stored = db.select().from(installation).where(eq(installation.name, name)).get()?.value;
  return stored ? (JSON.parse(stored) as Rich) : emptyRich;
}

/** Sets what the school tells every student. Whoever teaches a course may: there is one school. */
export function setHouseInstructions(context: Context, courseId: string, input: unknown): Result<null> {
  const admitted = admit(context, courseId, 'course.create');
  if (!admitted.ok) return admitted;
  const parsed = richSchema.safeParse(input);
  if (!parsed.success) return refused('bad-input', 'These instructions could not be read.', 'instructions');
  return context.db.transaction(
    (tx): Result<null> => {
      const value = JSON.stringify(parsed.data);
      tx.insert(installation)
        .values({ name, value })
        .onConflictDoUpdate({ target: installation.name, set: { value } })
        .run();
      record(tx, context, { action: 'house.instructions', courseId, subjectId: 'house' });
      return ok(null);
    },
    { behavior: 'immediate' },
  );
}

/** The school's instructions as an instructor edits them. */
export function editHouseInstructions(context: Context, courseId: string): Result<Rich> {
  const admitted = admit(context, courseId, 'course.create');
  return admitted.ok ? ok(houseInstructions(context.db)) : admitted;
}
