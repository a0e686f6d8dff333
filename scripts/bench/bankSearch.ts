import { sql } from 'drizzle-orm';
import { everyQuestion, fullTextQuery } from '../../src/core/bank/questionFilter';
import { listQuestions } from '../../src/server/bank/questionList';
import { bringIn } from '../../src/server/bringIn/bringIn';
import { must, School } from '../../src/server/testing/school';
import { exampleQuestions } from './exampleBank';
import { inTurn, report } from './measure';

/**
 * bank.search: the list of a bank of 5,000 questions narrowed by a text, two types and a difficulty, with its count,
 * its first window and what papers have shown of those rows. Baseline: the bare full-text query, fetching the numbers of
 * all rows that match.
 */
export function bankSearch(): void {
  const school = new School(1);
  const context = school.as(school.teacher);
  const items = exampleQuestions(5_000).map((content, i) => ({
    content,
    shortName: `question ${i}`,
    difficulty: (['easy', 'medium', 'hard'] as const)[i % 3],
  }));
  for (let i = 0; i < items.length; i += 2_500)
    must(
      bringIn(context, school.courseId, school.bankId, {
        categoryId: school.categoryId,
        items: items.slice(i, i + 2_500),
      }),
    );
  const filter = {
    ...everyQuestion,
    text: 'bebi da',
    types: ['single-choice' as const, 'numeric' as const],
    difficulties: ['easy' as const],
  };
  const query = fullTextQuery(filter.text);
  let total = 0;
  let matching = 0;
  const times = inTurn(
    5,
    1,
    () => {
      total = must(listQuestions(context, school.courseId, school.bankId, filter)).total;
    },
    () => {
      matching = school.db.all(sql`select rowid from question_search where question_search match ${query}`).length;
    },
  );
  report({
    name: 'bank.search',
    value: times.work,
    unit: 'ms for 5,000 questions, filter and text',
    baseline: times.baseline,
    ratio: times.work / times.baseline,
    total,
    matching,
  });
}
