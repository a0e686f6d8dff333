import { beforeEach, describe, expect, it } from 'vitest';
import type { PersonCell } from '@/core/people/personCells';
import { audit, membership, section, user } from '@/db/schema';
import { must, refusal, School } from '../testing/school';
import { undoChange } from '../undoChange';
import { removePerson } from './leaving';
import { addPerson, addRoster, listPeople } from './roster';
import { typePeople } from './typePeople';

let school: School;
const teacher = () => school.as(school.teacher);

beforeEach(() => {
  school = new School(0);
  must(
    addRoster(
      teacher(),
      school.courseId,
      'name,student number,email,section\nAda Lund,1001,,Evening\nBen Ode,1002,,Evening\nCy Falk,,cy@school.example,',
    ),
  );
});

const people = () => must(listPeople(teacher(), school.courseId)).people;
const person = (name: string) => {
  const found = people().find((one) => one.name === name);
  if (!found) throw new Error(`${name} is not there`);
  return found;
};
const shown = (name: string) => {
  const { section: own, studentNumber, extraPercent, signInName } = person(name);
  return [own, studentNumber, extraPercent, signInName];
};
const cell = (name: string, of: PersonCell, text: string, before: string) => ({
  membershipId: person(name).membershipId,
  cell: of,
  text,
  before,
});
const type = (cells: ReturnType<typeof cell>[], newSections = false) =>
  typePeople(teacher(), school.courseId, { cells, newSections });
const undo = (auditId: number) => undoChange(teacher(), school.courseId, auditId);
const sections = () =>
  school.db
    .select()
    .from(section)
    .all()
    .map((one) => one.name);

describe('cells of people', () => {
  it('are changed as typed: a section, a number with what is signed in with, extra time', () => {
    must(
      type([
        cell('Ada Lund', 'studentNumber', ' 2001 ', '1001'),
        cell('Ben Ode', 'extraPercent', '+25 %', ''),
        cell('Cy Falk', 'section', 'Evening', ''),
      ]),
    );
    expect([shown('Ada Lund'), shown('Ben Ode'), shown('Cy Falk')]).toEqual([
      ['Evening', '2001', 0, '2001'],
      ['Evening', '1002', 25, '1002'],
      ['Evening', null, 0, null],
    ]);
    // What else stands in the arrangement stays.
    school.db
      .update(membership)
      .set({ standing: { extraPercent: 25, note: 'quiet room' } as never })
      .run();
    must(type([cell('Ben Ode', 'extraPercent', '', '25')]));
    expect(
      school.db
        .select()
        .from(membership)
        .all()
        .find((one) => one.id === person('Ben Ode').membershipId)?.standing,
    ).toEqual({ extraPercent: 0, note: 'quiet room' });
  });

  it('are changed all or none: over a change of somebody else, with a wrong text, of nobody here', () => {
    const good = cell('Cy Falk', 'section', 'Evening', '');
    expect(type([good, cell('Ada Lund', 'extraPercent', 'much', '')])).toMatchObject({
      problems: [{ message: 'Ada Lund, extra time: “much” is no whole number of percent, like 25.' }],
    });
    expect(type([good, cell('Ada Lund', 'studentNumber', '2001', '999')])).toMatchObject({
      problems: [
        { code: 'conflict', message: 'Ada Lund, student number: this cell has been changed meanwhile. Look again.' },
      ],
    });
    const gone = cell('Ben Ode', 'section', '', 'Evening');
    must(removePerson(teacher(), school.courseId, gone.membershipId));
    expect(refusal(type([good, gone]))).toBe('not-found');
    expect(shown('Cy Falk')).toEqual([null, null, 0, null]);
  });

  it('begin a section only where that is meant, and taking it back takes the empty one away', () => {
    const typo = [cell('Ada Lund', 'section', 'Morning', 'Evening')];
    expect(type(typo)).toMatchObject({
      problems: [{ field: 'newSections', message: 'Ada Lund, section: there is no section “Morning” yet.' }],
    });
    const { auditId } = must(type(typo, true));
    expect([shown('Ada Lund')[0], sections()]).toEqual(['Morning', ['Evening', 'Morning']]);
    must(undo(auditId));
    expect([shown('Ada Lund')[0], sections()]).toEqual(['Evening', ['Evening']]);
    // One that has come into use stays.
    const again = must(type([cell('Ada Lund', 'section', 'Morning', 'Evening')], true)).auditId;
    must(type([cell('Ben Ode', 'section', 'Morning', 'Evening')]));
    must(undo(again));
    expect([shown('Ada Lund')[0], shown('Ben Ode')[0], sections()]).toEqual([
      'Evening',
      'Morning',
      ['Evening', 'Morning'],
    ]);
  });

  it('let numbers change hands, and never let two have one', () => {
    const { auditId } = must(
      type([cell('Ada Lund', 'studentNumber', '1002', '1001'), cell('Ben Ode', 'studentNumber', '1001', '1002')]),
    );
    expect([shown('Ada Lund')[3], shown('Ben Ode')[3]]).toEqual(['1002', '1001']);
    expect(type([cell('Cy Falk', 'studentNumber', '1002', '')])).toMatchObject({
      problems: [{ code: 'conflict', message: 'Cy Falk: student number 1002 already belongs to Ada Lund.' }],
    });
    expect(
      refusal(type([cell('Ada Lund', 'studentNumber', 'a1', '1002'), cell('Ben Ode', 'studentNumber', 'A1', '1001')])),
    ).toBe('conflict');
    expect([shown('Ada Lund')[3], shown('Ben Ode')[3]]).toEqual(['1002', '1001']);
    must(undo(auditId));
    expect([shown('Ada Lund'), shown('Ben Ode')]).toEqual([
      ['Evening', '1001', 0, '1001'],
      ['Evening', '1002', 0, '1002'],
    ]);
  });

  it('are not taken back over what was changed since, nor from somebody who signs in with it by now', () => {
    const first = must(type([cell('Ada Lund', 'studentNumber', '2001', '1001')])).auditId;
    must(type([cell('Ada Lund', 'extraPercent', '50', '')]));
    expect(undo(first)).toMatchObject({
      problems: [{ code: 'conflict', message: 'Ada Lund has been changed since.' }],
    });
    const second = must(type([cell('Ben Ode', 'studentNumber', '2002', '1002')])).auditId;
    must(
      addPerson(teacher(), school.courseId, {
        name: 'Dee Moss',
        lastName: '',
        email: '',
        role: 'student',
        studentNumber: '1002',
        section: '',
      }),
    );
    expect(undo(second)).toMatchObject({
      problems: [{ code: 'conflict', message: 'Somebody else signs in with 1002 since.' }],
    });
    expect(shown('Ben Ode')[1]).toBe('2002');
  });

  it('are not taken back where a number has become somebody else’s, or a section is gone', () => {
    const number = must(type([cell('Ada Lund', 'studentNumber', '2001', '1001')])).auditId;
    // Given to somebody who goes on signing in with an email alone.
    must(type([cell('Cy Falk', 'studentNumber', '1001', '')]));
    expect(undo(number)).toMatchObject({
      problems: [{ code: 'conflict', message: 'Student number 1001 belongs to Cy Falk since.' }],
    });
    expect([shown('Ada Lund')[1], shown('Cy Falk')[1]]).toEqual(['2001', '1001']);

    const begun = must(type([cell('Ada Lund', 'section', 'Night', 'Evening')], true)).auditId;
    must(type([cell('Ben Ode', 'section', 'Night', 'Evening')]));
    const left = must(type([cell('Ben Ode', 'section', 'Evening', 'Night')])).auditId;
    must(undo(begun));
    expect(sections()).toEqual(['Evening']);
    expect(undo(left)).toMatchObject({
      problems: [{ code: 'conflict', message: 'A section that somebody was in is gone since.' }],
    });
    expect(shown('Ben Ode')[0]).toBe('Evening');
  });

  it('of somebody who works where one does not teach keep what is signed in with', () => {
    const { courseId: elsewhere } = school.elsewhere;
    const ada = person('Ada Lund').userId;
    school.db
      .insert(membership)
      .values({ id: 'm-elsewhere', courseId: elsewhere, userId: ada, role: 'marker', addedAt: 0 as never })
      .run();
    expect(type([cell('Ada Lund', 'studentNumber', '2001', '1001')])).toMatchObject({
      problems: [{ code: 'conflict', message: expect.stringContaining('it is changed there') }],
    });
    must(type([cell('Ada Lund', 'section', '', 'Evening')]));
    expect(shown('Ada Lund')).toEqual([null, '1001', 0, '1001']);
    expect(
      school.db
        .select()
        .from(user)
        .all()
        .filter((one) => one.signInName === null && one.email === null),
    ).toEqual([]);
  });

  it('stand in the log, and only several of them in what was done lately', () => {
    must(type([cell('Ada Lund', 'extraPercent', '25', '')]));
    const kinds = school.db
      .select()
      .from(audit)
      .all()
      .filter((one) => one.action === 'people.type')
      .map((one) => [one.undo?.kind, (one.detail as { cells?: string }).cells]);
    expect(kinds).toEqual([['people.type', 'extra time']]);
  });
});
