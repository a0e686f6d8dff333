import { blankContent, type QuestionContent } from './content';
import { definitionOf } from './definitions';
import type { Difficulty, QuestionType } from './types';

/** What a person chose for the last question of a type, apart from its words: where the next one begins. */
export type Beginning = {
  difficulty: Difficulty | null;
  points: number | null;
  /** Settings of the type by name: shuffling, credit rule, matching and the like. */
  settings: Record<string, unknown>;
};

const settingsOf = (type: QuestionType): readonly string[] => definitionOf(type).settings;

/** The settings of a question that the next one of its type begins with. */
export const settingsIn = (content: QuestionContent): Record<string, unknown> =>
  Object.fromEntries(
    settingsOf(content.type).flatMap((name) => {
      const value = (content as unknown as Record<string, unknown>)[name];
      return value === undefined ? [] : [[name, value]];
    }),
  );

/** A blank question of a type with the settings of the last one. */
export function beginContent(type: QuestionType, last: Pick<Beginning, 'settings'> | null): QuestionContent {
  const settings = Object.entries(last?.settings ?? {}).filter(([name]) => settingsOf(type).includes(name));
  return { ...blankContent(type), ...Object.fromEntries(settings) } as QuestionContent;
}
