import { eq } from 'drizzle-orm';
import { richFromText } from '../src/core/base/rich';
import { category } from '../src/db/schema';
import { createQuestion } from '../src/server/bank/questions';
import { createExam, openExam, saveExam } from '../src/server/exam/exams';
import { type Context, newId } from '../src/server/house/context';
import { must } from '../src/server/testing/school';

/** Words of the keys of {@link secretExam}, found nowhere else. */
export const secretWords = [
  'SECRETSOLUTION',
  'SECRETRIGHT',
  'SECRETWRONG',
  'SECRETHINT',
  'SECRETCHOICE',
  'SECRETVALUE',
  'SECRETMODEL',
  'keyofchoice',
  '86421.5',
  'PRIVATENAME',
];

/** An exam of three questions (a choice, a number, a text) whose keys hold words found nowhere else. @returns its id */
export function secretExam(context: Context, courseId: string): string {
  const { db } = context;
  const place = db.select().from(category).where(eq(category.name, 'Weather')).get();
  const bankId = place?.bankId ?? '';
  const question = (content: unknown) =>
    must(createQuestion(context, courseId, bankId, { categoryId: place?.id, shortName: 'PRIVATENAME', content }))
      .questionId;
  const feedback = {
    solution: richFromText('SECRETSOLUTION'),
    right: richFromText('SECRETRIGHT'),
    wrong: richFromText('SECRETWRONG'),
    hint: richFromText('SECRETHINT'),
  };
  const ids = [
    question({
      type: 'single-choice',
      stem: richFromText('Pick one'),
      shuffle: true,
      feedback,
      choices: ['red', 'green'].map((text, i) => ({
        id: `keyofchoice${i}`,
        content: richFromText(text),
        right: i === 1,
        pinned: false,
        feedback: richFromText('SECRETCHOICE'),
      })),
    }),
    question({
      type: 'numeric',
      stem: richFromText('How many'),
      feedback,
      accepted: [
        {
          value: '86421.5',
          tolerance: { kind: 'absolute', amount: 0.4375 },
          credit: 1,
          feedback: richFromText('SECRETVALUE'),
        },
      ],
    }),
    question({
      type: 'written',
      stem: richFromText('Why'),
      feedback,
      modelAnswer: richFromText('SECRETMODEL'),
      words: { least: 3, most: null },
    }),
  ];
  const { examId } = must(createExam(context, courseId, { title: 'Secrets' }));
  const { edit, design } = must(openExam(context, courseId, examId));
  const lines = ids.map((questionId) => ({ kind: 'fixed', id: newId(), questionId, points: 1 }));
  must(
    saveExam(context, courseId, examId, {
      title: 'Secrets',
      edit,
      design: { ...design, parts: [{ ...design.parts[0], lines }] },
    }),
  );
  return examId;
}
