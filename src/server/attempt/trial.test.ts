import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { richFromText } from '@/core/base/rich';
import { minute } from '@/core/base/time';
import type { ExamDesign, ExamPart } from '@/core/exam/design';
import type { QuestionContent } from '@/core/question/content';
import { usualMatching } from '@/core/question/text/acceptedText';
import { questionTypes } from '@/core/question/types';
import { anyOf } from '@/core/testing/anyQuestion';
import { question } from '@/db/schema';
import { choiceContent, must, refusal, School, writtenContent } from '../testing/school';
import { openTrial, openTrialQuestion, rightAnswers, scoreTrial } from './trial';

let school: School;
beforeEach(() => {
  school = new School(1);
});

const teacher = () => school.as(school.teacher);
const answersOf = (examId: string, seed = '1') =>
  new Map(must(rightAnswers(teacher(), school.courseId, examId, seed)).map((one) => [one.slotId, one.value]));
const sent = (answers: ReadonlyMap<string, unknown>) => [...answers].map(([slotId, value]) => ({ slotId, value }));
const score = (examId: string, answers: ReadonlyMap<string, unknown>, seed = '1') =>
  must(scoreTrial(teacher(), school.courseId, examId, seed, sent(answers)));
const withPart =
  (part: Partial<ExamPart>) =>
  (design: ExamDesign): ExamDesign => ({
    ...design,
    parts: design.parts.map((one) => ({ ...one, ...part })),
  });
/** Every row of every table: what a trial must leave as it was. */
const everything = () =>
  (school.db.$client.prepare("select name from sqlite_master where type = 'table'").all() as { name: string }[]).map(
    ({ name }) => school.db.$client.prepare(`select * from "${name}"`).all(),
  );

describe('a trial', () => {
  it('is the paper as a student gets it, without its key, and leaves no trace', () => {
    school.questions(8);
    const examId = school.exam([school.draw(4)]);
    const before = JSON.stringify(everything());
    const opened = must(openTrial(teacher(), school.courseId, examId, '1'));
    expect(opened.slots).toHaveLength(4);
    expect(JSON.stringify(opened)).not.toMatch(/"right":|solution of|feedback/);
    expect(score(examId, answersOf(examId)).score).toMatchObject({ earned: 4, possible: 4 });
    expect(JSON.stringify(everything())).toBe(before);
  });

  it('filled in with right answers gives full marks for every type that a rule can mark', () => {
    for (const type of questionTypes)
      for (const content of fc.sample(anyOf[type] as fc.Arbitrary<QuestionContent>, { seed: 7, numRuns: 2 }))
        school.question(content);
    const all = school.db.select().from(question).all();
    const examId = school.exam(all.map((one) => school.fixed(one.id, 2)));
    const { slots } = score(examId, answersOf(examId));
    expect(slots.map((slot) => slot.broken)).toEqual(all.map(() => false));
    for (const slot of slots) expect([slot.name, slot.points ?? slot.outOf]).toEqual([slot.name, slot.outOf]);
    expect(slots.some((slot) => slot.points === null)).toBe(true);
  });

  it('names the question whose key does not earn full marks itself', () => {
    const broken = school.question({
      type: 'short-text',
      stem: richFromText('broken'),
      accepted: [{ text: 'half', credit: 1 }],
      matching: usualMatching,
      feedback: {},
    });
    school.db.$client
      .prepare(
        "update question_version set content = json_set(content, '$.accepted[0].credit', 0.5) where question_id = ?",
      )
      .run(broken);
    const examId = school.exam([school.fixed(broken), ...school.questions(1).map((id) => school.fixed(id))]);
    const { slots, score: total } = score(examId, answersOf(examId));
    expect(slots.map((slot) => slot.broken)).toEqual([true, false]);
    expect(total.earned).toBe(1);
  });

  it('fills a choose-part that refuses more only as far as it asks', () => {
    school.questions(6);
    const examId = school.exam([school.draw(4, 3)], null, withPart({ choose: { count: 2, extra: 'refused' } }));
    expect(answersOf(examId).size).toBe(2);
    expect(score(examId, answersOf(examId)).score).toMatchObject({ earned: 6, possible: 6 });
  });

  it('opens a question with a time of its own only when asked', () => {
    school.questions(2);
    const examId = school.exam([{ ...school.draw(1), minutes: 3 }]);
    const [slot] = must(openTrial(teacher(), school.courseId, examId, '1')).slots;
    expect(slot?.view).toBeNull();
    const opened = must(openTrialQuestion(teacher(), school.courseId, examId, '1', slot?.slotId ?? ''));
    expect([opened.view.type, opened.until]).toEqual(['single-choice', teacher().now + 3 * minute]);
    expect(refusal(openTrialQuestion(teacher(), school.courseId, examId, '1', 'trial-9-none'))).toBe('not-found');
  });

  it('says so when its paper would be another today, and when none can be drawn', () => {
    const [first = ''] = school.questions(1);
    const examId = school.exam([school.fixed(first)]);
    expect(
      refusal(scoreTrial(teacher(), school.courseId, examId, '1', [{ slotId: 'trial-0-other', value: null }])),
    ).toBe('conflict');
    expect(refusal(openTrial(teacher(), school.courseId, school.exam([]), '1'))).toBe('conflict');
  });

  it('belongs to those who may change the exam', () => {
    school.question(choiceContent('one'));
    school.question(writtenContent('two'));
    const examId = school.exam([school.draw(2)]);
    for (const who of [school.students[0], school.marker, school.elsewhere.teacher])
      for (const answer of [
        openTrial(school.as(who as never), school.courseId, examId, '1'),
        rightAnswers(school.as(who as never), school.courseId, examId, '1'),
        scoreTrial(school.as(who as never), school.courseId, examId, '1', []),
      ])
        expect(['not-allowed', 'not-found']).toContain(refusal(answer));
  });
});
