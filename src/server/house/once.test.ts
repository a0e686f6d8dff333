import { expect, it } from 'vitest';
import { audit, carriedOut } from '@/db/schema';
import { addColumn, saveNumbers } from '../gradebook/bookSettings';
import { gradebook } from '../gradebook/gradebook';
import { must, refusal, School } from '../testing/school';

const named = (school: School, once: string, who = school.teacher) => ({ ...school.as(who), once });
const columns = (school: School) => must(gradebook(school.as(school.teacher), school.courseId)).columns.length;
const lines = (school: School) => school.db.select().from(audit).all().length;
const add = (context: ReturnType<typeof named>, school: School, title: string) =>
  addColumn(context, school.courseId, { title, worth: 10 });

it('what comes twice under one name is carried out once, and answered alike', () => {
  const school = new School(1);
  const first = must(add(named(school, 'addColumn/name-of-a-request-1'), school, 'Logbook'));
  const before = lines(school);
  expect(must(add(named(school, 'addColumn/name-of-a-request-1'), school, 'Logbook'))).toEqual(first);
  expect([columns(school), lines(school)]).toEqual([1, before]);
  expect(must(add(named(school, 'addColumn/name-of-a-request-2'), school, 'Sea time'))).not.toEqual(first);
  expect(columns(school)).toBe(2);
});

it('what was refused is not taken for carried out: mended, it goes through under the same name', () => {
  const school = new School(1);
  const context = named(school, 'saveNumbers/name-of-a-request-1');
  expect(refusal(saveNumbers(context, school.courseId, { rules: { decimals: 9 } }))).toBe('bad-input');
  expect(school.db.select().from(carriedOut).all()).toEqual([]);
  must(saveNumbers(context, school.courseId, { rules: { decimals: 3 } }));
  expect(must(gradebook(school.as(school.teacher), school.courseId)).rules.decimals).toBe(3);
});

it('a name is its person’s: another who comes with it is answered for themselves, or refused', () => {
  const school = new School(1);
  must(add(named(school, 'addColumn/name-of-a-request-1'), school, 'Logbook'));
  const [student] = school.students;
  if (!student) throw new Error('a student');
  expect(refusal(add(named(school, 'addColumn/name-of-a-request-1', student), school, 'Logbook'))).toBe('not-allowed');
  expect(columns(school)).toBe(1);
});

it('what nobody asks for any more is forgotten', () => {
  const school = new School(1);
  must(add(named(school, 'addColumn/name-of-a-request-1'), school, 'Logbook'));
  const later = { ...school.as(school.teacher, 62 * 86_400_000), once: 'addColumn/name-of-a-request-2' };
  must(add(later, school, 'Sea time'));
  expect(
    school.db
      .select()
      .from(carriedOut)
      .all()
      .map((row) => row.once),
  ).toEqual(['addColumn/name-of-a-request-2']);
});
