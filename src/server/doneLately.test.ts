import { beforeEach, describe, expect, it } from 'vitest';
import { everyQuestion } from '@/core/bank/questionFilter';
import { day, hour } from '@/core/base/time';
import { editMany } from './bank/editMany';
import { listQuestions } from './bank/questionList';
import { openQuestion, retireQuestion, saveQuestion } from './bank/questions';
import { bringIn } from './bringIn/bringIn';
import { doneLately } from './doneLately';
import { openExam, saveExam } from './exam/exams';
import { choiceContent, must, numberContent, refusal, School } from './testing/school';
import { undoChange } from './undoChange';

let school: School;
beforeEach(() => {
  school = new School(1);
});

const teacher = (later = 0) => school.as(school.teacher, later);
const inBank = () => [school.courseId, school.bankId] as const;
const lately = (within: string | null = null, later = 0) =>
  must(doneLately(teacher(later), school.courseId, within)).changes;
const said = (within: string | null = null) => lately(within).map((one) => one.said);
const listed = (filter = {}) =>
  must(listQuestions(teacher(), ...inBank(), { ...everyQuestion, ...filter })).rows.map(
    (row) => row.text.split('\n')[0],
  );

function edit(questionId: string, shortName: string) {
  const open = must(openQuestion(teacher(), ...inBank(), questionId));
  must(
    saveQuestion(teacher(), ...inBank(), questionId, {
      ...{ categoryId: open.categoryId, content: open.content, edit: open.edit, shortName },
    }),
  );
}

describe('what was done lately', () => {
  it('stands in the list of its bank and of the course, with who did it, and is taken back once', () => {
    const one = school.question(choiceContent('one'));
    const two = school.question(choiceContent('two'));
    must(retireQuestion(teacher(), ...inBank(), one));
    must(editMany(teacher(hour), ...inBank(), { selection: { ids: [two] }, change: { kind: 'points', points: 3 } }));
    expect(said(school.bankId).slice(0, 2)).toEqual(['1 question given points', 'A question retired']);
    const [, retired] = lately();
    expect(retired).toMatchObject({ by: 'Tove Teacher', undoneAt: null, within: { kind: 'bank', id: school.bankId } });
    expect(listed()).toEqual(['two']);
    must(undoChange(teacher(2 * hour), school.courseId, retired?.auditId ?? 0));
    expect(listed()).toEqual(['one', 'two']);
    expect(lately()[1]?.undoneAt).not.toBeNull();
    expect(refusal(undoChange(teacher(), school.courseId, retired?.auditId ?? 0))).toBe('conflict');
  });

  it('goes from the list after sixty days', () => {
    must(retireQuestion(teacher(), ...inBank(), school.question(choiceContent('one'))));
    expect(lately(null, 59 * day).length).toBeGreaterThan(0);
    expect(lately(null, 61 * day)).toEqual([]);
  });

  it('is taken back as far as nothing was changed since, and the rest is named', () => {
    const ids = ['one', 'two', 'three'].map((name) => school.question(choiceContent(name)));
    const { auditId } = must(
      editMany(teacher(), ...inBank(), { selection: { ids }, change: { kind: 'points', points: 3 } }),
    );
    edit(ids[1] as string, 'Two');
    expect(must(undoChange(teacher(), school.courseId, auditId ?? 0)).said).toBe(
      '2 questions taken back. Changed since, and left as it is: Two.',
    );
    const points = ids.map((id) => must(openQuestion(teacher(), ...inBank(), id)).ownPoints);
    expect(points).toEqual([1, null, 1]);
  });

  it('is refused where all of it was changed since', () => {
    const id = school.question(choiceContent('one'));
    const { auditId } = must(
      editMany(teacher(), ...inBank(), { selection: { ids: [id] }, change: { kind: 'points', points: 3 } }),
    );
    edit(id, 'One');
    expect(refusal(undoChange(teacher(), school.courseId, auditId ?? 0))).toBe('conflict');
    expect(lately()[0]?.undoneAt).toBeNull();
  });

  it('leaves of what was brought in what somebody has worked on', () => {
    const items = ['first', 'second'].map((name) => ({ content: choiceContent(name), shortName: name }));
    const { auditId } = must(bringIn(teacher(), ...inBank(), { categoryId: school.categoryId, items }));
    const [, second] = must(listQuestions(teacher(), ...inBank(), everyQuestion)).rows;
    edit(second?.id ?? '', 'Second, mended');
    expect(must(undoChange(teacher(), school.courseId, auditId)).said).toBe(
      '1 question taken back. Changed since, and left as it is: Second, mended.',
    );
    expect(listed()).toEqual(['second']);
  });

  it('is nobody else’s: no student sees it, no other course, and a marker only their own', () => {
    must(retireQuestion(teacher(), ...inBank(), school.question(choiceContent('one'))));
    const [student] = school.students;
    if (student) expect(refusal(doneLately(school.as(student), school.courseId, null))).toBe('not-allowed');
    expect(must(doneLately(school.as(school.marker), school.courseId, null)).changes).toEqual([]);
    const { elsewhere } = school;
    expect(must(doneLately(school.as(elsewhere.teacher), elsewhere.courseId, null)).changes).toEqual([]);
    expect(refusal(doneLately(school.as(elsewhere.teacher), elsewhere.courseId, school.bankId))).toBe('not-found');
  });
});

describe('retired questions', () => {
  it('are found by their filter, read, and brought back, one or all of them', () => {
    const ids = ['one', 'two'].map((name) => school.question(choiceContent(name)));
    const live = school.question(numberContent('three', '3'));
    must(editMany(teacher(), ...inBank(), { selection: { ids }, change: { kind: 'retire' } }));
    expect(listed()).toEqual(['three']);
    expect(listed({ retired: true })).toEqual(['one', 'two']);
    expect(must(openQuestion(teacher(), ...inBank(), ids[0] as string)).retiredAt).not.toBeNull();
    // Whoever brings questions back names retired ones alone, and whoever retires, those in use.
    const back = (selection: { ids: string[] } | { filter: typeof everyQuestion }) =>
      must(editMany(teacher(), ...inBank(), { selection, change: { kind: 'bring-back' } })).changed;
    expect(back({ ids: [live, ids[0] as string] })).toBe(1);
    expect(back({ filter: everyQuestion })).toBe(1);
    expect(listed()).toEqual(['one', 'two', 'three']);
  });
});

describe('what was taken out of an exam', () => {
  it('comes back to its place after the page was left, and not twice', () => {
    const [one, two] = ['one', 'two'].map((name) => school.question(choiceContent(name)));
    const examId = school.exam([one, two].map((questionId) => school.fixed(questionId as string)));
    const open = () => must(openExam(teacher(), school.courseId, examId));
    const { design, edit, title } = open();
    const [part] = design.parts;
    if (!part) throw new Error('no part');
    must(
      saveExam(teacher(), school.courseId, examId, {
        title,
        edit,
        design: { ...design, parts: [{ ...part, lines: part.lines.slice(1) }] },
      }),
    );
    const [change] = lately(examId);
    expect(change?.said).toBe('1 line taken out');
    must(undoChange(teacher(), school.courseId, change?.auditId ?? 0));
    expect(open().design).toEqual(design);
    expect(open().edit).toBe(edit + 2);
    expect(refusal(undoChange(teacher(), school.courseId, change?.auditId ?? 0))).toBe('conflict');
  });
});
