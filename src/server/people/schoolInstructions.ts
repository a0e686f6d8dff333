import { eq } from 'drizzle-orm';
import { ok, type Result } from '@/core/base/result';
import { emptyRich, type Rich } from '@/core/base/rich';
import { richSchema } from '@/core/base/richSchema';
import type { Db, Tx } from '@/db/client';
import { installation } from '@/db/schema';
import { command, field, query } from '../house/useCase';
import { toCourse } from './toCourse';

const name = 'instructions';

/** What the school tells every student before every exam; empty where it tells nothing. */
export function schoolInstructions(db: Db | Tx): Rich {
  const stored = db.select().from(installation).where(eq(installation.name, name)).get()?.value;
  return stored ? (JSON.parse(stored) as Rich) : emptyRich;
}

/** Sets what the school tells every student. Whoever teaches a course may: there is one school. */
export const setHouseInstructions = command({
  admits: toCourse('course.create'),
  takes: [field('instructions', richSchema)],
  logs: 'house.instructions',
  does({ tx, record }, instructions): Result<null> {
    const value = JSON.stringify(instructions);
    tx.insert(installation)
      .values({ name, value })
      .onConflictDoUpdate({ target: installation.name, set: { value } })
      .run();
    record({ subjectId: 'house' });
    return ok(null);
  },
});

/** The school's instructions as an instructor edits them. */
export const editHouseInstructions = query({
  admits: toCourse('course.create'),
  does: ({ db }): Result<Rich> => ok(schoolInstructions(db)),
});
