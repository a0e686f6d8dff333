import { readFileSync } from 'node:fs';
import { eq, sql } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { everyQuestion, type QuestionFilter } from '@/core/bank/questionFilter';
import { richFromText } from '@/core/base/rich';
import type { QuestionContent } from '@/core/question/content';
import { usualMatching } from '@/core/question/text/acceptedText';
import { audit, question, questionVersion } from '@/db/schema';
import { choiceContent, must, numberContent, refusal, School, writtenContent } from '../testing/school';
import { undoChange } from '../undoChange';
import { listBanks } from './banks';
import { createCategory, deleteCategory, moveCategory, renameCategory, seeCategories } from './categories';
import { listQuestions } from './questionList';
import { createQuestion, openQuestion, retireQuestion, saveQuestion } from './questions';

let school: School;
const teacher = () => school.as(school.teacher);
const where = () => [school.courseId, school.bankId] as const;
const list = (filter: Partial<QuestionFilter>) =>
  must(listQuestions(teacher(), ...where(), { ...everyQuestion, ...filter })).rows;
const add = (name: string, parentId: string | null = null) =>
  must(createCategory(teacher(), ...where(), { name, parentId })).categoryId;
const tree = () =>
  must(seeCategories(teacher(), ...where())).map(
    (node) => `${'-'.repeat(node.depth)}${node.name} ${node.own}/${node.below}`,
  );
const input = (more: object = {}) => ({
  categoryId: school.categoryId,
  shortName: 'name',
  difficulty: 'easy',
  points: 2,
  content: choiceContent('stem'),
  ...more,
});

beforeEach(() => {
  school = new School(1);
});

describe('categories', () => {
  it('form a tree with counts of their own and with everything below', () => {
    const tides = add('Tides');
    const heights = add('Heights', tides);
    add('Streams', tides);
    school.question(choiceContent('a'), { categoryId: heights });
    school.question(choiceContent('b'), { categoryId: tides });
    expect(tree()).toEqual(['General 0/0', 'Tides 1/2', '-Heights 1/1', '-Streams 0/0']);
  });

  it('move with all they hold, never below themselves, and back by undo', () => {
    const tides = add('Tides');
    const heights = add('Heights', tides);
    const { auditId } = must(moveCategory(teacher(), ...where(), tides, { parentId: null, place: 0 }));
    expect(tree()).toEqual(['Tides 0/0', '-Heights 0/0', 'General 0/0']);
    expect(refusal(moveCategory(teacher(), ...where(), tides, { parentId: heights, place: 0 }))).toBe('conflict');
    expect(refusal(moveCategory(teacher(), ...where(), tides, { parentId: tides, place: 0 }))).toBe('conflict');
    must(undoChange(teacher(), school.courseId, auditId));
    expect(tree()).toEqual(['General 0/0', 'Tides 0/0', '-Heights 0/0']);
    expect(refusal(undoChange(teacher(), school.courseId, auditId))).toBe('conflict');
  });

  it('are renamed and deleted with undo, deleted only while empty', () => {
    const tides = add('Tides');
    const renamed = must(renameCategory(teacher(), ...where(), tides, 'Tidal heights'));
    must(undoChange(teacher(), school.courseId, renamed.auditId));
    expect(tree()).toContain('Tides 0/0');
    school.question(choiceContent('held'), { categoryId: tides });
    expect(refusal(deleteCategory(teacher(), ...where(), tides))).toBe('conflict');
    const empty = add('Empty', tides);
    const { auditId } = must(deleteCategory(teacher(), ...where(), empty));
    must(undoChange(teacher(), school.courseId, auditId));
    expect(tree()).toContain('-Empty 0/0');
  });

  it('creating one can be undone only while nothing has been put into it', () => {
    const tides = add('Tides');
    const row = school.db.select().from(audit).where(eq(audit.subjectId, tides)).get();
    school.question(choiceContent('held'), { categoryId: tides });
    expect(refusal(undoChange(teacher(), school.courseId, row?.id ?? 0))).toBe('conflict');
    expect(tree()).toContain('Tides 1/1');
  });

  it('refuse empty names and parents of other banks', () => {
    expect(refusal(createCategory(teacher(), ...where(), { name: '  ', parentId: null }))).toBe('bad-input');
    const foreign =
      must(seeCategories(school.as(school.elsewhere.teacher), school.elsewhere.courseId, school.elsewhere.bankId))[0]
        ?.id ?? '';
    expect(refusal(createCategory(teacher(), ...where(), { name: 'x', parentId: foreign }))).toBe('not-found');
    expect(refusal(renameCategory(teacher(), ...where(), foreign, 'mine'))).toBe('not-found');
  });
});

describe('questions', () => {
  it('are refused with a message at each field that cannot be', () => {
    const content = choiceContent('stem');
    if (content.type !== 'single-choice') throw new Error('A choice question');
    const none = { ...content, choices: content.choices.map((choice) => ({ ...choice, right: false })) };
    const both = { ...content, choices: content.choices.map((choice) => ({ ...choice, right: true })) };
    const cases: [unknown, string][] = [
      [{ ...content, stem: { type: 'doc', content: [] } }, 'content.stem'],
      [none, 'content.choices'],
      [both, 'content.choices'],
      [{ ...content, choices: content.choices.slice(0, 1) }, 'content.choices'],
      [{ ...content, stem: { type: 'doc', content: [{ type: 'script', content: [] }] } }, 'content.stem'],
      [
        {
          ...numberContent('n', '1'),
          accepted: [{ value: 'x', tolerance: { kind: 'absolute', amount: 0 }, credit: 1 }],
        },
        'content.accepted.0.value',
      ],
      [
        {
          ...numberContent('n', '1'),
          accepted: [{ value: '1', tolerance: { kind: 'absolute', amount: -1 }, credit: 1 }],
        },
        'content.accepted.0.tolerance.amount',
      ],
      [
        {
          ...numberContent('n', '0'),
          accepted: [{ value: '0', tolerance: { kind: 'relative', amount: 0.1 }, credit: 1 }],
        },
        'content.accepted.0.tolerance',
      ],
    ];
    for (const [bad, field] of cases) {
      const result = createQuestion(teacher(), ...where(), input({ content: bad }));
      expect(result.ok ? [] : result.problems.map((problem) => problem.field), field).toContain(field);
    }
    expect(school.db.select().from(question).all()).toHaveLength(0);
  });

  it('keep their version while it stands on no paper, and tell the second of two editors', () => {
    const { questionId } = must(createQuestion(teacher(), ...where(), input()));
    expect(
      must(saveQuestion(teacher(), ...where(), questionId, input({ content: choiceContent('mended'), edit: 1 }))),
    ).toEqual({ edit: 2, version: 1, newVersion: false });
    expect(
      refusal(
        saveQuestion(teacher(), ...where(), questionId, input({ content: choiceContent('overwritten'), edit: 1 })),
      ),
    ).toBe('conflict');
    expect(must(openQuestion(teacher(), ...where(), questionId))).toMatchObject({ edit: 2, version: 1, frozen: false });
    expect(school.db.select().from(questionVersion).all()).toHaveLength(1);
    expect(
      refusal(saveQuestion(teacher(), ...where(), questionId, input({ content: numberContent('n', '1'), edit: 2 }))),
    ).toBe('bad-input');
  });

  it('are found by category with what lies below, and by any word, signs taken literally', () => {
    const below = add('Below', school.categoryId);
    school.question(choiceContent('the wind is 100% fair'), { categoryId: below });
    school.question(choiceContent('the wind is 1000 foul'));
    expect(list({ categories: [school.categoryId] })).toHaveLength(2);
    expect(list({ categories: [below] })).toHaveLength(1);
    expect(list({ text: 'wind' })).toHaveLength(2);
    expect(list({ text: '1000' })).toHaveLength(1);
    expect(list({ text: 'fair 100%' })).toHaveLength(1);
    expect(list({ text: 'WIND fou' })).toHaveLength(1);
    expect(list({ text: '_' })).toHaveLength(0);
  });

  it('are found by their accepted answers too, those written before they were looked through as well', () => {
    const accepted = [{ text: 'sidelights', credit: 1 }];
    school.question({
      type: 'short-text',
      stem: richFromText('Name the lamps.'),
      accepted,
      matching: usualMatching,
      feedback: {},
    });
    school.question(numberContent('How high?', '7.25'));
    school.question({
      ...writtenContent('Explain.'),
      modelAnswer: richFromText('because of springs'),
    } as QuestionContent);
    const found = () => ['sidel', '7.25', 'springs', 'lamps'].map((text) => list({ text }).length);
    expect(found()).toEqual([1, 1, 1, 1]);
    school.db.run(
      sql`update question_search set words = (select v.plain_text from question_words w join question_version v on v.question_id = w.question_id where w.row = question_search.rowid)`,
    );
    expect(found()).toEqual([0, 0, 0, 1]);
    school.db.$client.exec(readFileSync('src/db/migrations/0008_accepted_answers_are_searched.sql', 'utf8'));
    expect(found()).toEqual([1, 1, 1, 1]);
  });

  it('are retired and brought back', () => {
    const id = school.question(choiceContent('old'));
    const { auditId } = must(retireQuestion(teacher(), ...where(), id));
    expect(list({})).toHaveLength(0);
    expect(must(openQuestion(teacher(), ...where(), id)).retiredAt).not.toBeNull();
    must(undoChange(teacher(), school.courseId, auditId));
    expect(list({})).toHaveLength(1);
  });
});

describe('a bank', () => {
  it('is closed to students, markers and other courses', () => {
    const id = school.question(choiceContent('secret'));
    const [student] = school.students;
    for (const actor of [student, school.marker]) {
      if (!actor) throw new Error('Nobody');
      expect(refusal(listBanks(school.as(actor), school.courseId))).toBe('not-allowed');
      expect(refusal(openQuestion(school.as(actor), ...where(), id))).toBe('not-allowed');
    }
    const { teacher: other, courseId, bankId } = school.elsewhere;
    expect(refusal(openQuestion(school.as(other), ...where(), id))).toBe('not-found');
    expect(refusal(openQuestion(school.as(other), courseId, bankId, id))).toBe('not-found');
    expect(refusal(openQuestion(school.as(other), courseId, school.bankId, id))).toBe('not-found');
    expect(refusal(saveQuestion(school.as(other), courseId, bankId, id, input({ edit: 1 })))).toBe('not-found');
  });
});
