import { describe, expect, it } from 'vitest';
import { day, hour, minute } from '@/core/base/time';
import { startAttempt } from '../attempt/startAttempt';
import { addColumn } from '../gradebook/bookSettings';
import { enterCell } from '../gradebook/entries';
import { sheetsPage } from '../gradebook/feedbackSheets';
import { explained, gradebook } from '../gradebook/gradebook';
import { changePerson } from '../people/changePerson';
import { bringBack, removePerson } from '../people/leaving';
import { addPerson, listPeople } from '../people/roster';
import { planOf, releaseSchool, window } from '../testing/releaseSchool';
import { must, refusal } from '../testing/school';
import { myResults } from './myResults';
import { questionGrid } from './questionGrid';
import { releaseDue } from './releaseDue';
import { sittingResults } from './results';
import { myReview } from './review';

const at = releaseSchool();
const { student, teacher, give, take, markEssays, publish } = at;

const memberOf = (i: number) => {
  const { people, former } = must(listPeople(teacher(), at.school.courseId));
  return [...people, ...former].find((one) => one.name === student(i).name)?.membershipId ?? '';
};
const leave = (i: number, later = 15 * minute) => must(removePerson(teacher(later), at.school.courseId, memberOf(i)));
const results = (sittingId: string, later = hour) =>
  must(sittingResults(teacher(later), at.school.courseId, sittingId)).rows;
const shown = planOf(['score', 'comments'], window('on-publishing'));

describe('who has left a course', () => {
  it('stays in the results of what they took, is published, and reads it', () => {
    const sittingId = give({ releasePlan: shown });
    take(sittingId, student(0));
    take(sittingId, student(1));
    leave(0);
    leave(2);
    // Who took nothing is gone from it, whoever took it stays, behind the others.
    expect(results(sittingId).map((row) => [row.name, row.hasLeft])).toEqual([
      [student(1).name, false],
      [student(0).name, true],
    ]);
    markEssays(sittingId);
    publish(sittingId, 2);
    const own = at.school.as(student(0), hour);
    expect(myResults(own)).toMatchObject([{ sittingId, score: { earned: 3, possible: 10 } }]);
    expect(must(myReview(own, sittingId)).score).toMatchObject({ earned: 3 });
    expect(must(questionGrid(teacher(), at.school.courseId, sittingId)).rows).toHaveLength(2);
    expect(must(sheetsPage(teacher(), at.school.courseId, sittingId)).students).toHaveLength(2);
    // And of nothing else: not of what they did not take, nor may they begin anything.
    const later = give({ releasePlan: shown, title: 'Later' });
    expect(refusal(myReview(own, later))).toBe('not-found');
    expect(refusal(startAttempt(own, later))).not.toBe('accepted');
    expect(refusal(myReview(at.school.as(student(2), hour), sittingId))).toBe('not-found');
  });

  it('is not told to those who may see no names', () => {
    const sittingId = give({ releasePlan: shown });
    take(sittingId, student(0));
    leave(0);
    const guest = at.school.add('Gil Guest', 'guest');
    const rows = must(sittingResults(at.school.as(guest, hour), at.school.courseId, sittingId)).rows;
    expect(rows.map((row) => row.hasLeft)).toEqual(rows.map(() => false));
  });

  it('gets what publishes itself after they have left', () => {
    const sittingId = give({ releasePlan: shown, selfPublish: { kind: 'each', notBefore: null } });
    take(sittingId, student(0));
    leave(0);
    markEssays(sittingId);
    releaseDue(at.school.db, teacher(25 * minute).now);
    expect(results(sittingId).find((row) => row.hasLeft)?.published).toMatchObject({ earned: 3 });
  });

  it('stands in the gradebook below the others, and in nothing that is said of all', () => {
    const sittingId = give({ releasePlan: shown });
    take(sittingId, student(0));
    take(sittingId, student(1));
    markEssays(sittingId);
    publish(sittingId, 2);
    const { columnId } = must(addColumn(teacher(), at.school.courseId, { title: 'Talk', worth: 10 }));
    const enter = (i: number, points: number) =>
      must(
        enterCell(teacher(), at.school.courseId, columnId, student(i).userId, {
          points,
          excused: false,
          reason: '',
          before: 0,
        }),
      );
    enter(0, 10);
    enter(1, 4);
    const book = () => must(gradebook(teacher(3 * day), at.school.courseId));
    const talk = () => book().columns.find((one) => one.id === columnId)?.statistics;
    expect(talk()).toMatchObject({ mean: 7 });
    leave(0, hour);
    leave(2, hour);
    expect(talk()).toMatchObject({ mean: 4 });
    expect(book().rows.map((row) => [row.name, row.hasLeft])).toEqual([
      [student(1).name, false],
      [student(0).name, true],
    ]);
    const row = book().rows.at(-1);
    expect(row?.points).toContain(10);
    expect(must(explained(teacher(3 * day), at.school.courseId, student(0).userId)).student).toBe(student(0).name);
    // Back again, everything is as before.
    must(bringBack(teacher(), at.school.courseId, memberOf(0)));
    expect(talk()).toMatchObject({ mean: 7 });
  });

  it('is not excused from what only those are given who are there', () => {
    const sittingId = give({ releasePlan: shown });
    take(sittingId, student(0));
    leave(0);
    give({ title: 'Given when they had left' });
    const row = must(gradebook(teacher(9 * day), at.school.courseId)).rows.find((one) => one.hasLeft);
    expect(row?.marks).toMatchObject({ 'not-published': [0] });
    expect(row?.marks.missing).toBeUndefined();
  });
});

describe('who went to another section', () => {
  it('stays in the results of what they took', () => {
    const person = { name: 'Mia Mover', email: 'mia@school.example', role: 'student', section: 'A' };
    const { userId } = must(addPerson(teacher(0), at.school.courseId, person));
    const here = () => must(listPeople(teacher(), at.school.courseId));
    const sectionId = here().sections[0]?.id ?? '';
    const sittingId = give({ who: { kind: 'some', sectionIds: [sectionId], studentIds: [] }, releasePlan: shown });
    take(sittingId, { userId, name: person.name });
    const { membershipId } = here().people.find((one) => one.userId === userId) ?? { membershipId: '' };
    must(
      changePerson(teacher(), at.school.courseId, membershipId, { section: 'B', studentNumber: '', extraPercent: 0 }),
    );
    expect(results(sittingId).map((row) => [row.name, row.hasLeft])).toEqual([[person.name, false]]);
  });
});
