import { beforeEach } from 'vitest';
import { richFromText } from '@/core/base/rich';
import { minute } from '@/core/base/time';
import type { QuestionContent } from '@/core/question/content';
import type { Fact, ReleasePlan, ReleaseWindow } from '@/core/release/plan';
import type { Actor } from '../house/context';
import { answersToMark } from '../marking/answersToMark';
import { giveMark } from '../marking/giveMark';
import { publishReady } from '../release/publish';
import { myReview } from '../release/review';
import { must, School, writtenContent } from './school';
import { takePaper } from './takePaper';

/** A choice with its feedback and solution, and an essay with a rubric: every fact has a word that stands nowhere else. */
const choice: QuestionContent = {
  type: 'single-choice',
  stem: richFromText('STEMWORD'),
  shuffle: true,
  choices: [
    {
      id: 'a',
      content: richFromText('one shown choice'),
      right: false,
      pinned: false,
      feedback: richFromText('TOLDCHOICE'),
    },
    { id: 'b', content: richFromText('another shown choice'), right: true, pinned: false },
  ],
  feedback: {
    right: richFromText('TOLDRIGHT'),
    wrong: richFromText('TOLDWRONG'),
    solution: richFromText('SOLUTIONWORD'),
    hint: richFromText('HINTWORD'),
  },
};
const writing: QuestionContent = {
  ...(writtenContent('ESSAYSTEM') as Extract<QuestionContent, { type: 'written' }>),
  modelAnswer: richFromText('MODELWORD'),
  rubric: {
    criteria: [
      {
        id: 'c',
        name: 'CRITERIONWORD',
        weight: 1,
        levels: [
          { id: 'l', name: 'LEVELWORD', share: 1 },
          { id: 'm', name: 'low', share: 0 },
        ],
      },
    ],
  },
};

export const window = (kind: 'on-hand-in' | 'on-publishing' | 'over-for-everyone'): ReleaseWindow => ({
  begins: { kind },
});
export const planOf = (some: readonly Fact[], one: ReleaseWindow): ReleasePlan =>
  Object.fromEntries(some.map((fact) => [fact, [one]]));

/** A school anew for each test, with an exam in which every fact of a release plan has a word that stands nowhere else. */
export function releaseSchool() {
  let school: School;
  let essay: string;
  let examId: string;
  beforeEach(() => {
    school = new School(3);
    essay = school.question(writing);
    examId = school.exam([school.fixed(school.question(choice), 4), school.fixed(essay, 6)]);
  });
  const student = (i: number) => school.students[i] as Actor;
  const teacher = (later = 30 * minute) => school.as(school.teacher, later);
  /** The essays of a sitting as they wait for marks, or are marked. */
  const essays = (sittingId: string, later: number) =>
    must(answersToMark(teacher(later), school.courseId, sittingId, essay)).bodies;
  return {
    get school() {
      return school;
    },
    get examId() {
      return examId;
    },
    student,
    teacher,
    essays,
    /** Gives the exam. */
    give: (change: Record<string, unknown>) => school.sitting(examId, change),
    /** Takes a sitting with an essay, and a pick that no choice of the paper carries: wrong, however they are laid out. */
    take: (sittingId: string, whom: Actor) =>
      takePaper(school, sittingId, whom, [{ picked: 'zzzz' }, { text: 'OWNWORD of mine' }]),
    /** Gives every essay 3 points of 6 with a comment, or other points in place of those it has. */
    markEssays: (sittingId: string, later = 20 * minute, points = 3) => {
      for (const body of essays(sittingId, later))
        must(
          giveMark(teacher(later), school.courseId, body.slotId, {
            points,
            comment: 'COMMENTWORD',
            rubric: { c: 'l' },
            revision: 1,
            before: body.markId,
          }),
        );
    },
    /** What a student sees. */
    review: (sittingId: string, i: number, later: number) => must(myReview(school.as(student(i), later), sittingId)),
    publish: (sittingId: string, expected: number, more: object = {}, later = 30 * minute) =>
      must(publishReady(teacher(later), school.courseId, sittingId, { expected, ...more })),
  };
}
