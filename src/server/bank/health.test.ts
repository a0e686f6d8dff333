import { beforeEach, describe, expect, it } from 'vitest';
import { everyQuestion } from '@/core/bank/questionFilter';
import { choiceContent, must, School } from '../testing/school';
import { undoChange } from '../undoChange';
import { createCategory } from './categories';
import { editMany } from './editMany';
import { bankHealth } from './health';
import { listQuestions } from './questionList';
import { openQuestion, retireQuestion, saveQuestion } from './questions';

let school: School;
const teacher = () => school.as(school.teacher);
const where = () => [school.courseId, school.bankId] as const;
const look = () => must(bankHealth(teacher(), ...where()));
const long = 'Which of the two vessels keeps clear when both have the wind on the same side of the boat';

beforeEach(() => {
  school = new School(1);
});

describe('the health of a bank', () => {
  it('names near-duplicates, and forgets them once one is edited, retired or brought back', () => {
    const [a = '', b = ''] = [`${long}?`, `${long} today?`].map((stem) => school.question(choiceContent(stem)));
    expect(look()).toMatchObject({ questions: 2, duplicatesInAll: 1 });
    expect(look()).toBe(look());
    const { auditId } = must(retireQuestion(teacher(), ...where(), b));
    expect(look()).toMatchObject({ questions: 1, duplicatesInAll: 0 });
    must(undoChange(teacher(), school.courseId, auditId));
    expect(look().duplicatesInAll).toBe(1);
    const open = must(openQuestion(teacher(), ...where(), a));
    must(
      saveQuestion(teacher(), ...where(), a, {
        categoryId: open.categoryId,
        shortName: '',
        difficulty: null,
        points: null,
        content: choiceContent('Something else altogether?'),
        edit: open.edit,
      }),
    );
    expect(look().duplicatesInAll).toBe(0);
  });

  it('sees a bulk change at once, and its undo', () => {
    for (let i = 0; i < 3; i++)
      school.question({
        ...choiceContent(`Question ${i}`),
        choices: ['both A and B', 'x', 'y'].map((text, c) => ({
          id: `c${c}`,
          content: { type: 'doc', content: [{ type: 'paragraph', content: [{ type: 'text', text }] }] },
          right: c === 0,
          pinned: false,
        })),
      } as ReturnType<typeof choiceContent>);
    expect(look().findings).toHaveLength(3);
    const { auditId } = must(
      editMany(teacher(), ...where(), {
        selection: { filter: everyQuestion },
        change: { kind: 'shuffle', shuffle: false },
      }),
    );
    expect(look().findings).toEqual([]);
    must(undoChange(teacher(), school.courseId, auditId ?? 0));
    expect(look().findings).toHaveLength(3);
  });
});

describe('a category in the outline', () => {
  it('lists its own questions; in a filter it counts with everything below it', () => {
    const list = (filter: object) => must(listQuestions(teacher(), ...where(), { ...everyQuestion, ...filter })).total;
    const [home = ''] = [must(openQuestion(teacher(), ...where(), school.question(choiceContent('Above')))).categoryId];
    const { categoryId } = must(createCategory(teacher(), ...where(), { name: 'Below', parentId: home }));
    const moved = school.question(choiceContent('Lower'));
    must(editMany(teacher(), ...where(), { selection: { ids: [moved] }, change: { kind: 'move', categoryId } }));
    expect(list({ categories: [home] })).toBe(2);
    expect(list({ categories: [home], below: false })).toBe(1);
    expect(list({ categories: [categoryId], below: false })).toBe(1);
  });
});
