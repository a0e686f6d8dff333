import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { audit, membership, outbox, user } from '@/db/schema';
import { gradebook } from '../gradebook/gradebook';
import type { Actor } from '../house/context';
import { begins, must, refusal, School } from '../testing/school';
import { undoChange } from '../undoChange';
import { signIn } from './auth';
import { changePerson } from './changePerson';
import { acceptInvitation, inviteAgain, invitedPerson, letTryAgain } from './invitations';
import { bringBack, removePerson } from './leaving';
import { listOutbox } from './listOutbox';
import { setNameOrder } from './nameOrder';
import { addPerson, addRoster, listPeople, previewRoster } from './roster';

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
    expect(preview.ready.map((row) => row.name)).toEqual(['Ada Example', 'No Mail']);
    expect(preview.newSections).toEqual(['A']);
    expect(preview.bad.map(({ line, message }) => [line, message])).toEqual([
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

describe('people without an email', () => {
  const list = () => must(listPeople(teacher(), school.courseId));
  const signsIn = () => Object.fromEntries(list().people.map((one) => [one.name, one.email ?? one.signInName]));

  it('sign in with their student number, or with their name', () => {
    must(addRoster(teacher(), school.courseId, 'Ada Lund,S1001\nBo Ek,S1002\nCy Moe,S1003'));
    expect(must(addRoster(teacher(), school.courseId, 'Zoë van Dijk\nBo Ek'))).toMatchObject({ added: 1, left: 1 });
    expect(signsIn()).toMatchObject({ 'Ada Lund': 's1001', 'Zoë van Dijk': 'zoe.van.dijk' });
    // Two of one name get names of their own.
    must(addRoster(teacher(), school.courseId, 'name,number\nZoë van Dijk,S1004'));
    const both = list().people.filter((one) => one.name === 'Zoë van Dijk');
    expect(both.map((one) => one.signInName).sort()).toEqual(['s1004', 'zoe.van.dijk']);
    must(
      addPerson(school.as(school.elsewhere.teacher), school.elsewhere.courseId, {
        name: 'Zoë van Dijk',
        email: '',
        role: 'student',
      }),
    );
    expect(
      must(listPeople(school.as(school.elsewhere.teacher), school.elsewhere.courseId)).people.map(
        (one) => one.signInName,
      ),
    ).toContain('zoe.van.dijk2');
  });

  it('are found again by their number in another course of the school, if the names may be the same', () => {
    const { teacher: colleague, courseId: other } = school.elsewhere;
    must(addRoster(teacher(), school.courseId, 'name,number\nAda Lund,1001\nBo Ek,1002'));
    const there = must(
      addRoster(school.as(colleague), other, 'name,number\n"Lund, Ada M.",1001\nMia Berg,1002\nDi Vik,1003'),
    );
    expect(there).toMatchObject({ added: 2, withoutEmail: 1, left: 1 });
    const ids = (courseId: string, who: typeof school.teacher) =>
      must(listPeople(school.as(who), courseId)).people.map((one) => one.userId);
    expect(ids(other, colleague).filter((one) => ids(school.courseId, school.teacher).includes(one))).toHaveLength(1);
    const { bad } = must(previewRoster(school.as(colleague), other, 'name,number\nMia Berg,1002'));
    expect(bad[0]?.message).toContain('Somebody with quite another name signs in with 1002');
    // Whoever has the number with an email is the same person, too.
    must(addRoster(teacher(), school.courseId, 'name,number,email\nEd Dahl,1009,ed@school.example'));
    expect(must(addRoster(school.as(colleague), other, 'name,number\nEd Dahl,1009'))).toMatchObject({
      withoutEmail: 0,
    });
  });

  it('are not added twice', () => {
    must(addRoster(teacher(), school.courseId, 'name,number\nAda Lund,1001\nBo Ek,'));
    const again = must(previewRoster(teacher(), school.courseId, 'name,number\nAda Lund,1001\nBo Ek,'));
    expect(again.ready).toEqual([]);
    expect(again.bad.map((one) => one.message)).toEqual([
      'Ada Lund is already in this course.',
      expect.stringContaining('Bo Ek is already in this course. For another person of that name'),
    ]);
  });

  it('get no message, and a slip that says what they sign in with', () => {
    const before = school.db.select().from(outbox).all().length;
    must(addRoster(teacher(), school.courseId, 'name,number\nAda Lund,1001'));
    expect(school.db.select().from(outbox).all()).toHaveLength(before);
    const [ada] = list().people.filter((one) => one.name === 'Ada Lund');
    const { slips } = must(inviteAgain(teacher(), school.courseId, [ada?.membershipId ?? '']));
    expect(slips).toMatchObject([{ name: 'Ada Lund', signsInAs: '1001' }]);
  });

  it('work as nothing but students', () => {
    const input = { name: 'No Mail', email: '', role: 'marker' };
    expect(addPerson(teacher(), school.courseId, input)).toMatchObject({ ok: false, problems: [{ field: 'email' }] });
    must(addPerson(teacher(), school.courseId, { ...input, role: 'student' }));
  });

  it('always have something to sign in with, however they are mended', () => {
    must(addRoster(teacher(), school.courseId, 'name,number,email\nAda Lund,1001,ada@school.example\nBo Ek,1002,'));
    const change = (name: string, input: object) => {
      const person = list().people.find((one) => one.name === name);
      return changePerson(teacher(), school.courseId, person?.membershipId ?? '', {
        section: '',
        studentNumber: person?.studentNumber ?? '',
        extraPercent: 0,
        ...input,
      });
    };
    must(change('Ada Lund', { email: '' }));
    expect(signsIn()['Ada Lund']).toBe('1001');
    // A mistyped number is mended where they sign in with it, and left alone where they have chosen another name.
    must(change('Ada Lund', { studentNumber: '1011' }));
    expect(signsIn()['Ada Lund']).toBe('1011');
    must(change('Ada Lund', { signInName: 'Ada.L' }));
    must(change('Ada Lund', { studentNumber: '1001' }));
    expect(signsIn()['Ada Lund']).toBe('ada.l');
    expect(change('Bo Ek', { signInName: 'ADA.L' })).toMatchObject({ ok: false, problems: [{ field: 'signInName' }] });
    expect(change('Bo Ek', { signInName: 'a@b.example' })).toMatchObject({ ok: false });
    must(change('Bo Ek', { signInName: '', studentNumber: '' }));
    expect(signsIn()['Bo Ek']).toBe('bo.ek');
  });
});

describe('messages sent', () => {
  const messages = (asked = {}) => must(listOutbox(teacher(), school.courseId, asked));

  it('are found by name, email or subject, a page at a time', () => {
    const rows = Array.from({ length: 230 }, (_, i) => `Student ${i},${i},p${i}@x.example,A`);
    must(addRoster(teacher(), school.courseId, list(...rows)));
    const first = messages();
    expect([first.messages.length, first.all]).toEqual([100, 232]);
    const second = messages({ before: first.older });
    const third = messages({ before: second.older });
    expect([second.messages.length, third.messages.length, third.older]).toEqual([100, 32, null]);
    const ids = [first, second, third].flatMap((page) => page.messages.map((one) => one.id));
    expect(new Set(ids).size).toBe(232);
    expect(messages({ find: 'P17@' }).messages.map((one) => one.name)).toEqual(['Student 17']);
    expect(messages({ find: 'YOUR PLACE' }).all).toBe(232);
    expect(messages({ find: '%' }).messages).toEqual([]);
  });

  it('go to whoever is added again, with an address as long as they have not come in', async () => {
    const bodies = () =>
      messages({ find: 'ada@' })
        .messages.map((one) => one.body)
        .reverse();
    const one = list('Ada,7,ada@school.example,');
    must(addRoster(teacher(), school.courseId, one));
    const remove = () => {
      const { people } = must(listPeople(teacher(), school.courseId));
      const ada = people.find((person) => person.name === 'Ada');
      must(removePerson(teacher(), school.courseId, ada?.membershipId ?? ''));
      return ada?.membershipId ?? '';
    };
    remove();
    must(addRoster(teacher(), school.courseId, one));
    expect(bodies()).toHaveLength(2);
    expect(bodies()[1]).toContain('Set a password here');
    const sent = school.db.select().from(outbox).all().at(-1)?.body ?? '';
    must(
      await acceptInvitation(school.db, /invitation\/(\S+)/.exec(sent)?.[1] ?? '', 'a password of mine', 'new', begins),
    );
    remove();
    must(addRoster(teacher(), school.courseId, one));
    expect(bodies()[2]).toContain('You find it where you sign in.');
  });
});

describe('first and last names', () => {
  it('are kept from two columns, and sort the list as whoever looks likes it', () => {
    must(addRoster(teacher(), school.courseId, 'last name,first name,number\nBerg,Zoë,1\nvan Ek,Ada,2'));
    const names = (who = school.teacher) =>
      must(listPeople(school.as(who), school.courseId)).people.flatMap((one) => (one.studentNumber ? one.name : []));
    expect(names()).toEqual(['Ada van Ek', 'Zoë Berg']);
    must(setNameOrder(teacher(), school.courseId, 'last'));
    expect(names()).toEqual(['Zoë Berg', 'Ada van Ek']);
    expect(must(gradebook(teacher(), school.courseId)).rows.map((one) => one.name)).toEqual([
      '1, Student',
      'Berg, Zoë',
      'van Ek, Ada',
    ]);
    expect(refusal(setNameOrder(teacher(), school.courseId, 'middle'))).toBe('bad-input');
    // A mistyped name is mended with all that follows from it.
    const zoe = () => must(listPeople(teacher(), school.courseId)).people.find((one) => one.studentNumber === '1');
    const change = (input: object) =>
      must(
        changePerson(teacher(), school.courseId, zoe()?.membershipId ?? '', {
          section: '',
          studentNumber: '1',
          extraPercent: 0,
          ...input,
        }),
      );
    change({ name: 'Zoë M. Berg', lastName: 'Berg' });
    expect(zoe()?.lastName).toBe('Berg');
    change({ name: 'Zoë Bergh', lastName: 'Berg' });
    expect(zoe()).toMatchObject({ name: 'Zoë Bergh', lastName: '' });
    change({ name: 'Zoë Dahl', lastName: '' });
    expect(zoe()).toMatchObject({ name: 'Zoë Dahl', lastName: '' });
    change({ name: 'Zoë Dahl', lastName: 'Zoë' });
    expect(zoe()?.lastName).toBe('Zoë');
  });
});

describe('who has left', () => {
  it('is listed and brought back with part, section and number', () => {
    must(addRoster(teacher(), school.courseId, list('Ada,7,ada@school.example,B')));
    const all = () => must(listPeople(teacher(), school.courseId));
    const ada = all().people.find((one) => one.name === 'Ada')?.membershipId ?? '';
    must(removePerson(teacher(), school.courseId, ada));
    expect(all().former).toMatchObject([{ membershipId: ada, name: 'Ada', role: 'student', section: 'B' }]);
    must(bringBack(teacher(), school.courseId, ada));
    expect(all().former).toEqual([]);
    expect(all().people.find((one) => one.membershipId === ada)).toMatchObject({ section: 'B', studentNumber: '7' });
    expect(refusal(bringBack(teacher(), school.courseId, ada))).toBe('not-found');
    // A row of a list brings them back too, without a second account: with what it says, and what it does not say stays.
    must(removePerson(teacher(), school.courseId, ada));
    must(addRoster(teacher(), school.courseId, 'Ada Lund,7'));
    expect(all().people.filter((one) => one.membershipId === ada)).toMatchObject([{ name: 'Ada Lund', section: 'B' }]);
    expect(all().former).toEqual([]);
    // Who is known elsewhere under a name keeps it.
    must(addRoster(school.as(school.elsewhere.teacher), school.elsewhere.courseId, 'Ada Lund,7'));
    must(removePerson(teacher(), school.courseId, ada));
    must(addRoster(teacher(), school.courseId, list('Evil,7,ada@school.example,')));
    expect(all().people.find((one) => one.membershipId === ada)?.name).toBe('Ada Lund');
  });
});

describe('who was slowed down by wrong passwords', () => {
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it('may try again at once when an instructor says so', async () => {
    const [student] = school.students as [Actor];
    const email = 'student.1@school.example';
    const wrong = () => signIn(email, 'nonsense', '', new Headers(), false);
    vi.useFakeTimers({ toFake: ['Date'], now: begins });
    vi.stubGlobal('wuzzenDatabase', school.db);
    for (let i = 0; i < 5; i++) await wrong();
    expect(refusal(await wrong())).toBe('busy');
    const now = () => ({ ...teacher(), now: Date.now() });
    const one = () =>
      must(listPeople(now(), school.courseId)).people.find((person) => person.userId === student.userId);
    expect(one()?.slowed).toBe(true);
    must(letTryAgain(now(), school.courseId, one()?.membershipId ?? ''));
    expect(one()?.slowed).toBe(false);
    expect(refusal(await wrong())).toBe('not-allowed');
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
    expect(invitedPerson(school.db, token, begins)?.signsInAs).toBe('ada@school.example');
    expect(invitedPerson(school.db, token, begins + 31 * 86_400_000)).toBeNull();
    expect(invitedPerson(school.db, `${token}x`, begins)).toBeNull();
    expect(refusal(await acceptInvitation(school.db, token, 'short', 'new', begins))).toBe('bad-input');
    must(await acceptInvitation(school.db, token, 'long enough words', 'new', begins));
    expect(refusal(await acceptInvitation(school.db, token, 'long enough words', 'new', begins))).toBe('not-found');
    expect(JSON.stringify(school.db.$client.prepare('select * from invitation').all())).not.toContain(token);
  });
});
