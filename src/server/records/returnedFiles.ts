import { and, inArray, isNull } from 'drizzle-orm';
import type { Db } from '@/db/client';
import { returnedFile } from '@/db/schema';

export type ReturnedFile = { id: string; name: string };

/** The annotated files that go back with some answers, by slot. */
export function returnedFiles(db: Db, slotIds: readonly string[]): Map<string, ReturnedFile[]> {
  const bySlot = new Map<string, ReturnedFile[]>();
  for (const { slotId, id, name } of db
    .select()
    .from(returnedFile)
    .where(and(inArray(returnedFile.slotId, [...slotIds]), isNull(returnedFile.takenBackAt)))
    .orderBy(returnedFile.at)
    .all())
    bySlot.set(slotId, [...(bySlot.get(slotId) ?? []), { id, name }]);
  return bySlot;
}
