import { beforeEach, describe, expect, it } from 'vitest';
import { audit, membership, outbox, user } from '@/db/schema';
import { begins, must, refusal, School } from '../testing/school';
import { undoChange } from '../undoChange';
import { acceptInvitation, invitedPerson } from './invitations';
import { addPerson, addRoster, changePerson, listPeople, previewRoster, removePerson } from './roster';

let school: School;
const teacher = () => school.as(school.teacher);
const list = (...rows: string[]) => ['name,student number,email,section', ...rows].join('\n');

beforeEach(() => {
  school = new School(1);
});

describe('a class list', () => {
  it('is previewed with a message per row that cannot be added, and changes nothing', () => {
    const text = list(
      'Ada Example,1,ada@school.example,A',
      'No Mail,2,,A',
      'Twice,1,twice@school.example,A',
      'Here,9,student.1@school.example,B',
      '=1+1,4,f@school.example,A',
    );
    const preview = must(previewRoster(teacher(), school.courseId, text));
    expect(preview.ready.map((row) => row.name)).toEqual(['Ada Example']);
    expect(preview.newSections).toEqual(['A']);
    expect(preview.bad.map(({ line, message }) => [line, message])).toEqual([
      [3, 'The email is missing.'],
      [4, 'The same student number stands on line 2.'],
      [5, 'student.1@school.example is already in this course.'],
      [6, 'A cell holds a formula. Paste its value instead.'],
    ]);
    expect(must(listPeople(teacher(), school.courseId)).people).toHaveLength(3);
  });

  it('adds the readable rows, makes sections and invites those who are new', () => {
    expect(
      must(addRoster(teacher(), school.courseId, list('Ada,1,ada@school.example,A', 'Bo,2,bo@school.example,B'))),
    ).toMatchObject({ added: 2, left: 0 });
    const { people, sections } = must(listPeople(teacher(), school.courseId));
    expect(people.filter((person) => person.section).map((person) => [person.name, person.section])).toEqual([
      ['Ada', 'A'],
      ['Bo', 'B'],
    ]);
    expect(sections.map((section) => [section.name, section.students])).toEqual([
      ['A', 1],
      ['B', 1],
    ]);
    expect(
      school.db
        .select()
        .from(outbox)
        .all()
        .filter((message) => message.email === 'ada@school.example'),
    ).toHaveLength(1);
  });

  it('is added as it was looked at or not at all, and goes back with one undo', () => {
    const text = list('Ada,1,ada@school.example,A', 'Bo,2,bo@school.example,B');
    const { key } = must(previewRoster(teacher(), school.courseId, text));
    // A colleague adds one of them meanwhile.
    must(addRoster(teacher(), school.courseId, list('Bo,2,bo@school.example,B')));
    expect(refusal(addRoster(teacher(), school.courseId, text, key))).toBe('conflict');
    const again = must(previewRoster(teacher(), school.courseId, text));
    expect(again.bad).toMatchObject([{ line: 3, message: 'bo@school.example is already in this course.' }]);
    const { auditId } = must(addRoster(teacher(), school.courseId, text, again.key));
    const names = () => must(listPeople(teacher(), school.courseId)).people.map((person) => person.name);
    expect(names()).toEqual(expect.arrayContaining(['Ada', 'Bo']));
    must(undoChange(teacher(), school.courseId, auditId));
    expect(names()).toContain('Bo');
    expect(names()).not.toContain('Ada');
    expect(refusal(undoChange(teacher(), school.courseId, auditId))).toBe('conflict');
    // Whom an undo took out can be added again.
    expect(must(addRoster(teacher(), school.courseId, text)).added).toBe(1);
  });

  it('that is refused as a whole adds nobody', () => {
    const rows = Array.from({ length: 10_001 }, (_, i) => `P${i},${i},p${i}@school.example,A`);
    expect(refusal(addRoster(teacher(), school.courseId, list(...rows)))).toBe('bad-input');
    expect(must(listPeople(teacher(), school.courseId)).people).toHaveLength(3);
  });

  it('of a large school is taken whole', () => {
    const rows = Array.from({ length: 2_000 }, (_, i) => `P${i},${i},p${i}@school.example,A`);
    expect(must(addRoster(teacher(), school.courseId, list(...rows))).added).toBe(2_000);
  });

  it('is the instructor’s alone', () => {
    expect(refusal(addRoster(school.as(school.marker), school.courseId, list('A,1,a@school.example,')))).toBe(
      'not-allowed',
    );
    expect(refusal(listPeople(school.as(school.students[0] ?? school.marker), school.courseId))).toBe('not-allowed');
    expect(refusal(addRoster(teacher(), school.elsewhere.courseId, list('A,1,a@school.example,')))).toBe('not-found');
  });
});

describe('one person', () => {
  const person = (email: string) => ({ name: 'Ada', email, role: 'student', studentNumber: '', section: '' });

  it('is added once; someone known elsewhere gets a second course and no second account', () => {
    must(addPerson(teacher(), school.courseId, person('ada@school.example')));
    const again = addPerson(teacher(), school.courseId, person('ADA@school.example '));
    expect(again.ok ? null : again.problems[0]).toMatchObject({ code: 'conflict', field: 'email' });
    must(addPerson(school.as(school.elsewhere.teacher), school.elsewhere.courseId, person('ada@school.example')));
    expect(
      school.db
        .select()
        .from(user)
        .all()
        .filter((row) => row.email === 'ada@school.example'),
    ).toHaveLength(1);
  });

  it('is refused without a name or an address, at the field', () => {
    const result = addPerson(teacher(), school.courseId, { ...person('nonsense'), name: ' ' });
    expect(result.ok ? [] : result.problems.map((problem) => problem.field)).toEqual(['name', 'email']);
  });

  it('is taken out and brought back, but nobody takes themselves out', () => {
    const people = must(listPeople(teacher(), school.courseId)).people;
    const student = people.find((one) => one.role === 'student');
    const self = people.find((one) => one.role === 'instructor');
    const { auditId } = must(removePerson(teacher(), school.courseId, student?.membershipId ?? ''));
    expect(must(listPeople(teacher(), school.courseId)).people).toHaveLength(2);
    must(undoChange(teacher(), school.courseId, auditId));
    expect(must(listPeople(teacher(), school.courseId)).people).toHaveLength(3);
    expect(refusal(removePerson(teacher(), school.courseId, self?.membershipId ?? ''))).toBe('conflict');
    expect(
      refusal(
        changePerson(school.as(school.elsewhere.teacher), school.elsewhere.courseId, student?.membershipId ?? '', {
          section: '',
          studentNumber: '',
          extraPercent: 0,
        }),
      ),
    ).toBe('not-found');
    expect(school.db.select().from(membership).all()).toHaveLength(4);
    expect(
      school.db
        .select()
        .from(audit)
        .all()
        .map((row) => row.action),
    ).toContain('undo');
  });
});

describe('what is known of a person', () => {
  const known = { section: 'Evening', studentNumber: '77', extraPercent: 25 };
  const list = () => must(listPeople(teacher(), school.courseId)).people;
  const add = (name: string, role: 'student' | 'marker') =>
    must(
      addPerson(teacher(), school.courseId, {
        name,
        email: `${name}@school.example`.toLowerCase(),
        role,
        studentNumber: '',
        section: '',
      }),
    ).userId;
  const found = (userId: string) => list().find((one) => one.userId === userId);
  const change = (userId: string, input: object) =>
    changePerson(teacher(), school.courseId, found(userId)?.membershipId ?? '', { ...known, ...input });

  it('is mended: a name, an email, a section', () => {
    const ada = add('Add', 'student');
    must(change(ada, { name: ' Ada Lund ', email: 'Ada.Lund@school.example' }));
    expect(found(ada)).toMatchObject({ name: 'Ada Lund', email: 'ada.lund@school.example', section: 'Evening' });
    must(change(ada, {}));
    expect(found(ada)?.name).toBe('Ada Lund');
    const ben = add('Ben', 'student');
    expect(refusal(change(ben, { email: 'ada.lund@school.example' }))).toBe('conflict');
    expect(refusal(change(ben, { name: ' ' }))).toBe('bad-input');
    expect(found(ben)).toMatchObject({ name: 'Ben', section: null });
  });

  it('is not changed by one course for somebody who works in another', () => {
    const { teacher: colleague, courseId: other } = school.elsewhere;
    const eve = add('Eve', 'marker');
    must(change(eve, { name: 'Eva' }));
    must(
      addPerson(school.as(colleague), other, {
        name: 'Eve',
        email: 'eve@school.example',
        role: 'instructor',
        studentNumber: '',
        section: '',
      }),
    );
    expect(refusal(change(eve, { email: 'mine@school.example' }))).toBe('conflict');
    expect(refusal(change(eve, { name: 'Evil' }))).toBe('conflict');
    must(change(eve, { name: 'Eva', studentNumber: '' }));
    expect(found(eve)?.name).toBe('Eva');
  });
});

describe('an invitation', () => {
  it('works once, for thirty days, with a password long enough', async () => {
    must(
      addPerson(teacher(), school.courseId, {
        name: 'Ada',
        email: 'ada@school.example',
        role: 'student',
        studentNumber: '',
        section: '',
      }),
    );
    const message = school.db
      .select()
      .from(outbox)
      .all()
      .find((one) => one.email === 'ada@school.example');
    const token = /invitation\/(\S+)/.exec(message?.body ?? '')?.[1] ?? '';
    expect(invitedPerson(school.db, token, begins)?.email).toBe('ada@school.example');
    expect(invitedPerson(school.db, token, begins + 31 * 86_400_000)).toBeNull();
    expect(invitedPerson(school.db, `${token}x`, begins)).toBeNull();
    expect(refusal(await acceptInvitation(school.db, token, 'short', begins))).toBe('bad-input');
    must(await acceptInvitation(school.db, token, 'long enough words', begins));
    expect(refusal(await acceptInvitation(school.db, token, 'long enough words', begins))).toBe('not-found');
    expect(JSON.stringify(school.db.$client.prepare('select * from invitation').all())).not.toContain(token);
  });
});
