import { eq } from 'drizzle-orm';
import type { Band } from '@/core/gradebook/bands';
import { type GradebookRules, usualGradebookRules } from '@/core/gradebook/gradebookRules';
import type { Db, Tx } from '@/db/client';
import { course } from '@/db/schema';
import type { SittingRow } from './audience';

export const gradebookRulesOf = (db: Db | Tx, courseId: string): GradebookRules =>
  db.select({ rules: course.gradebook }).from(course).where(eq(course.id, courseId)).get()?.rules ??
  usualGradebookRules;

export type BandsHeld = { bands: readonly Band[]; decimals: number };

/** The bands that hold for a sitting's results, its own or its course's, and with how many decimals percent are shown. */
export function bandsOf(row: SittingRow, gradebook: GradebookRules | null): BandsHeld {
  const rules = gradebook ?? usualGradebookRules;
  return { bands: row.bands ?? rules.bands, decimals: rules.decimals };
}

export const bandsFor = (db: Db | Tx, row: SittingRow): BandsHeld => bandsOf(row, gradebookRulesOf(db, row.courseId));
