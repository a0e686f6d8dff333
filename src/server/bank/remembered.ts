import { z } from 'zod';
import { type Beginning, beginContent, settingsIn } from '@/core/question/beginning';
import type { QuestionContent } from '@/core/question/content';
import { type Difficulty, difficulties, type QuestionType } from '@/core/question/types';
import type { Tx } from '@/db/client';
import type { Context } from '../house/context';
import { prefer, preferred } from '../house/preferences';

const nameOf = (type: QuestionType) => `question/${type}`;

/** Remembers what was set on a question, so that the next of its type begins there. */
export function rememberChoices(
  tx: Tx,
  context: Context,
  bankId: string,
  content: QuestionContent,
  properties: { difficulty: Difficulty | null; points: number | null },
): void {
  const beginning: Beginning & { bankId: string } = {
    bankId,
    difficulty: properties.difficulty,
    points: properties.points,
    settings: settingsIn(content),
  };
  prefer(tx, context.actor.userId, nameOf(content.type), beginning);
}

const beginningSchema = z.object({
  /** Absent where it was remembered before banks were told apart. */
  bankId: z.string().optional(),
  difficulty: z.enum(difficulties).nullable(),
  points: z.number().positive().nullable(),
  settings: z.record(z.string(), z.unknown()),
});

/**
 * A blank question of a type as this person begins one: with the settings chosen last. How hard it is and what it is worth
 * are taken over within a bank only: of another course they would skew what is expected of a paper.
 */
export function beginQuestion(
  context: Context,
  bankId: string,
  type: QuestionType,
): { content: QuestionContent; difficulty: Difficulty | null; points: number | null } {
  const last = beginningSchema.safeParse(preferred(context.db, context.actor.userId, nameOf(type)));
  const content = beginContent(type, last.success ? last.data : null);
  return last.success && last.data.bankId === bankId
    ? { content, difficulty: last.data.difficulty, points: last.data.points }
    : { content, difficulty: null, points: null };
}
