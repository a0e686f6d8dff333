import { and, eq } from 'drizzle-orm';
import { beforeEach, describe, expect, it } from 'vitest';
import { second } from '@/core/base/time';
import type { RoundRules } from '@/core/round/roundRules';
import { usualRound } from '@/core/round/roundRules';
import { attempt, handset, mark, membership, paperSlot, response, sitting } from '@/db/schema';
import { handInExpired } from '../attempt/endAttempt';
import { handIn } from '../attempt/handIn';
import { saveResponses } from '../attempt/saveResponses';
import { startAttempt } from '../attempt/startAttempt';
import { openForWriting } from '../attempt/takeAttempt';
import { myExams } from '../desk/myExams';
import { openExam, saveExam } from '../exam/exams';
import type { Actor } from '../house/context';
import { sittingOf } from '../records/audience';
import { roundOf } from '../records/roundOf';
import { resultsOf } from '../release/results';
import { begins, must, refusal, School } from '../testing/school';
import { undoChange } from '../undoChange';
import { askedOverRounds, groupToSection, listRounds, seeAfter, seeGroups } from './after';
import { beginRound, changeRound } from './beginRound';
import { comeIn, lookAtDoor } from './comeIn';
import { seeOwnRound, watchOwnRound } from './device';
import { changeDoor, doorOf } from './doors';
import { seeRound } from './grid';
import { leadRound, stopRound, walkThrough } from './lead';
import { askAnother, askNow, giveKey } from './onTheSpot';
import { matchNames, renameDevice, seeMatching, sendOut } from './people';
import { seeWall } from './wall';

let school: School;
let instructor: Actor;
let address = 0;

beforeEach(() => {
  school = new School();
  instructor = school.teacher;
  address += 1;
});

const here = () => `10.0.0.${address}`;

/** Begins a round of a fresh exam of three questions. */
function begin(rules: Partial<RoundRules> = {}, count = 3) {
  const ids = school.questions(count);
  const examId = school.exam(ids.map((questionId) => school.fixed(questionId)));
  const { sittingId } = must(
    beginRound(school.as(instructor), school.courseId, { examId, rules: { ...usualRound, ...rules } }),
  );
  return { sittingId, code: doorOf(school.db, school.courseId) ?? '' };
}

const door = (at: { actor?: Actor | null; later?: number; address?: string } = {}) => ({
  db: school.db,
  now: begins + (at.later ?? 0),
  address: at.address ?? here(),
  actor: at.actor ?? null,
});

/** Somebody who came in by a name. */
type Came = {
  actor: Actor;
  attemptId: string;
  slots: (typeof paperSlot.$inferSelect)[];
  epoch: number;
  sequence: number;
};

function enter(round: { sittingId: string; code: string }, name: string, more: object = {}, later = 0): Came {
  const came = must(comeIn(door({ later }), { ...round, name, ...more }));
  return opened(came.attemptId, { userId: came.letIn ?? '', name }, later);
}

function opened(attemptId: string, actor: Actor, later = 0): Came {
  const { epoch } = must(openForWriting(school.as(actor, later), attemptId));
  return { actor, attemptId, slots: slotsOf(attemptId), epoch, sequence: 0 };
}

const slotsOf = (attemptId: string) =>
  school.db.select().from(paperSlot).where(eq(paperSlot.attemptId, attemptId)).orderBy(paperSlot.position).all();

/** The key under which a paper shows a choice. */
const pick = (came: Came, place: number, choice: string) => ({
  picked: came.slots[place]?.presentation.choices?.find((one) => one.id === choice)?.key ?? '',
});

function save(came: Came, place: number, value: unknown, { vote = 1, later = 0 } = {}) {
  came.sequence += 1;
  return saveResponses(school.db, [
    {
      context: school.as(came.actor, later),
      save: {
        attemptId: came.attemptId,
        slotId: came.slots[place]?.id ?? '',
        epoch: came.epoch,
        sequence: came.sequence,
        value,
        comeBack: false,
        vote,
      },
    },
  ])[0] as ReturnType<typeof saveResponses>[number];
}

const lead = (sittingId: string, kind: 'open' | 'open-again' | 'close' | 'show', question: number, later = 0) =>
  leadRound(school.as(instructor, later), school.courseId, sittingId, { kind, question });

const stop = (sittingId: string, later = 0) => stopRound(school.as(instructor, later), school.courseId, sittingId);

describe('coming in', () => {
  it('lets in by a typed name, starts the paper in the same request, and goes on in the same browser', () => {
    const round = begin();
    const ana = enter(round, 'Ana Ruiz');
    expect(ana.slots).toHaveLength(3);
    const again = must(comeIn(door({ actor: ana.actor }), { ...round, name: 'whatever' }));
    expect(again).toMatchObject({ attemptId: ana.attemptId, letIn: null });
  });

  it('parts two of one name, and goes on elsewhere only with the four digits of the first', () => {
    const round = begin();
    const ana = enter(round, 'Ana Ruiz');
    const same = comeIn(door(), { ...round, name: ' ana  RUIZ ' });
    expect(same).toMatchObject({ ok: false, problems: [{ code: 'conflict', field: 'name' }] });
    const digits = school.db.select().from(handset).where(eq(handset.userId, ana.actor.userId)).get()?.wayBack ?? '';
    const wrong = digits === '1000' ? '1001' : '1000';
    expect(refusal(comeIn(door(), { ...round, name: 'Ana Ruiz', wayBack: wrong }))).toBe('not-allowed');
    expect(must(comeIn(door(), { ...round, name: 'Ana Ruiz', wayBack: digits }))).toMatchObject({
      attemptId: ana.attemptId,
      letIn: ana.actor.userId,
    });
    for (let i = 0; i < 8; i++) comeIn(door(), { ...round, name: 'Ana Ruiz', wayBack: wrong });
    expect(refusal(comeIn(door(), { ...round, name: 'Ana Ruiz', wayBack: digits }))).toBe('busy');
  });

  it('refuses a name that is empty, endless, or only looks like one, and shows markup as what it is', () => {
    const round = begin();
    for (const name of ['', '   ', '\u200b\u202e', 'x'.repeat(500)])
      expect(refusal(comeIn(door(), { ...round, name })), JSON.stringify(name)).toBe('bad-input');
    const came = enter(round, '<b>Bo</b>\u202e');
    const shown = must(seeRound(school.as(instructor), school.courseId, round.sittingId)).people;
    expect(shown.find((one) => one.userId === came.actor.userId)?.name).toBe('<b>Bo</b>');
  });

  it('lets in by a student number on the roster only, and gives what was written to its person at the end', () => {
    const round = begin({ comingIn: 'number', counts: 'score' });
    const [student] = school.students as [Actor];
    school.db.update(membership).set({ studentNumber: 'N-17' }).where(eq(membership.userId, student.userId)).run();
    expect(refusal(comeIn(door(), { ...round, number: 'N-99' }))).toBe('not-found');
    expect(refusal(comeIn(door(), { ...round, number: '' }))).toBe('bad-input');
    const came = must(comeIn(door(), { ...round, number: ' n-17 ' }));
    const device = opened(came.attemptId, { userId: came.letIn ?? '', name: student.name });
    expect(comeIn(door(), { ...round, number: 'N-17' })).toMatchObject({ problems: [{ field: 'wayBack' }] });
    must(lead(round.sittingId, 'open', 0));
    must(save(device, 0, pick(device, 0, 'c0')));
    must(stop(round.sittingId));
    handInExpired(school.as(instructor, 10 * second));
    const row = school.db.select().from(attempt).where(eq(attempt.id, device.attemptId)).get();
    expect(row).toMatchObject({ userId: student.userId, cameAs: device.actor.userId, state: 'handed-in' });
    // The device goes on seeing what it wrote.
    expect(must(seeOwnRound(school.as(device.actor, 11 * second), round.sittingId)).stopped).toBe(true);
  });

  it('knows whoever is signed in, and asks nobody of the roster for a name', () => {
    const round = begin();
    const [student] = school.students as [Actor];
    expect(must(lookAtDoor(door({ actor: student }), round.code)).rounds).toMatchObject([{ asks: null, isIn: false }]);
    const came = must(comeIn(door({ actor: student }), round));
    expect(came.letIn).toBeNull();
    expect(must(lookAtDoor(door({ actor: student }), round.code)).rounds).toMatchObject([{ isIn: true }]);
    expect(comeIn(door(), { ...round, name: student.name })).toMatchObject({ problems: [{ field: 'name' }] });
  });

  it('leads whoever is on the roster there while it is open, and says nothing of it to who was not there', () => {
    const [there, away] = school.students as [Actor, Actor];
    const round = begin();
    begin({ comingIn: 'nameless' });
    const mine = (actor: Actor, later = 0) => myExams(school.as(actor, later)).map((one) => [one.sittingId, one.door]);
    expect(mine(there)).toEqual([[round.sittingId, round.code]]);
    must(comeIn(door({ actor: there }), round));
    must(stop(round.sittingId, second));
    handInExpired(school.as(instructor, 10 * second));
    expect(mine(there, 11 * second)).toEqual([[round.sittingId, null]]);
    expect(mine(away, 11 * second)).toEqual([]);
  });

  it('keeps names out of a round without names, also of whoever is signed in', () => {
    const round = begin({ comingIn: 'nameless', counts: 'score' });
    const [student] = school.students as [Actor];
    expect(school.db.select().from(sitting).where(eq(sitting.id, round.sittingId)).get()?.counts).toBe('no');
    expect(refusal(startAttempt(school.as(student), round.sittingId))).toBe('not-allowed');
    const came = must(comeIn(door({ actor: student }), round));
    expect(came.letIn).not.toBeNull();
    const people = must(seeRound(school.as(instructor), school.courseId, round.sittingId)).people;
    expect(people.map((one) => one.name)).toEqual(['Device 1']);
  });

  it('leads nowhere by a code that is wrong or was changed, and keeps whoever tries codes through waiting', () => {
    const round = begin();
    expect(refusal(lookAtDoor(door({ address: 'mistyped' }), 'AAAAAA'))).toBe('not-found');
    expect(refusal(lookAtDoor(door({ address: 'mistyped' }), ''))).toBe('bad-input');
    const spaced = `${round.code.slice(0, 3).toLowerCase()} - ${round.code.slice(3)}`;
    expect(must(lookAtDoor(door({ address: 'mistyped' }), spaced)).code).toBe(round.code);
    const { code } = must(changeDoor(school.as(instructor), school.courseId));
    expect(lookAtDoor(door({ address: 'old' }), round.code)).toMatchObject({
      problems: [{ code: 'not-found', message: expect.stringContaining('changed') }],
    });
    for (let i = 0; i < 61; i++) lookAtDoor(door({ address: 'script' }), 'HHHHH9');
    expect(refusal(lookAtDoor(door({ address: 'script' }), code))).toBe('busy');
    // Elsewhere, and in a room in which the door was opened before, nobody waits because of it.
    expect(must(lookAtDoor(door({ address: 'elsewhere' }), code)).code).toBe(code);
    for (let i = 0; i < 61; i++) lookAtDoor(door({ address: 'elsewhere' }), 'HHHHH9');
    expect(must(lookAtDoor(door({ address: 'elsewhere' }), code)).code).toBe(code);
  });

  it('asks which, where several rounds are open at once', () => {
    const one = begin();
    const two = begin({ pace: 'own' });
    const { rounds } = must(lookAtDoor(door(), one.code));
    expect(rounds.map((open) => open.sittingId).sort()).toEqual([one.sittingId, two.sittingId].sort());
    const later = must(lookAtDoor(door({ later: 90 * second }), one.code));
    expect(later.rounds.map((open) => open.begun)).toEqual(['begun 1 min ago', 'begun 1 min ago']);
  });

  it('renames and sends out', () => {
    const round = begin();
    const rude = enter(round, 'Rude');
    must(renameDevice(school.as(instructor), school.courseId, round.sittingId, rude.actor.userId, 'Ann'));
    expect(must(seeOwnRound(school.as({ ...rude.actor, name: 'Ann' }), round.sittingId)).name).toBe('Ann');
    must(lead(round.sittingId, 'open', 0));
    must(sendOut(school.as(instructor), school.courseId, round.sittingId, rude.actor.userId));
    expect(refusal(save(rude, 0, pick(rude, 0, 'c0')))).not.toBe('accepted');
    expect(refusal(seeOwnRound(school.as(rude.actor), round.sittingId))).toBe('not-found');
    expect(must(seeRound(school.as(instructor), school.courseId, round.sittingId)).people).toEqual([]);
    enter(round, 'Ann');
  });
});

describe('the grid', () => {
  it('shows each their own paper, whatever was drawn for others', () => {
    school.questions(6);
    const examId = school.exam([school.draw(2)]);
    const rules = { ...usualRound, pace: 'own' as const };
    const { sittingId } = must(beginRound(school.as(instructor), school.courseId, { examId, rules }));
    const round = { sittingId, code: doorOf(school.db, school.courseId) ?? '' };
    const people = ['Ana', 'Bo', 'Cy'].map((name) => enter(round, name));
    const [ana] = people as [Came];
    must(save(ana, 1, pick(ana, 1, 'c0')));
    const grid = must(seeRound(school.as(instructor), school.courseId, sittingId)).people;
    expect(grid.map((one) => [one.name, one.signs])).toEqual([
      ['Ana', '.r'],
      ['Bo', '..'],
      ['Cy', '..'],
    ]);
  });

  it('says for whom one waits, in the vote that is open', () => {
    const round = begin();
    const ana = enter(round, 'Ana');
    const waits = () => must(seeRound(school.as(instructor), school.courseId, round.sittingId)).people[0]?.answeredNow;
    expect(waits()).toBeNull();
    must(lead(round.sittingId, 'open', 0));
    expect(waits()).toBe(false);
    must(save(ana, 0, pick(ana, 0, 'c1')));
    expect(waits()).toBe(true);
    must(lead(round.sittingId, 'close', 0));
    must(lead(round.sittingId, 'open-again', 0));
    expect(waits()).toBe(false);
  });

  it('tells a device that is sent out so, once, and goes on telling the others', async () => {
    const round = begin();
    const [ana, bo] = [enter(round, 'Ana'), enter(round, 'Bo')];
    const seen: Record<string, unknown[]> = { ana: [], bo: [] };
    for (const [name, one] of Object.entries({ ana, bo })) {
      const watch = must(watchOwnRound(school.as(one.actor), round.sittingId));
      watch(
        (now) => seen[name]?.push(now && (now.question?.phase ?? 'waits')),
        () => seen[name]?.push('end'),
      );
    }
    const turn = () => new Promise((resolve) => setImmediate(() => setImmediate(resolve)));
    must(sendOut(school.as(instructor), school.courseId, round.sittingId, ana.actor.userId));
    await turn();
    must(lead(round.sittingId, 'open', 0));
    await turn();
    expect(seen.ana?.slice(0, 3)).toEqual(['waits', null, 'end']);
    expect(seen.bo).toEqual(['waits', 'open']);
  });
});

describe('leading', () => {
  it('takes an answer only for the open question, in its vote, and keeps each vote', () => {
    const round = begin();
    const ana = enter(round, 'Ana');
    expect(save(ana, 0, pick(ana, 0, 'c1'))).toMatchObject({ ok: false, problems: [{ code: 'too-late' }] });
    must(lead(round.sittingId, 'open', 0));
    must(save(ana, 0, pick(ana, 0, 'c1')));
    expect(refusal(save(ana, 1, pick(ana, 1, 'c0')))).toBe('too-late');
    must(lead(round.sittingId, 'close', 0));
    expect(refusal(save(ana, 0, pick(ana, 0, 'c0')))).toBe('too-late');
    must(lead(round.sittingId, 'open-again', 0));
    expect(refusal(save(ana, 0, pick(ana, 0, 'c0'), { vote: 1 }))).toBe('too-late');
    must(save(ana, 0, pick(ana, 0, 'c0'), { vote: 2 }));
    must(lead(round.sittingId, 'close', 0));
    const wall = must(seeWall(school.as(instructor), school.courseId, round.sittingId)).question;
    expect(wall?.bars.map((vote) => vote.bars.map((bar) => bar.count))).toEqual([
      [0, 1, 0, 0],
      [1, 0, 0, 0],
    ]);
    expect(wall?.movement).toEqual({ stayed: 0, moved: [{ from: 'B', to: 'A', count: 1 }] });
  });

  it.each([
    ['last', 1],
    ['first', 0],
  ] as const)('counts the %s of two answers', (vote, earned) => {
    const round = begin({ vote, counts: 'score' });
    const ana = enter(round, 'Ana');
    must(lead(round.sittingId, 'open', 0));
    must(save(ana, 0, pick(ana, 0, 'c1')));
    must(lead(round.sittingId, 'close', 0));
    must(lead(round.sittingId, 'open-again', 0));
    must(save(ana, 0, pick(ana, 0, 'c0'), { vote: 2 }));
    must(stop(round.sittingId));
    handInExpired(school.as(instructor, 10 * second));
    const row = sittingOf(school.db, school.courseId, round.sittingId);
    expect(row && resultsOf(school.db, row).get(ana.actor.userId)?.result.earned).toBe(earned);
  });

  it('keeps an answer of the first vote where nothing is given in the second', () => {
    const round = begin({ counts: 'score' });
    const ana = enter(round, 'Ana');
    must(lead(round.sittingId, 'open', 0));
    must(save(ana, 0, pick(ana, 0, 'c0')));
    must(lead(round.sittingId, 'close', 0));
    must(lead(round.sittingId, 'open-again', 0));
    must(stop(round.sittingId));
    const stored = school.db.select().from(response).where(eq(response.attemptId, ana.attemptId)).all();
    expect(stored.map((one) => one.value)).toEqual([pick(ana, 0, 'c0')]);
  });

  it('closes by itself when the time of a question is over', () => {
    const round = begin({ seconds: 30 });
    const ana = enter(round, 'Ana');
    must(lead(round.sittingId, 'open', 0));
    must(save(ana, 0, pick(ana, 0, 'c0'), { later: 29 * second }));
    expect(refusal(save(ana, 0, pick(ana, 0, 'c1'), { later: 30 * second }))).toBe('too-late');
    must(lead(round.sittingId, 'show', 0, 31 * second));
  });

  it('takes what was on its way when it was stopped, and nothing after three seconds; stopped twice it stays', () => {
    const round = begin();
    const ana = enter(round, 'Ana');
    must(lead(round.sittingId, 'open', 0));
    must(stop(round.sittingId, 10 * second));
    must(save(ana, 0, pick(ana, 0, 'c0'), { later: 12 * second }));
    must(stop(round.sittingId, 20 * second));
    expect(roundOf(school.db, round.sittingId)?.stoppedAt).toBe(begins + 10 * second);
    expect(refusal(save(ana, 0, pick(ana, 0, 'c1'), { later: 14 * second }))).toBe('too-late');
    handInExpired(school.as(instructor, 20 * second));
    expect(refusal(save(ana, 0, pick(ana, 0, 'c1'), { later: 21 * second }))).toBe('too-late');
    expect(school.db.select().from(attempt).where(eq(attempt.id, ana.attemptId)).get()).toMatchObject({
      state: 'handed-in',
      endedAt: begins + 10 * second,
    });
    expect(refusal(comeIn(door({ later: 21 * second }), { ...round, name: 'Bo' }))).toBe('too-late');
  });

  it('goes on from another device, and does nothing twice', () => {
    const round = begin();
    must(lead(round.sittingId, 'open', 0));
    must(lead(round.sittingId, 'open', 0, second));
    expect(roundOf(school.db, round.sittingId)?.led?.questions[0]?.openedAt).toBe(begins);
    expect(refusal(lead(round.sittingId, 'open', 1))).toBe('conflict');
    expect(refusal(lead(round.sittingId, 'show', 0))).toBe('conflict');
    expect(refusal(lead(round.sittingId, 'open', 7))).toBe('conflict');
  });

  it('has nothing to hand in, and gives nothing of a question away before it is opened', () => {
    const round = begin();
    const ana = enter(round, 'Ana');
    expect(refusal(handIn(school.as(ana.actor), ana.attemptId, {}))).toBe('conflict');
    const { slots } = must(openForWriting(school.as(ana.actor), ana.attemptId));
    expect(slots.map((slot) => slot.view)).toEqual([null, null, null]);
    must(lead(round.sittingId, 'open', 0));
    const then = must(openForWriting(school.as(ana.actor), ana.attemptId));
    expect(then.slots.map((slot) => slot.view !== null)).toEqual([true, false, false]);
  });

  it('shows a latecomer the phase as it is', () => {
    const round = begin();
    must(lead(round.sittingId, 'open', 1));
    const late = enter(round, 'Late');
    expect(must(seeOwnRound(school.as(late.actor), round.sittingId)).question).toMatchObject({ at: 1, phase: 'open' });
  });

  it('stays as it was begun when its exam is changed meanwhile', () => {
    const round = begin();
    const examId = sittingOf(school.db, school.courseId, round.sittingId)?.examId ?? '';
    const { design, edit, title } = must(openExam(school.as(instructor), school.courseId, examId));
    const parts = design.parts.map((part) => ({ ...part, lines: part.lines.slice(0, 1) }));
    must(saveExam(school.as(instructor), school.courseId, examId, { title, edit, design: { ...design, parts } }));
    expect(enter(round, 'Ana').slots).toHaveLength(3);
  });
});

describe('what is told to whom', () => {
  it('tells one’s own answer and what is right only once it is shown, and only where that is learnt then', () => {
    for (const learning of ['each', 'last', 'stop', 'never'] as const) {
      const round = begin({ learning });
      const ana = enter(round, 'Ana');
      must(lead(round.sittingId, 'open', 0));
      must(save(ana, 0, pick(ana, 0, 'c1')));
      const seen = () => must(seeOwnRound(school.as(ana.actor), round.sittingId));
      expect(seen().own, learning).toBeNull();
      must(lead(round.sittingId, 'close', 0));
      expect(seen().own, learning).toBeNull();
      must(lead(round.sittingId, 'show', 0));
      if (learning === 'each') expect(seen().own).toMatchObject({ outcome: 'wrong', given: 'B', right: 'A: right' });
      else expect(seen().own, learning).toBeNull();
    }
  });

  it('shows bars only once a question is closed, and none while it is asked again', () => {
    const round = begin();
    const ana = enter(round, 'Ana');
    const wall = () => must(seeWall(school.as(instructor), school.courseId, round.sittingId)).question;
    must(lead(round.sittingId, 'open', 0));
    must(save(ana, 0, pick(ana, 0, 'c1')));
    expect(wall()).toMatchObject({ answered: 1, asked: 1, bars: [], right: '' });
    must(lead(round.sittingId, 'close', 0));
    expect(wall()?.bars[0]?.bars.map((bar) => bar.outcome)).toEqual([null, null, null, null]);
    must(lead(round.sittingId, 'open-again', 0));
    expect(wall()).toMatchObject({ answered: 0, bars: [] });
    must(lead(round.sittingId, 'close', 0));
    must(lead(round.sittingId, 'show', 0));
    expect(wall()?.bars[1]?.bars.map((bar) => bar.outcome)).toEqual(['right', 'wrong', 'wrong', 'wrong']);
    expect(wall()?.right).toBe('A: right');
  });

  it('lets devices follow while it is talked through', () => {
    const round = begin({ pace: 'own', learning: 'stop' });
    const ana = enter(round, 'Ana');
    must(save(ana, 0, pick(ana, 0, 'c0')));
    expect(refusal(walkThrough(school.as(instructor), school.courseId, round.sittingId, 0))).toBe('conflict');
    must(stop(round.sittingId));
    handInExpired(school.as(instructor, 10 * second));
    must(walkThrough(school.as(instructor, 10 * second), school.courseId, round.sittingId, 0));
    expect(must(seeOwnRound(school.as(ana.actor, 11 * second), round.sittingId)).walked).toMatchObject({
      number: 1,
      own: { outcome: 'right' },
    });
  });
});

describe('afterwards', () => {
  it('matches typed names to the roster in one step, and takes that back', () => {
    const round = begin({ pace: 'own', counts: 'score' });
    const [student] = school.students as [Actor];
    const typed = enter(round, student.name.toUpperCase());
    must(save(typed, 0, pick(typed, 0, 'c0')));
    must(stop(round.sittingId));
    handInExpired(school.as(instructor, 10 * second));
    const at = school.as(instructor, 20 * second);
    const { proposals } = must(seeMatching(at, school.courseId, round.sittingId));
    expect(proposals).toMatchObject([{ typed: student.name.toUpperCase(), proposed: student.userId }]);
    const pairs = [{ guestId: typed.actor.userId, userId: student.userId }];
    const { undo } = must(matchNames(at, school.courseId, round.sittingId, pairs));
    const earned = (userId: string) => {
      const row = sittingOf(school.db, school.courseId, round.sittingId);
      return row && resultsOf(school.db, row).get(userId)?.result.earned;
    };
    expect([earned(student.userId), earned(typed.actor.userId)]).toEqual([1, undefined]);
    expect(must(seeMatching(at, school.courseId, round.sittingId)).matched).toMatchObject([{ name: student.name }]);
    expect(refusal(matchNames(at, school.courseId, round.sittingId, pairs))).toBe('conflict');
    must(undoChange(at, school.courseId, undo));
    expect([earned(student.userId), earned(typed.actor.userId)]).toEqual([undefined, 1]);
  });

  it('lists the rounds of a course with their means, and the same questions over them', () => {
    const ids = school.questions(2);
    const examId = school.exam(ids.map((questionId) => school.fixed(questionId)));
    const code = () => doorOf(school.db, school.courseId) ?? '';
    const hold = (rights: number, later: number) => {
      const rules = { ...usualRound, pace: 'own' as const };
      const { sittingId } = must(beginRound(school.as(instructor, later), school.courseId, { examId, rules }));
      for (const name of ['Ana', 'Bo']) {
        const one = enter({ sittingId, code: code() }, name, {}, later);
        for (let place = 0; place < 2; place++)
          must(save(one, place, pick(one, place, place < rights ? 'c0' : 'c1'), { later: later + second }));
      }
      must(stop(sittingId, later + 10 * second));
      handInExpired(school.as(instructor, later + 20 * second));
      return sittingId;
    };
    const [first, last] = [hold(1, 0), hold(2, 60 * second)];
    const open = begin();
    const rounds = must(listRounds(school.as(instructor, 120 * second), school.courseId));
    expect(rounds.map((one) => [one.sittingId, one.people, one.mean])).toEqual([
      [open.sittingId, 0, null],
      [last, 2, 100],
      [first, 2, 50],
    ]);
    const over = must(askedOverRounds(school.as(instructor, 120 * second), school.courseId));
    expect(over.map((one) => one.rounds.map((round) => [round.sittingId, round.mean])).sort()).toEqual(
      [
        [
          [last, 100],
          [first, 0],
        ],
        [
          [last, 100],
          [first, 100],
        ],
      ].sort(),
    );
  });

  it('groups those who took part by what they gave, and makes a section of those on the roster', () => {
    const round = begin({ pace: 'own' });
    const [student] = school.students as [Actor];
    const came = must(comeIn(door({ actor: student }), round));
    const own = opened(came.attemptId, student);
    must(save(own, 0, pick(own, 0, 'c0')));
    const guest = enter(round, 'Guest');
    const groups = must(
      seeGroups(school.as(instructor), school.courseId, round.sittingId, { size: 1, by: 'result', kind: 'alike' }),
    );
    expect(groups.groups.map((one) => one.members.map(({ name, percent }) => [name, Math.round(percent)]))).toEqual([
      [['Guest', 0]],
      [[student.name, 33]],
    ]);
    const make = (name: string, userIds: string[]) =>
      groupToSection(school.as(instructor), school.courseId, round.sittingId, { name, userIds });
    expect(refusal(make('Again', [guest.actor.userId]))).toBe('conflict');
    expect(must(make('Again', [guest.actor.userId, student.userId]))).toEqual({ moved: 1 });
    expect(refusal(make('again', [student.userId]))).toBe('conflict');
  });

  it('keeps what made-up handsets did out of results, and shows it only where there is nothing else', () => {
    const round = begin({ counts: 'score' });
    school.db.run(`update round set made_up_key = 'k' where sitting_id = '${round.sittingId}'`);
    expect(refusal(comeIn(door(), { ...round, name: 'Made-up 1', madeUp: 'other' }))).toBe('not-allowed');
    const made = enter(round, 'Made-up 1', { madeUp: 'k' });
    must(lead(round.sittingId, 'open', 0));
    must(save(made, 0, pick(made, 0, 'c0')));
    expect(must(seeWall(school.as(instructor), school.courseId, round.sittingId))).toMatchObject({
      cameIn: 1,
      madeUp: 1,
    });
    must(stop(round.sittingId));
    handInExpired(school.as(instructor, 10 * second));
    const row = sittingOf(school.db, school.courseId, round.sittingId);
    expect(row && resultsOf(school.db, row).get(made.actor.userId)).toBeUndefined();
    expect(school.db.select().from(mark).all()).toEqual([]);
    const after = must(seeAfter(school.as(instructor, 20 * second), school.courseId, round.sittingId));
    expect(after).toMatchObject({ people: 0, madeUp: 1, withMadeUp: true });
    expect(after.questions[0]?.bars[0]?.answered).toBe(1);
  });

  it('changes what counts and what is learnt while it goes on', () => {
    const round = begin();
    must(changeRound(school.as(instructor), school.courseId, round.sittingId, { counts: 'score', learning: 'stop' }));
    const row = sittingOf(school.db, school.courseId, round.sittingId);
    expect(row).toMatchObject({ counts: 'score' });
    expect(Object.keys(row?.releasePlan ?? {})).toContain('right-answers');
  });
});

describe('on the spot', () => {
  it('asks at once, asks on, and scores by a key that is given afterwards', () => {
    const at = (later = 0) => school.as(instructor, later);
    const { sittingId } = must(
      askNow(at(), school.courseId, { type: 'single-choice', choices: 4, text: 'Which tack?' }),
    );
    const round = { sittingId, code: doorOf(school.db, school.courseId) ?? '' };
    const ana = enter(round, 'Ana');
    expect(must(seeOwnRound(school.as(ana.actor), sittingId)).question).toMatchObject({ at: 0, phase: 'open' });
    must(save(ana, 0, pick(ana, 0, 'c1')));
    expect(refusal(askAnother(at(), school.courseId, sittingId, { type: 'true-false', choices: 2 }))).toBe('conflict');
    must(lead(sittingId, 'close', 0, second));
    must(askAnother(at(second), school.courseId, sittingId, { type: 'numeric', choices: 4 }));
    ana.slots = slotsOf(ana.attemptId);
    expect(ana.slots).toHaveLength(2);
    must(save(ana, 1, { text: '12' }, { later: second }));
    must(stop(sittingId, 2 * second));
    handInExpired(at(10 * second));
    expect(school.db.select().from(mark).all()).toEqual([]);
    must(giveKey(at(20 * second), school.courseId, sittingId, { question: 0, key: 'B' }));
    must(giveKey(at(21 * second), school.courseId, sittingId, { question: 1, key: '13' }));
    const points = () =>
      school.db
        .select({ points: mark.points })
        .from(mark)
        .innerJoin(paperSlot, eq(paperSlot.id, mark.slotId))
        .where(and(eq(paperSlot.attemptId, ana.attemptId), eq(mark.outdated, false)))
        .orderBy(paperSlot.position)
        .all()
        .map((one) => one.points);
    expect(points()).toEqual([1, 0]);
    must(giveKey(at(22 * second), school.courseId, sittingId, { question: 1, key: '12' }));
    expect(points()).toEqual([1, 1]);
    expect(refusal(giveKey(at(23 * second), school.courseId, sittingId, { question: 0, key: 'Q' }))).toBe('bad-input');
  });
});
