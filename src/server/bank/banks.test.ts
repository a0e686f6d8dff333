import { beforeEach, describe, expect, it } from 'vitest';
import { everyQuestion } from '@/core/bank/questionFilter';
import { richFromText } from '@/core/base/rich';
import { membership } from '@/db/schema';
import { doneLately } from '../doneLately';
import { openExam } from '../exam/exams';
import { newId } from '../house/context';
import { createCourse } from '../people/courses';
import { choiceContent, must, refusal, School } from '../testing/school';
import { undoChange } from '../undoChange';
import { banksElsewhere, beginBank, giveUpBank, listBanks, renameBank, takeUpBank } from './banks';
import { createCategory, seeCategories } from './categories';
import { copyQuestions } from './copyQuestions';
import { dropPassage, listPassages, savePassage } from './passages';
import { createQuestion, retireQuestion, saveQuestion } from './questions';

let school: School;
const teacher = () => school.as(school.teacher);
const names = (courseId = school.courseId) => must(listBanks(teacher(), courseId)).map((one) => one.name);
const offered = (courseId = school.courseId) =>
  must(banksElsewhere(teacher(), courseId)).map(({ name, questions, courses }) => ({ name, questions, courses }));
const begin = (name: string) => must(beginBank(teacher(), school.courseId, { name })).bankId;
/** Another course of the same teacher. */
const another = (banks: string[] = []) =>
  must(createCourse(teacher(), { name: 'Navigation', term: 'Spring', timeZone: 'Europe/Oslo', banks })).courseId;

beforeEach(() => {
  school = new School(1);
});

describe('several banks in a course', () => {
  it('are begun under names of their own, take copies, and are told apart in what exams draw from', () => {
    const second = begin('Charts');
    expect(names()).toEqual(['Charts', 'Seamanship']);
    expect(refusal(beginBank(teacher(), school.courseId, { name: 'Charts' }))).toBe('bad-input');
    expect(refusal(beginBank(teacher(), school.courseId, { name: ' ' }))).toBe('bad-input');
    expect(refusal(renameBank(teacher(), school.courseId, second, { name: 'Seamanship' }))).toBe('bad-input');
    must(renameBank(teacher(), school.courseId, second, { name: 'Chart work' }));
    expect(must(seeCategories(teacher(), school.courseId, second)).map((one) => one.name)).toEqual(['General']);
    const examId = school.exam([]);
    expect(must(openExam(teacher(), school.courseId, examId)).sources.categories.map((one) => one.name)).toEqual([
      'General (Chart work)',
      'General (Seamanship)',
    ]);
    const [id] = school.questions(2);
    must(copyQuestions(teacher(), school.courseId, school.bankId, { filter: everyQuestion, but: [] }, second));
    expect(must(listBanks(teacher(), school.courseId)).map((one) => one.questions)).toEqual([2, 2]);
    expect(id).toBeTruthy();
  });

  it('keep the plain names of categories while there is one bank only', () => {
    must(createCategory(teacher(), school.courseId, school.bankId, { name: 'Below', parentId: school.categoryId }));
    const examId = school.exam([]);
    expect(must(openExam(teacher(), school.courseId, examId)).sources.categories.map((one) => one.name)).toEqual([
      'General',
      'General › Below',
    ]);
  });
});

describe('a bank of another course', () => {
  it('is offered to who teaches both, taken up, shared, and given up again', () => {
    const courseId = another();
    school.questions(3);
    expect(offered(courseId)).toEqual([{ name: 'Seamanship', questions: 3, courses: ['Seamanship'] }]);
    expect(offered()).toEqual([{ name: 'Navigation', questions: 0, courses: ['Navigation, Spring'] }]);
    const { auditId } = must(takeUpBank(teacher(), courseId, school.bankId));
    expect(names(courseId)).toEqual(['Navigation', 'Seamanship']);
    expect(offered(courseId)).toEqual([]);
    expect(refusal(takeUpBank(teacher(), courseId, school.bankId))).toBe('not-found');
    must(undoChange(teacher(), courseId, auditId));
    expect(names(courseId)).toEqual(['Navigation']);
    must(takeUpBank(teacher(), courseId, school.bankId));
    const given = must(giveUpBank(teacher(), courseId, school.bankId));
    expect(names(courseId)).toEqual(['Navigation']);
    expect(names()).toEqual(['Seamanship']);
    must(undoChange(teacher(), courseId, given.auditId));
    expect(names(courseId)).toEqual(['Navigation', 'Seamanship']);
    const said = must(doneLately(teacher(), courseId, null)).changes.map((one) => one.said);
    expect(said).toContain('The bank Seamanship no longer used by the course');
  });

  it('is out of reach for who teaches only one of the two, whatever they had before', () => {
    const other = school.as(school.elsewhere.teacher);
    expect(must(banksElsewhere(other, school.elsewhere.courseId))).toEqual([]);
    expect(refusal(takeUpBank(other, school.elsewhere.courseId, school.bankId))).toBe('not-found');
    const part = { id: newId(), courseId: school.courseId, userId: school.elsewhere.teacher.userId, addedAt: 0 };
    school.db
      .insert(membership)
      .values({ ...part, role: 'marker' })
      .run();
    expect(must(banksElsewhere(other, school.elsewhere.courseId))).toEqual([]);
    school.db.update(membership).set({ role: 'instructor' }).run();
    expect(must(banksElsewhere(other, school.elsewhere.courseId))).toHaveLength(1);
    school.db.update(membership).set({ removedAt: 1 }).run();
    expect(refusal(banksElsewhere(other, school.elsewhere.courseId))).toBe('not-found');
  });

  it('stays while an exam names anything of it, and where nobody else could reach it', () => {
    const courseId = another([school.bankId]);
    expect(names(courseId)).toEqual(['Seamanship']);
    const [id] = school.questions(1);
    const why = (answer: ReturnType<typeof giveUpBank>) => (answer.ok ? '' : answer.problems[0]?.message);
    school.exam([school.fixed(id as string)]);
    expect(why(giveUpBank(teacher(), school.courseId, school.bankId))).toBe(
      'Exams of this course take questions from it: Exam.',
    );
    must(giveUpBank(teacher(), courseId, school.bankId));
    const second = begin('Charts');
    expect(why(giveUpBank(teacher(), school.courseId, second))).toContain('nobody could reach its questions');
  });

  it('cannot be given up again by undo once an exam draws from it', () => {
    const courseId = another();
    const { auditId } = must(takeUpBank(teacher(), courseId, school.bankId));
    const [id] = school.questions(1);
    const there = Object.assign(Object.create(School.prototype) as School, school, { courseId });
    there.exam([school.fixed(id as string)]);
    expect(refusal(undoChange(teacher(), courseId, auditId))).toBe('conflict');
    expect(names(courseId)).toContain('Seamanship');
  });

  it('is refused to a new course of somebody who does not teach it', () => {
    const fields = { name: 'Mine', term: '', timeZone: 'UTC', banks: [school.bankId] };
    expect(refusal(createCourse(school.as(school.elsewhere.teacher), fields))).toBe('not-found');
  });
});

describe('deleting a passage', () => {
  it('asks for its questions first, is taken back, and lets it come back with a question of it', () => {
    const where = [school.courseId, school.bankId] as const;
    const written = { shortName: 'Log', content: richFromText('At noon …') };
    const { passageId } = must(savePassage(teacher(), ...where, null, written));
    const properties = { categoryId: school.categoryId, shortName: 'q', difficulty: null, points: 1 };
    const input = { ...properties, passageId, content: choiceContent('s') };
    const { questionId } = must(createQuestion(teacher(), ...where, input));
    const passages = () => must(listPassages(teacher(), ...where)).map((one) => one.shortName);
    const refused = dropPassage(teacher(), ...where, passageId);
    expect(refused.ok ? '' : refused.problems[0]?.message).toBe(
      '1 question belongs to this passage: give them another, or retire them first.',
    );
    const retired = must(retireQuestion(teacher(), ...where, questionId));
    const { auditId } = must(dropPassage(teacher(), ...where, passageId));
    expect(passages()).toEqual([]);
    expect(refusal(dropPassage(teacher(), ...where, passageId))).toBe('not-found');
    // No other question can be given to it.
    expect(refusal(createQuestion(teacher(), ...where, input))).toBe('not-found');
    must(undoChange(teacher(), school.courseId, auditId));
    expect(passages()).toEqual(['Log']);
    must(dropPassage(teacher(), ...where, passageId));
    must(undoChange(teacher(), school.courseId, retired.auditId));
    expect(passages()).toEqual(['Log']);
    must(saveQuestion(teacher(), ...where, questionId, { ...input, edit: 1 }));
  });
});
