import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { everyQuestion, type QuestionFilter } from '@/core/bank/questionFilter';
import { hour, minute } from '@/core/base/time';
import type { SuccessRange } from '@/core/question/successRange';
import { question, questionVersion } from '@/db/schema';
import { handIn } from '../attempt/handIn';
import { startAttempt } from '../attempt/startAttempt';
import { openExam } from '../exam/exams';
import { createCourse } from '../people/courses';
import { choiceContent, must, numberContent, refusal, School } from '../testing/school';
import { undoChange } from '../undoChange';
import { createCategory, emptyCategoryInto, seeCategories } from './categories';
import { draftOf, giveUpDraft, keepDraft, unsavedSheets } from './drafts';
import { editMany } from './editMany';
import { createObjective } from './objectives';
import { setUsualPoints } from './points';
import { listQuestions } from './questionList';
import { createQuestion, openQuestion, saveQuestion } from './questions';
import { beginQuestion } from './remembered';

let school: School;
let ids: string[];
const teacher = (later = 0) => school.as(school.teacher, later);
const where = () => [school.courseId, school.bankId] as const;
const list = (filter: Partial<QuestionFilter> = {}) =>
  must(listQuestions(teacher(), ...where(), { ...everyQuestion, ...filter }));
const edit = (change: object, selection: object = { filter: everyQuestion }) =>
  must(editMany(teacher(), ...where(), { selection, change }));
const open = (id: string) => must(openQuestion(teacher(), ...where(), id));
const undo = (auditId: number | null) => must(undoChange(teacher(), school.courseId, auditId ?? 0));

beforeEach(() => {
  school = new School(2);
  ids = school.questions(4);
});

describe('a change to many questions', () => {
  it('adds exactly what is named, counts what it changed, and goes back with one undo', () => {
    edit({ kind: 'add-tags', tags: ['tides'] }, { ids: [ids[0]] });
    const added = edit({ kind: 'add-tags', tags: ['tides', 'revised'] });
    expect(added).toMatchObject({ selected: 4, changed: 4 });
    expect(ids.map((id) => open(id).tags)).toEqual(Array(4).fill(['revised', 'tides']));
    expect(edit({ kind: 'add-tags', tags: ['tides'] })).toEqual({ selected: 4, changed: 0, auditId: null });
    undo(added.auditId);
    expect(ids.map((id) => open(id).tags)).toEqual([['tides'], [], [], []]);
    expect(edit({ kind: 'remove-tags', tags: ['tides', 'never there'] }).changed).toBe(1);
    expect(list({ tags: ['tides'] }).total).toBe(0);
  });

  it('is made on all that match but those left out, whatever a page shows', () => {
    const more = Array.from({ length: 150 }, (_, i) => school.question(choiceContent(`wind ${i}`)));
    const { changed } = edit(
      { kind: 'difficulty', difficulty: 'hard' },
      { filter: { ...everyQuestion, text: 'wind' }, but: [more[3]] },
    );
    expect(changed).toBe(149);
    expect(list({ difficulties: ['hard'] })).toMatchObject({ total: 149 });
    expect(list({ difficulties: ['none'] }).total).toBe(5);
    expect(list({ text: 'wind' }).rows).toHaveLength(120);
  });

  it('leaves questions of other banks alone', () => {
    const foreign = { ids: [ids[0], 'unknown'] };
    const from = must(
      editMany(school.as(school.elsewhere.teacher), school.elsewhere.courseId, school.elsewhere.bankId, {
        selection: foreign,
        change: { kind: 'points', points: 9 },
      }),
    );
    expect(from).toEqual({ selected: 0, changed: 0, auditId: null });
    expect(open(ids[0] as string).points).toBe(1);
  });

  it('sets points, moves, aligns and retires, each with its undo', () => {
    const other = must(createCategory(teacher(), ...where(), { name: 'Other', parentId: null })).categoryId;
    const { objectiveId } = must(createObjective(teacher(), ...where(), { code: 'O1', wording: 'w' }));
    const two = { ids: ids.slice(0, 2) };
    for (const change of [
      { kind: 'points', points: 7 },
      { kind: 'move', categoryId: other },
      { kind: 'add-objectives', objectives: [objectiveId] },
      { kind: 'retire' },
    ]) {
      const before = JSON.stringify(list().rows);
      const { changed, auditId } = edit(change, two);
      expect(changed).toBe(2);
      if (change.kind === 'move') expect(list({ categories: [other] }).total).toBe(2);
      if (change.kind === 'add-objectives') expect(list({ objectives: [objectiveId] }).total).toBe(2);
      if (change.kind === 'retire') expect(list().total).toBe(2);
      undo(auditId);
      expect(JSON.stringify(list().rows)).toBe(before);
    }
    expect(list({ objectives: [objectiveId] }).total).toBe(0);
  });

  it('is taken back but for those that were changed since, which are named', () => {
    const was = ids.map((id) => open(id).points);
    const { auditId } = edit({ kind: 'points', points: 7 });
    edit({ kind: 'points', points: 8 }, { ids: [ids[1]] });
    expect(must(undoChange(teacher(), school.courseId, auditId ?? 0)).said).toContain(
      'Changed since, and left as it is:',
    );
    expect(ids.map((id) => open(id).points)).toEqual(was.map((points, i) => (i === 1 ? 8 : points)));
  });

  it('tells an editor who had one of them open', () => {
    const { edit: opened, content } = open(ids[0] as string);
    edit({ kind: 'points', points: 7 });
    const saved = saveQuestion(teacher(), ...where(), ids[0] as string, {
      categoryId: school.categoryId,
      content,
      edit: opened,
    });
    expect(refusal(saved)).toBe('conflict');
  });

  it('reduces choices without losing a right or pinned one, and makes new versions where papers hold the old', () => {
    const sittingId = school.sitting(school.exam([school.fixed(ids[0] as string)]));
    const { attemptId } = must(startAttempt(school.as(school.students[0] as never, minute), sittingId));
    must(handIn(school.as(school.students[0] as never, hour), attemptId));
    const { changed, auditId } = edit({ kind: 'choices', count: 2 });
    expect(changed).toBe(4);
    for (const id of ids) {
      const { content } = open(id);
      expect(content.type === 'single-choice' && content.choices.map((choice) => choice.id)).toEqual(['c0', 'c1']);
    }
    expect(ids.map((id) => open(id).version)).toEqual([2, 1, 1, 1]);
    undo(auditId);
    expect(ids.map((id) => open(id).version)).toEqual([1, 1, 1, 1]);
    for (const id of ids) expect(open(id).content).toMatchObject({ choices: { length: 4 } });
  });

  it('never changes a version that has come onto a paper before the undo', () => {
    const { auditId } = edit({ kind: 'shuffle', shuffle: false }, { ids: [ids[0]] });
    const sittingId = school.sitting(school.exam([school.fixed(ids[0] as string)]));
    must(startAttempt(school.as(school.students[0] as never, minute), sittingId));
    const frozen = school.db
      .select()
      .from(questionVersion)
      .where(eq(questionVersion.questionId, ids[0] as string))
      .all();
    undo(auditId);
    const after = school.db
      .select()
      .from(questionVersion)
      .where(eq(questionVersion.questionId, ids[0] as string))
      .all();
    expect(after[0]?.content).toEqual(frozen[0]?.content);
    expect(after).toHaveLength(2);
    expect(open(ids[0] as string)).toMatchObject({ version: 2, content: { shuffle: true } });
  });

  it('refuses a change that names nothing, or nothing selected', () => {
    const bad = (change: object, selection: object = { ids }) =>
      refusal(editMany(teacher(), ...where(), { selection, change }));
    expect(bad({ kind: 'points', points: 0 })).toBe('bad-input');
    expect(bad({ kind: 'add-tags', tags: ['a, b'] })).toBe('bad-input');
    expect(bad({ kind: 'move', categoryId: 'nowhere' })).toBe('not-found');
    expect(bad({ kind: 'retire' }, { ids: [] })).toBe('bad-input');
    expect(bad({ kind: 'explode' })).toBe('bad-input');
  });
});

describe('what papers have shown', () => {
  it('filters and sorts by success over first attempts that count, and by use', () => {
    const sittingId = school.sitting(school.exam([school.fixed(ids[0] as string, 4), school.fixed(ids[1] as string)]), {
      attemptsAllowed: 2,
    });
    const [ada, ben] = school.students as [never, never];
    const go = (who: never, at: number) => {
      const { attemptId } = must(startAttempt(school.as(who, at), sittingId));
      return must(handIn(school.as(who, at + minute), attemptId));
    };
    go(ada, minute);
    go(ada, 5 * minute);
    go(ben, minute);
    // Everyone left both empty: rate 0 over two first attempts; the second attempt is not counted.
    const used = list({ used: 'ever', sort: 'success' });
    expect(new Set(used.rows.map((row) => row.id))).toEqual(new Set(ids.slice(0, 2)));
    for (const row of used.rows) expect(row.success).toEqual({ mean: 0, n: 2 });
    expect(list({ success: { from: 0, to: 20 } }).total).toBe(2);
    expect(list({ success: { from: 1, to: 100 } }).total).toBe(0);
    expect(new Set(list({ used: 'never' }).rows.map((row) => row.id))).toEqual(new Set(ids.slice(2)));
    expect(list({ used: { notWithinDays: 1 } }).total).toBe(2);
    // A draw that asks for a success rate sees the same questions.
    const pool = (success: SuccessRange) => {
      const draw = school.draw(2);
      if (draw.kind === 'draw') draw.pool.success = success;
      const plan = must(openExam(teacher(), school.courseId, school.exam([draw]))).check;
      return [plan.poolSizes[draw.id], plan.problems.map((problem) => problem.code)];
    };
    expect(pool({ from: 0, to: 0 })).toEqual([2, []]);
    expect(pool({ from: 1, to: 100 })).toEqual([0, ['empty-pool']]);
    expect(list({ sort: 'used' }).rows.map((row) => row.lastUsed === null)).toEqual([false, false, true, true]);
  });
});

describe('the list', () => {
  it('finds changed words at once and stands in the order asked for', () => {
    const content = choiceContent('neap tides');
    must(
      createQuestion(teacher(), ...where(), {
        categoryId: school.categoryId,
        shortName: 'Äbc',
        difficulty: 'hard',
        content,
      }),
    );
    const { edit: opened } = open(ids[0] as string);
    must(
      saveQuestion(teacher(hour), ...where(), ids[0] as string, {
        categoryId: school.categoryId,
        shortName: 'zulu',
        difficulty: 'easy',
        edit: opened,
        content: choiceContent('barometer'),
      }),
    );
    expect(list({ text: 'stem' }).total).toBe(3);
    expect(list({ text: 'BARO' }).total).toBe(1);
    expect(list({ text: 'abc' }).total).toBe(1);
    expect(list({ text: 'neap wrong' }).total).toBe(1);
    expect(list({ text: '"' }).total).toBe(0);
    expect(
      list({ sort: 'name' })
        .rows.map((row) => row.shortName)
        .slice(0, 2),
    ).toEqual(['zulu', 'Äbc']);
    expect(list({ sort: 'difficulty' }).rows.map((row) => row.difficulty)).toEqual(['easy', 'hard', null, null, null]);
    expect(list({ sort: 'changed', down: true }).rows[0]?.id).toBe(ids[0]);
    expect(list({ types: ['numeric'] }).total).toBe(0);
  });
});

describe('categories', () => {
  it('are merged by moving all they hold, and come back with it', () => {
    const add = (name: string, parentId: string | null = null) =>
      must(createCategory(teacher(), ...where(), { name, parentId })).categoryId;
    const [from, into] = [add('From'), add('Into')];
    const child = add('Child', from);
    const held = school.question(choiceContent('held'), { categoryId: from });
    const tree = () =>
      must(seeCategories(teacher(), ...where())).map((node) => `${'-'.repeat(node.depth)}${node.name} ${node.own}`);
    const before = tree();
    expect(refusal(emptyCategoryInto(teacher(), ...where(), from, child))).toBe('conflict');
    expect(refusal(emptyCategoryInto(teacher(), ...where(), from, from))).toBe('conflict');
    const merged = must(emptyCategoryInto(teacher(), ...where(), from, into));
    expect(merged).toMatchObject({ questions: 1, categories: 1 });
    expect(tree()).toEqual(['General 4', 'Into 1', '-Child 0']);
    expect(open(held).categoryId).toBe(into);
    undo(merged.auditId);
    expect(tree()).toEqual(before);
  });
});

describe('writing', () => {
  it('keeps a draft as it is typed, for its author alone, until it is saved or given up', () => {
    const draft = { subject: 'new/numeric', edit: 0, fields: { shortName: 'half a na', content: { type: 'numeric' } } };
    must(keepDraft(teacher(), ...where(), draft));
    must(keepDraft(teacher(minute), ...where(), { ...draft, fields: { shortName: 'half a name' } }));
    expect(draftOf(teacher(), school.bankId, 'new/numeric')).toMatchObject({ fields: { shortName: 'half a name' } });
    const unsaved = (context = teacher()) => unsavedSheets(context, school.courseId).map((one) => one.title);
    expect(unsaved()).toEqual(['The question half a name']);
    const second = school.add('Second Teacher', 'instructor');
    expect(unsaved(school.as(second))).toEqual([]);
    const other = must(createCourse(teacher(), { name: 'Another', term: '', timeZone: 'UTC' })).courseId;
    expect(unsavedSheets(teacher(), other)).toEqual([]);
    expect(draftOf(school.as(second), school.bankId, 'new/numeric')).toBe(null);
    must(createQuestion(teacher(), ...where(), { categoryId: school.categoryId, content: numberContent('n', '1') }));
    expect(draftOf(teacher(), school.bankId, 'new/numeric')).toBe(null);
    must(keepDraft(teacher(), ...where(), draft));
    must(giveUpDraft(teacher(), ...where(), 'new/numeric'));
    expect(draftOf(teacher(), school.bankId, 'new/numeric')).toBe(null);
    const long = { ...draft, fields: { text: 'x'.repeat(600_000) } };
    expect(refusal(keepDraft(teacher(), ...where(), long))).toBe('bad-input');
  });

  it('begins the next question with what was set on the last of its type', () => {
    expect(beginQuestion(teacher(), school.bankId, 'single-choice').content).toMatchObject({ shuffle: true });
    must(
      createQuestion(teacher(), ...where(), {
        categoryId: school.categoryId,
        difficulty: 'hard',
        points: 3,
        content: { ...choiceContent('s'), shuffle: false },
      }),
    );
    expect(beginQuestion(teacher(), school.bankId, 'single-choice')).toMatchObject({
      difficulty: 'hard',
      points: 3,
      content: { shuffle: false, stem: { content: [] } },
    });
    // Of another bank it takes over neither how hard nor what it is worth.
    expect(beginQuestion(teacher(), 'another', 'single-choice')).toMatchObject({ difficulty: null, points: null });
    expect(beginQuestion(school.as(school.elsewhere.teacher), school.bankId, 'single-choice')).toMatchObject({
      difficulty: null,
    });
  });

  it('gives questions the points of their bank where they have none of their own', () => {
    const id = must(
      createQuestion(teacher(), ...where(), { categoryId: school.categoryId, content: numberContent('n', '1') }),
    ).questionId;
    expect(open(id).points).toBe(2);
    must(setUsualPoints(teacher(), ...where(), { numeric: 2.5 }));
    expect(open(id).points).toBe(2.5);
    expect(school.db.select().from(question).where(eq(question.id, id)).get()?.points).toBe(null);
    expect(refusal(setUsualPoints(teacher(), ...where(), { numeric: 0 }))).toBe('bad-input');
  });

  it('refuses a question whose values can never be drawn, with how many were tried', () => {
    const never = {
      ...numberContent('n', 'a'),
      variables: [{ id: 'v0', name: 'a', source: { kind: 'range', from: 1, to: 5, step: 1 } }],
      constraints: ['a > 5'],
    };
    const refused = createQuestion(teacher(), ...where(), { categoryId: school.categoryId, content: never });
    expect(refused).toMatchObject({ ok: false, problems: [{ field: 'content.variables' }] });
    expect(!refused.ok && refused.problems[0]?.message).toContain('none of 5 combinations');
  });
});
