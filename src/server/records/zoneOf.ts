import { eq } from 'drizzle-orm';
import type { Db, Tx } from '@/db/client';
import { course } from '@/db/schema';

/** The time zone of a course. */
export const zoneOf = (db: Db | Tx, courseId: string): string =>
  db.select({ zone: course.timeZone }).from(course).where(eq(course.id, courseId)).get()?.zone ?? 'UTC';
