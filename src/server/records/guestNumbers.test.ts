import { beforeEach, describe, expect, it } from 'vitest';
import { School } from '../testing/school';
import { withoutNames } from './guestNumbers';

let school: School;
beforeEach(() => {
  school = new School(1);
});
const students = Array.from({ length: 12 }, (_, i) => ({ userId: `user-${i}`, section: i < 4 ? 'Small' : 'Large' }));
const placesIn = (about: string) =>
  new Map(withoutNames(school.db, about, students).map(({ student, name }) => [student.userId, name]));

describe('students without their names', () => {
  it('have a number each, the same at every look, however they are asked for', () => {
    const places = placesIn('one');
    expect([...places.values()].sort()).toEqual(students.map((_, i) => `Student ${i + 1}`).sort());
    const turned = withoutNames(school.db, 'one', [...students].reverse());
    expect(new Map(turned.map(({ student, name }) => [student.userId, name]))).toEqual(places);
  });

  it('are found by their place in the alphabet, or by their number elsewhere, no better than by chance', () => {
    const looks = 600;
    const hits = { alphabet: 0, elsewhere: 0 };
    let before = placesIn('before');
    for (let i = 0; i < looks; i++) {
      const places = placesIn(`sitting ${i}`);
      for (const [at, { userId }] of students.entries()) {
        if (places.get(userId) === `Student ${at + 1}`) hits.alphabet += 1;
        if (places.get(userId) === before.get(userId)) hits.elsewhere += 1;
      }
      before = places;
    }
    // By chance one of twelve is hit at every look: 600, give or take five standard deviations of about 24.
    for (const count of Object.values(hits)) expect(Math.abs(count - looks)).toBeLessThan(125);
  });

  it('are named with their section only where it is large enough to hide in', () => {
    const sections = withoutNames(school.db, 'one', students).map(({ student, section }) => [student.section, section]);
    expect(new Set(sections.map(String))).toEqual(new Set(['Small,', 'Large,Large']));
  });
});
