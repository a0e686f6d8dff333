import { beforeEach, describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import type { ItemChange } from '@/core/exam/items/changeItems';
import { createExam, openExam } from '../exam/exams';
import { changeExamItems, openItems } from '../exam/items';
import { printed, withoutPrinter } from '../testing/paperSheets';
import { must, refusal, School } from '../testing/school';
import { keySheets, makeKeySheet, printedKeySheet } from './keySheets';

withoutPrinter();

let school: School;
let examId: string;
const teacher = () => school.as(school.teacher, minute);
const change = (one: ItemChange) => {
  const { edit } = must(openExam(teacher(), school.courseId, examId));
  must(changeExamItems(teacher(), school.courseId, examId, { edit, change: one }));
};
const set = (from: number, to: number, type: 'single-choice' | 'written'): ItemChange => ({
  do: 'set',
  from,
  to,
  type,
  choices: 4,
  start: 'A',
  points: 1,
});
const sheets = () => must(keySheets(teacher(), school.courseId, examId));

beforeEach(() => {
  school = new School(1);
  printed.length = 0;
  examId = must(createExam(teacher(), school.courseId, { title: 'On paper', offScreen: true })).examId;
});

describe('the sheet for a key', () => {
  it('is made once for the same items, and anew where they changed; what was printed before is read as before', async () => {
    change(set(1, 3, 'single-choice'));
    change(set(4, 4, 'written'));
    must(makeKeySheet(teacher(), school.courseId, examId));
    must(makeKeySheet(teacher(), school.courseId, examId));
    const [first] = sheets();
    expect(sheets()).toHaveLength(1);
    expect(first?.questionIds).toEqual(
      must(openItems(teacher(), school.courseId, examId))
        .slice(0, 3)
        .map((item) => item.questionId),
    );
    must(await printedKeySheet(teacher(), school.courseId, examId));
    expect(printed[0]).toMatchObject({ title: 'On paper', sheets: [{ layout: first?.id, copy: 1, name: 'The key' }] });
    change(set(4, 5, 'single-choice'));
    must(makeKeySheet(teacher(), school.courseId, examId));
    expect(sheets()).toHaveLength(2);
    expect(sheets()).toContainEqual(first);
  });

  it('is refused where nothing can be filled in, and for an exam whose questions are here', async () => {
    change(set(1, 2, 'written'));
    expect(refusal(makeKeySheet(teacher(), school.courseId, examId))).toBe('conflict');
    expect(refusal(await printedKeySheet(teacher(), school.courseId, examId))).toBe('not-found');
    school.questions(2);
    const other = school.exam([school.draw(1)]);
    expect(refusal(makeKeySheet(teacher(), school.courseId, other))).toBe('not-found');
  });
});
