import { hashPassword, verifyPassword } from 'better-auth/crypto';
import { eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { day, minute } from '@/core/base/time';
import { account, audit, membership, session } from '@/db/schema';
import type { Actor, Context } from '../house/context';
import { begins, must, refusal, School } from '../testing/school';
import { changePassword, chooseSignInName, endOtherSessions, endSession, ownAccount } from './account';
import { accountMeant, keepPassword } from './auth';
import { acceptInvitation, inviteAgain, invitedPerson } from './invitations';
import { listOutbox } from './listOutbox';
import { offerAgain } from './offers';
import { addPerson, addRoster, listPeople } from './roster';
import { isKnown, knownCookie, lanes, signInTries } from './signInTries';

let school: School;
let student: Actor;
beforeEach(() => {
  school = new School(3);
  student = school.students[0] as Actor;
});

/** Signed in on a machine of one's own. */
function signedIn(who: Actor, name: string, userAgent = ''): string {
  const at = new Date(begins);
  school.db
    .insert(session)
    .values({
      id: name,
      token: `token of ${name}`,
      userId: who.userId,
      expiresAt: new Date(begins + day),
      createdAt: at,
      updatedAt: at,
      userAgent,
      ipAddress: '10.0.0.9',
    })
    .run();
  return name;
}
const within = (who: Actor, sessionId: string, later = minute): Context => ({
  ...school.as(who, later),
  actor: { ...who, sessionId },
});
const sessionsOf = (who: Actor) =>
  school.db
    .select()
    .from(session)
    .where(eq(session.userId, who.userId))
    .all()
    .map((row) => row.id);
const passwordOf = (who: Actor) =>
  school.db.select().from(account).where(eq(account.userId, who.userId)).get()?.password ?? '';

describe('one’s own account', () => {
  beforeEach(async () => {
    const hash = await hashPassword('the first password');
    school.db.transaction((tx) => keepPassword(tx, student.userId, hash));
    signedIn(student, 'here', 'Mozilla/5.0 (iPhone; CPU iPhone OS 17_0 like Mac OS X) Version/17.0 Safari/604.1');
    signedIn(
      student,
      'library',
      'Mozilla/5.0 (Windows NT 10.0) AppleWebKit/537.36 Chrome/120.0 Safari/537.36 Edg/120.0',
    );
    signedIn(school.students[1] as Actor, 'another');
  });

  it('shows where one is signed in, and nobody else’s sessions', () => {
    const { sessions, hasPassword } = must(ownAccount(within(student, 'library')));
    expect(hasPassword).toBe(true);
    expect(sessions.map((one) => [one.id, one.device, one.isThis])).toEqual([
      ['library', 'Edge on Windows', true],
      ['here', 'Safari on iPhone', false],
    ]);
    expect(JSON.stringify(sessions)).not.toContain('token of');
    expect(must(ownAccount(within(student, 'here', 2 * day))).sessions).toEqual([]);
  });

  it('ends one session, or all others, and never another’s', () => {
    expect(refusal(endSession(within(student, 'here'), 'another'))).toBe('not-found');
    must(endSession(within(student, 'here'), 'library'));
    expect(sessionsOf(student)).toEqual(['here']);
    signedIn(student, 'kitchen');
    must(endOtherSessions(within(student, 'here')));
    expect([sessionsOf(student), sessionsOf(school.students[1] as Actor)]).toEqual([['here'], ['another']]);
  });

  it('is signed in to by a name of one’s own choice, that is nobody else’s nor anybody’s number', () => {
    must(addRoster(school.as(school.teacher), school.courseId, 'name,number\nBo Ek,S77\nCy Moe,'));
    const choose = (name: string) => chooseSignInName(within(student, 'here'), name);
    must(choose(' Ada.L '));
    expect(must(ownAccount(within(student, 'here'))).signInName).toBe('ada.l');
    expect(accountMeant(school.db, 'ADA.l')?.userId).toBe(student.userId);
    must(choose('ﬁa'));
    expect(accountMeant(school.db, 'ﬁa')?.userId).toBe(student.userId);
    for (const taken of ['s77', 'Cy.Moe']) expect(refusal(choose(taken))).toBe('conflict');
    // Whoever has a number in any course goes on having it, whatever they sign in with.
    const bo = accountMeant(school.db, 's77')?.userId ?? '';
    must(chooseSignInName(school.as({ userId: bo, name: 'Bo' }), 'bo.the.first'));
    expect(refusal(choose('S77'))).toBe('conflict');
    must(chooseSignInName(school.as({ userId: bo, name: 'Bo' }), 's77'));
    for (const odd of ['77', '7up', 'ab', 'a@b.example', '<b>bo</b>', 'x'.repeat(61)])
      expect([odd, refusal(choose(odd))]).toEqual([odd, 'bad-input']);
  });

  it('takes a new password with the one that holds, and ends the sessions elsewhere', async () => {
    const change = (current: string, next: string, later = minute) =>
      changePassword(within(student, 'here', later), current, next);
    expect(refusal(await change('the first password', 'short'))).toBe('bad-input');
    expect(refusal(await change('a wrong password', 'the second password'))).toBe('not-allowed');
    expect(sessionsOf(student)).toEqual(['here', 'library']);
    must(await change('the first password', 'the second password'));
    expect(await verifyPassword({ hash: passwordOf(student), password: 'the second password' })).toBe(true);
    expect(sessionsOf(student)).toEqual(['here']);
    expect(JSON.stringify(school.db.select().from(audit).all())).not.toMatch(/second password/);
  });

  it('is not guessed at by whoever sits at an open machine', async () => {
    const guesses = [];
    for (let i = 0; i < 6; i++)
      guesses.push(
        refusal(await changePassword(within(student, 'here', 20 * minute), `guess number ${i}`, 'taken over by me')),
      );
    expect(guesses).toEqual([...Array(4).fill('not-allowed'), 'busy', 'busy']);
  });
});

describe('a way back in', () => {
  const teacher = (later = minute) => school.as(school.teacher, later);
  const memberOf = (who: Actor) =>
    school.db.select().from(membership).where(eq(membership.userId, who.userId)).get()?.id ?? '';
  const tokenIn = (address: string) => /invitation\/(.+)$/.exec(address)?.[1] ?? '';

  it('is a new address, shown to whoever asked for it and to nobody else, that works once and ends what was before', async () => {
    signedIn(student, 'lost phone');
    const ids = [memberOf(student), memberOf(school.students[1] as Actor)];
    const [first] = must(inviteAgain(teacher(), school.courseId, ids)).slips;
    const { slips } = must(inviteAgain(teacher(), school.courseId, ids));
    expect(slips.map((one) => one.name).sort()).toEqual([student.name, school.students[1]?.name].sort());
    const own = slips.find((one) => one.name === student.name);
    expect(
      must(listPeople(teacher(), school.courseId)).people.find((one) => one.userId === student.userId)?.cameIn,
    ).toBe(false);
    must(
      await acceptInvitation(school.db, tokenIn(own?.address ?? ''), 'a password of my own', 'new', begins + minute),
    );
    expect(sessionsOf(student)).toEqual([]);
    expect(
      must(listPeople(teacher(), school.courseId)).people.find((one) => one.userId === student.userId)?.cameIn,
    ).toBe(true);
    // The address of before, still in a mailbox or on paper, opens nothing any more.
    expect(invitedPerson(school.db, tokenIn(first?.address ?? ''), begins + minute)).toBeNull();
    const stored = JSON.stringify(school.db.$client.prepare('select * from audit').all());
    for (const { address } of slips) expect(stored).not.toContain(tokenIn(address));
  });

  it('is not given to a course for an account that works elsewhere', () => {
    const { teacher: colleague, courseId: other } = school.elsewhere;
    const email = 'colleague@school.example';
    const { userId } = must(
      addPerson(teacher(), school.courseId, {
        name: 'Col League',
        email,
        role: 'student',
        studentNumber: '',
        section: '',
      }),
    );
    const person = { userId, name: 'Col League' };
    must(inviteAgain(teacher(), school.courseId, [memberOf(person)]));
    must(
      addPerson(school.as(colleague, minute), other, {
        name: 'Col League',
        email,
        role: 'marker',
        studentNumber: '',
        section: '',
      }),
    );
    const own = school.db.select().from(membership).where(eq(membership.userId, userId)).all();
    const here = own.find((one) => one.courseId === school.courseId)?.id ?? '';
    expect(refusal(inviteAgain(teacher(), school.courseId, [here]))).toBe('conflict');
    const mixed = must(inviteAgain(teacher(), school.courseId, [here, memberOf(student)]));
    expect([mixed.slips.map((one) => one.name), mixed.refused]).toEqual([[student.name], ['Col League']]);
    // Who teaches there may.
    const there = must(listPeople(school.as(colleague, minute), other)).offers[0]?.offerId ?? '';
    expect(must(offerAgain(school.as(colleague, minute), other, there)).slips).toHaveLength(1);
    expect(refusal(offerAgain(teacher(), school.courseId, there))).toBe('not-found');
  });

  it('stands in no list of messages', () => {
    must(
      addPerson(teacher(), school.courseId, {
        name: 'New',
        email: 'new@school.example',
        role: 'student',
        studentNumber: '',
        section: '',
      }),
    );
    const [message] = must(listOutbox(teacher(), school.courseId)).messages;
    expect(message?.body).toMatch(/invitation\/… \(only in the message itself\)$/);
  });
});

describe('signing in', () => {
  const here = '10.0.0.1';

  it('is slowed down for one account from one address, never for a whole class behind it, and never for good', () => {
    const tries = signInTries();
    for (let i = 0; i < 300; i++) tries.failed(`student${i}@x.example`, here, begins);
    expect(tries.wait('student1@x.example', here, begins)).toBe(0);
    for (let i = 0; i < 20; i++) tries.failed('a@x.example', here, begins);
    expect(tries.wait('a@x.example', here, begins)).toBe(60_000);
    expect(tries.wait('a@x.example', here, begins + 60_000)).toBe(0);
    expect(tries.wait('a@x.example', '10.0.0.2', begins)).toBe(0);
    tries.succeeded('a@x.example', here);
    expect(tries.wait('a@x.example', here, begins)).toBe(0);
    tries.failed('a@x.example', here, begins);
    for (let i = 0; i < 9; i++) tries.failed('a@x.example', '10.0.0.7', begins);
    tries.forgive('a@x.example');
    expect(tries.wait('a@x.example', '10.0.0.7', begins)).toBe(0);
  });

  it('knows a browser by what the house has signed, for the accounts that came in by it, the last eight', () => {
    const cookies = (cookie: string) => new Headers({ cookie: `other=1; ${cookie}` });
    let headers = new Headers();
    for (let i = 0; i < 9; i++) {
      const set = knownCookie(school.db, `student${i}@x.example`, headers);
      expect(set).toMatch(/; Path=\/api\/sign-in; HttpOnly; SameSite=Lax/);
      headers = cookies(set.split(';')[0] as string);
    }
    const known = Array.from({ length: 9 }, (_, i) => isKnown(school.db, `student${i}@x.example`, headers));
    expect(known).toEqual([false, ...Array(8).fill(true)]);
    expect(isKnown(school.db, 'student1@x.example', cookies('wuzzen.known=made-up'))).toBe(false);
  });

  it('checks passwords in two lanes, so that who is known does not wait for who may be guessing', async () => {
    const inLane = lanes(2, 3);
    const order: string[] = [];
    const open: (() => void)[] = [];
    const check = (lane: 'known' | 'unknown', name: string) =>
      inLane(lane, async () => {
        order.push(name);
        await new Promise<void>((resolve) => open.push(resolve));
        return name;
      });
    const guesses = Array.from({ length: 8 }, (_, i) => check('unknown', `guess ${i}`));
    const honest = check('known', 'honest');
    expect(order).toEqual(['guess 0', 'guess 1', 'honest']);
    open.pop()?.();
    expect(await honest).toBe('honest');
    for (let i = 0; i < 5; i++) {
      await new Promise((resolve) => setImmediate(resolve));
      while (open.length) open.pop()?.();
    }
    expect(await Promise.all(guesses)).toEqual([0, 1, 2, 3, 4].map((i) => `guess ${i}`).concat(Array(3).fill(null)));
  });
});
