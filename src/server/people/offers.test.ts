import { verifyPassword } from 'better-auth/crypto';
import { beforeEach, describe, expect, it } from 'vitest';
import { minute } from '@/core/base/time';
import { outbox } from '@/db/schema';
import type { Actor } from '../house/context';
import { markingQueue } from '../marking/markingQueue';
import { begins, must, refusal, School } from '../testing/school';
import { takePaper } from '../testing/takePaper';
import { accountMeant } from './auth';
import { changePerson } from './changePerson';
import { acceptInvitation, inviteAgain, invitedPerson } from './invitations';
import { removePerson } from './leaving';
import { offerAgain, withdrawOffer } from './offers';
import { addPerson, listPeople } from './roster';

let school: School;
const teacher = () => school.as(school.teacher);
const _list = (...rows: string[]) => ['name,student number,email,section', ...rows].join('\n');

beforeEach(() => {
  school = new School(1);
});

describe('a part in a course', () => {
  const list = () => must(listPeople(teacher(), school.courseId));
  const input = { name: 'Col League', email: 'col@school.example', role: 'marker' };
  const change = (membershipId: string, role: string) =>
    changePerson(teacher(), school.courseId, membershipId, { section: '', studentNumber: '', extraPercent: 0, role });
  const tokens = () =>
    school.db
      .select()
      .from(outbox)
      .all()
      .flatMap(({ body }) => /invitation\/(\S+)/.exec(body)?.[1] ?? []);

  it('that is more than a student’s waits for the word of whoever has an account already', async () => {
    const { teacher: colleague, courseId: other } = school.elsewhere;
    const wicked = school.as(colleague);
    const { userId } = must(addPerson(wicked, other, { ...input, role: 'student' }));
    // Whoever invited them first opens the account before its owner comes.
    const there = must(listPeople(wicked, other)).people.find((one) => one.userId === userId)?.membershipId ?? '';
    const [stolen] = must(inviteAgain(wicked, other, [there])).slips;
    const stolenToken = /invitation\/(.+)$/.exec(stolen?.address ?? '')?.[1] ?? '';
    must(await acceptInvitation(school.db, stolenToken, 'the wicked one’s', 'new', begins));

    expect(must(addPerson(teacher(), school.courseId, input))).toEqual({ userId, offered: true });
    const thief = school.as({ userId, name: 'Col League' });
    expect(refusal(markingQueue(thief, school.courseId))).toBe('not-found');
    expect(list()).toMatchObject({ offers: [{ userId, role: 'marker' }] });
    expect(list().people.some((one) => one.userId === userId)).toBe(false);
    // Neither is there a new address from the other course any more, nor is their email changed there.
    expect(refusal(inviteAgain(wicked, other, [there]))).toBe('conflict');

    // The owner comes with the address that was sent to them.
    const token = tokens().at(-1) ?? '';
    expect(invitedPerson(school.db, token, begins)?.offer).toMatchObject({ role: 'marker', courseName: 'Seamanship' });
    expect(refusal(await acceptInvitation(school.db, token, 'not the password', 'have', begins))).toBe('not-allowed');
    must(await acceptInvitation(school.db, token, 'the owner’s own', 'new', begins + minute));
    must(markingQueue(thief, school.courseId));
    expect(list().offers).toEqual([]);
    const { hash } = accountMeant(school.db, input.email) ?? { hash: null };
    expect(await verifyPassword({ hash: hash ?? '', password: 'the owner’s own' })).toBe(true);
    expect(refusal(await acceptInvitation(school.db, token, 'once more, again', 'new', begins))).toBe('not-found');
  });

  it('is taken up with the password one has', async () => {
    const { userId } = must(addPerson(teacher(), school.courseId, { ...input, role: 'student' }));
    must(await acceptInvitation(school.db, tokens().at(-1) ?? '', 'a password of mine', 'new', begins));
    const member = list().people.find((one) => one.userId === userId)?.membershipId ?? '';
    expect(must(change(member, 'instructor'))).toEqual({ offered: true });
    expect(list().people.find((one) => one.userId === userId)?.role).toBe('student');
    const [offered] = list().offers;
    const [slip] = must(offerAgain(teacher(), school.courseId, offered?.offerId ?? '')).slips;
    const token = /invitation\/(.+)$/.exec(slip?.address ?? '')?.[1] ?? '';
    must(await acceptInvitation(school.db, token, 'a password of mine', 'have', begins + minute));
    expect(list().people.find((one) => one.userId === userId)?.role).toBe('instructor');
    // An address that offers nothing asks for a new one.
    const [again] = must(inviteAgain(teacher(), school.courseId, [member])).slips;
    const plain = /invitation\/(.+)$/.exec(again?.address ?? '')?.[1] ?? '';
    expect(refusal(await acceptInvitation(school.db, plain, 'a password of mine', 'have', begins))).toBe('not-allowed');
  });

  it('that was offered can be taken back; the newest offer counts, and an address offers it as long as it stands', async () => {
    const { userId } = must(addPerson(teacher(), school.courseId, { ...input, role: 'student' }));
    const member = list().people.find((one) => one.userId === userId)?.membershipId ?? '';
    must(change(member, 'guest'));
    const guest = tokens().at(-1) ?? '';
    must(change(member, 'marker'));
    expect(list().offers.map((one) => one.role)).toEqual(['marker']);
    expect(invitedPerson(school.db, guest, begins)).toBeNull();
    const marker = tokens().at(-1) ?? '';
    must(withdrawOffer(teacher(), school.courseId, list().offers[0]?.offerId ?? ''));
    expect(refusal(await acceptInvitation(school.db, marker, 'a password of mine', 'new', begins))).toBe('not-found');
    expect(accountMeant(school.db, input.email)?.hash).toBeNull();
  });

  it('changes at once for whoever is no student, never one’s own, and not for who has written an exam', () => {
    const { userId } = must(addPerson(teacher(), school.courseId, input));
    const of = (id: string) => list().people.find((one) => one.userId === id);
    expect(must(change(of(userId)?.membershipId ?? '', 'instructor'))).toEqual({ offered: false });
    expect(of(userId)?.role).toBe('instructor');
    expect(refusal(change(of(school.teacher.userId)?.membershipId ?? '', 'student'))).toBe('conflict');
    const [student] = school.students;
    takePaper(school, school.sitting(school.exam([school.fixed(school.questions(1)[0] ?? '')])), student as Actor, [
      null,
    ]);
    const written = change(of(student?.userId ?? '')?.membershipId ?? '', 'marker');
    expect(written).toMatchObject({ ok: false, problems: [{ field: 'role' }] });
  });

  it('is not taken up by who has written an exam since they were asked, nor by who left with results', async () => {
    const { userId } = must(addPerson(teacher(), school.courseId, { ...input, role: 'student' }));
    const of = () => list().people.find((one) => one.userId === userId)?.membershipId ?? '';
    must(change(of(), 'marker'));
    const token = tokens().at(-1) ?? '';
    const sittingId = school.sitting(school.exam([school.fixed(school.questions(1)[0] ?? '')]));
    takePaper(school, sittingId, { userId, name: input.name }, [null]);
    expect(refusal(await acceptInvitation(school.db, token, 'a password of mine', 'new', begins))).toBe('conflict');
    // Nothing of it is done: no password, no part.
    expect(accountMeant(school.db, input.email)?.hash).toBeNull();
    expect(list().people.find((one) => one.userId === userId)?.role).toBe('student');
    must(removePerson(teacher(), school.courseId, of()));
    expect(addPerson(teacher(), school.courseId, input)).toMatchObject({ ok: false, problems: [{ field: 'role' }] });
  });
});
