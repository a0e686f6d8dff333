import { describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import { savePassage } from '../bank/passages';
import { createQuestion } from '../bank/questions';
import type { Actor } from '../house/context';
import { must, School, writtenContent } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { answersToMark } from './answersToMark';

const doc = (...content: object[]) => ({ type: 'doc', content: [{ type: 'paragraph', content }] });
const rubric = {
  criteria: [
    {
      id: 'c1',
      name: 'Reasons',
      weight: 2,
      levels: [
        { id: 'l1', name: 'none', share: 0 },
        { id: 'l2', name: 'sound', share: 1 },
      ],
    },
  ],
};

describe('what a marker reads', () => {
  const school = new School(2);
  const teacher = school.as(school.teacher, 20 * minute);
  const { passageId } = must(
    savePassage(school.as(school.teacher), school.courseId, school.bankId, null, {
      shortName: 'Forecast',
      content: doc({ type: 'text', text: 'Wind south-west, increasing.' }),
    }),
  );
  const question = (content: object, passage: string | null = null) =>
    must(
      createQuestion(school.as(school.teacher), school.courseId, school.bankId, {
        categoryId: school.categoryId,
        passageId: passage,
        content: content as QuestionContent,
      }),
    ).questionId;
  const formed = question({ ...writtenContent('Would you sail?'), format: 'rich', rubric }, passageId);
  const plain = question(writtenContent('And with a novice?'));
  const sittingId = school.sitting(school.exam([school.fixed(formed, 6), school.fixed(plain, 4)]));

  const take = (student: Actor, values: unknown[]) => takePaper(school, sittingId, student, values);
  const read = (questionId: string) => must(answersToMark(teacher, school.courseId, sittingId, questionId));

  it('is the answer with its form, beside the passage and the rubric', () => {
    const [ada, ben] = school.students as [Actor, Actor];
    const rich = doc({ type: 'text', text: 'No: ', marks: [{ type: 'bold' }] }, { type: 'text', text: 'four times' });
    take(ada, [{ rich, text: 'something else' }, { text: 'Never.\nNot once.' }]);
    take(ben, [{ text: 'Yes' }, null]);
    const page = read(formed);
    expect(page.questions[0]?.rubric).toEqual(rubric);
    expect(JSON.stringify(page.questions[0]?.passage)).toContain('Wind south-west, increasing.');
    const bold = page.bodies.find((answer) => answer.rich);
    expect(bold?.text).toBe('No: four times');
    expect(bold?.rich?.content[0]).toMatchObject({
      content: [{ marks: [{ type: 'bold' }] }, { text: 'four times' }],
    });
    expect(page.bodies.map((answer) => answer.text).sort()).toEqual(['No: four times', 'Yes']);
  });

  it('is the words alone where no form was allowed; an empty answer is not asked about', () => {
    expect(read(plain)).toMatchObject({
      questions: [{ passage: null, rubric: null }],
      heads: [{ number: 1, points: null }],
      bodies: [{ text: 'Never.\nNot once.', rich: null, files: [], outOf: 4, points: null, markId: null }],
    });
  });
});
