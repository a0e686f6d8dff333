import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { richFromText } from '@/core/base/rich';
import { ownPoints, setUsualPoints } from '../bank/points';
import { changeCourse, courseFields } from '../people/courses';
import { editHouseInstructions, setHouseInstructions } from '../people/schoolInstructions';
import { must, refusal, School } from '../testing/school';
import { joinedWithKept } from './keptMeanwhile';

let school: School;
beforeEach(() => {
  school = new School(3);
});
afterEach(() => school.db.$client.close());
const teacher = () => school.as(school.teacher);

describe('settings saved from a page that was opened before others saved', () => {
  it('a course: what does not touch is joined, what does is refused and stays as it was saved', () => {
    const seen = must(courseFields(teacher(), school.courseId));
    must(changeCourse(teacher(), school.courseId, { ...seen, name: 'Charts' }, seen));
    must(changeCourse(teacher(), school.courseId, { ...seen, term: 'Spring' }, seen));
    expect(must(courseFields(teacher(), school.courseId))).toEqual({ ...seen, name: 'Charts', term: 'Spring' });
    expect(refusal(changeCourse(teacher(), school.courseId, { ...seen, name: 'Tides' }, seen))).toBe('conflict');
    expect(must(courseFields(teacher(), school.courseId)).name).toBe('Charts');
  });

  it('the points of a bank: a type by one, a type by the other, and one by both', () => {
    const where = [school.courseId, school.bankId] as const;
    must(setUsualPoints(teacher(), ...where, { numeric: 2 }, {}));
    must(setUsualPoints(teacher(), ...where, { written: 5 }, {}));
    expect(must(ownPoints(teacher(), ...where))).toEqual({ numeric: 2, written: 5 });
    expect(refusal(setUsualPoints(teacher(), ...where, { numeric: 3 }, {}))).toBe('conflict');
    expect(must(ownPoints(teacher(), ...where))).toEqual({ numeric: 2, written: 5 });
    // Whoever takes a type back, having seen it, takes it back.
    must(setUsualPoints(teacher(), ...where, { written: 5 }, { numeric: 2, written: 5 }));
    expect(must(ownPoints(teacher(), ...where))).toEqual({ written: 5 });
  });

  it('the words of the school', () => {
    const seen = must(editHouseInstructions(teacher(), school.courseId)).instructions;
    const words = richFromText('Cards out.');
    must(setHouseInstructions(teacher(), school.courseId, words, seen));
    expect(refusal(setHouseInstructions(teacher(), school.courseId, richFromText('Phones off.'), seen))).toBe(
      'conflict',
    );
    must(setHouseInstructions(teacher(), school.courseId, richFromText('Phones off.'), words));
  });

  it('what says nothing of what was seen holds as it is', () => {
    expect(joinedWithKept(undefined, 1, 2, 'numbers')).toEqual({ ok: true, value: 1 });
  });
});
