import { merged } from '@/core/base/merge';
import { pointsText } from '@/core/base/rounding';
import type { OpenQuestion } from './model';

/** What stands on a question's sheet. */
export type Fields = Pick<
  OpenQuestion,
  'categoryId' | 'shortName' | 'difficulty' | 'content' | 'tags' | 'passageId'
> & {
  points: string;
  objectives: string[];
};

/** A question as it stands on its sheet; no points are those of its bank. */
export const fieldsOf = (question: OpenQuestion): Fields => ({
  categoryId: question.categoryId,
  shortName: question.shortName,
  difficulty: question.difficulty,
  points: question.ownPoints === null ? '' : pointsText(question.ownPoints),
  content: question.content,
  tags: question.tags,
  passageId: question.passageId,
  objectives: question.objectives.map((one) => one.id),
});

const called: { [Field in keyof Fields]: string } = {
  content: 'the question',
  shortName: 'short name',
  categoryId: 'category',
  difficulty: 'difficulty',
  points: 'points',
  tags: 'tags',
  objectives: 'objectives',
  passageId: 'passage',
};

/**
 * What two people made of one sheet: where only one of them changed a field, their change stands; where both did, mine does.
 * Text, choices and key are one field: joined piece by piece they could make a key that nobody meant.
 *
 * @returns the fields, whether both changed one of them, and in words what is theirs
 */
export function joinedFields(
  base: Fields,
  mine: Fields,
  theirs: Fields,
): { fields: Fields; touch: boolean; taken: string[] } {
  const whole = ({ content, ...rest }: Fields) => ({ ...rest, content: [content] });
  const { value, clashes } = merged(whole(base), whole(mine), whole(theirs));
  const { content, ...rest } = value;
  const fields: Fields = { ...rest, content: content[0] ?? mine.content };
  const taken = (Object.keys(called) as (keyof Fields)[]).filter(
    (field) => JSON.stringify(fields[field]) !== JSON.stringify(mine[field]),
  );
  return { fields, touch: clashes.length > 0, taken: taken.map((field) => called[field]) };
}
